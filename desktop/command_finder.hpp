#pragma once
#include <QDialog>
#include <QList>

class QAction;
class QLineEdit;
class QListWidget;

namespace kollema::desktop {

/// Type some letters of what is wanted: commands and joints whose words hold them, Enter does the first.
class CommandFinder : public QDialog {
    Q_OBJECT
public:
    CommandFinder(const QList<QAction*>& actions, QWidget* parent = nullptr);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter();
    void take();
    QList<QAction*> actions_;
    QLineEdit* words_;
    QListWidget* list_;
};

}
