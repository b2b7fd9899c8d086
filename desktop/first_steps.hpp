#pragma once
#include <QWidget>

class QLabel;
class QPushButton;

namespace kollema::desktop {

/// What an empty project offers to press: the demo, a first part, a file; then how its parts are joined.
class FirstSteps : public QWidget {
    Q_OBJECT
public:
    explicit FirstSteps(QWidget* parent = nullptr);
    void show_parts(std::size_t count); ///< of the project, which has no joint yet

signals:
    void demo_wished();
    void part_wished();
    void file_wished();
    void joining_wished();

private:
    QLabel* words_;
    QPushButton *demo_, *part_, *file_, *join_;
};

}
