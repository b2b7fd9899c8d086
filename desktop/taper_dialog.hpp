#pragma once
#include <QDialog>

class QLabel;
class QLineEdit;

namespace kollema::desktop {

/// Taper and angle: what is typed as a ratio, an angle, or both is shown in every form; figures that
/// contradict each other are named.
class TaperDialog : public QDialog {
    Q_OBJECT
public:
    explicit TaperDialog(QWidget* parent = nullptr);

private:
    void show_taper();
    QLineEdit* typed_;
    QLabel *answer_, *warning_;
};

}
