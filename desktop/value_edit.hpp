#pragma once
#include <QKeyEvent>
#include <QLineEdit>

namespace kollema::desktop {

/// A field for a value.  While nothing is typed into it, undo and redo belong to the project, not to the
/// field's text.
class ValueEdit : public QLineEdit {
public:
    using QLineEdit::QLineEdit;

protected:
    bool event(QEvent* event) override {
        if (event->type() == QEvent::ShortcutOverride && !isModified()) {
            const auto* key = static_cast<QKeyEvent*>(event);
            if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
                event->ignore();
                return true;
            }
        }
        return QLineEdit::event(event);
    }
};

}
