#include "value_edit.hpp"
#include <QKeyEvent>

namespace kollema::desktop {

ValueEdit::ValueEdit(QWidget* parent) : QLineEdit(parent) {
    connect(this, &QLineEdit::editingFinished, this, &ValueEdit::commit);
}

void ValueEdit::show_value(const QString& text) {
    shown_ = text;
    if (isModified()) return;
    if (this->text() != text) setText(text);
}

void ValueEdit::commit() {
    if (!isModified()) return;
    setModified(false);
    const QString typed = text();
    emit committed(typed);
    // Where it was refused, or said in other words, what holds stands there again.
    if (!isModified() && this->text() != shown_) setText(shown_);
}

bool ValueEdit::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (!isModified() && (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo))) {
            event->ignore();
            return true;
        }
        if (isModified() && key->key() == Qt::Key_Escape) {
            event->accept(); // ours, before it closes a dialog
            return true;
        }
    }
    return QLineEdit::event(event);
}

void ValueEdit::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape || !isModified()) return QLineEdit::keyPressEvent(event);
    setModified(false);
    setText(shown_);
}

}

#include "moc_value_edit.cpp"
