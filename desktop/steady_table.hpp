#pragma once
#include <QAbstractItemDelegate>
#include <QTableWidget>

namespace kollema::desktop {

/// A table that knows whether somebody types into one of its cells: whoever fills it anew waits till then.
class SteadyTable : public QTableWidget {
    Q_OBJECT
public:
    using QTableWidget::QTableWidget;

    bool is_typed_into() const { return state() == EditingState; }
    bool is_typed_into(int row, int column) const {
        return is_typed_into() && currentRow() == row && currentColumn() == column;
    }

signals:
    void typing_ended();

protected:
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override {
        QTableWidget::closeEditor(editor, hint);
        if (!is_typed_into()) emit typing_ended();
    }
};

}
