#pragma once
#include "quantity/working.hpp"
#include <QDialog>

class QTableWidget;

namespace kollema::desktop {

/// "Show working": every step with formula, figures, value and source; the table can be copied as CSV.
class WorkingDialog : public QDialog {
    Q_OBJECT
public:
    WorkingDialog(const QString& title, const Working& working, QWidget* parent = nullptr);

private:
    void copy_as_csv() const;
    QTableWidget* table_;
};

}
