#pragma once
#include "model/typed_pattern.hpp"
#include <QWidget>

class QComboBox;

namespace kollema::desktop {

class RowTable;
class ValueEdit;

/// What a typed pattern is of: its members and holes as two tables, and how all that lies and scatters.
class PatternForm : public QWidget {
    Q_OBJECT
public:
    explicit PatternForm(QWidget* parent = nullptr);
    void show_pattern(const TypedPattern& pattern);
    void edit_first_cell(); ///< for the keyboard: go on typing
    QWidget* holes() const; ///< the table of holes, for whoever shows the form to place

signals:
    void pattern_wished(const QString& what, const TypedPattern& pattern);
    void refused(const QString& message);

private:
    void take_fields();

    TypedPattern shown_;
    ValueEdit* name_;
    QComboBox *unit_, *located_, *positions_, *sizes_;
    RowTable *members_, *holes_;
};

}
