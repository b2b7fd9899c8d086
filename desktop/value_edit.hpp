#pragma once
#include <QLineEdit>

namespace kollema::desktop {

/// The field for whatever is typed.  What arrives while it is being typed into does not reset it; it says its
/// last word on Return, Tab, a click elsewhere and when it is asked to, and Esc takes back what was typed.
/// While nothing is typed into it, undo and redo belong to the project, not to the field's text.
class ValueEdit : public QLineEdit {
    Q_OBJECT
public:
    explicit ValueEdit(QWidget* parent = nullptr);

    void show_value(const QString& text); ///< what holds now
    void commit();                        ///< what was typed is said, if anything was

signals:
    void committed(const QString& text); ///< only where something was typed

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QString shown_;
};

}
