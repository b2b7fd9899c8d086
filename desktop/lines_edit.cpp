#include "lines_edit.hpp"
#include <QFocusEvent>
#include <QKeyEvent>

namespace kollema::desktop {

LinesEdit::LinesEdit(QWidget* parent) : QPlainTextEdit(parent) { setTabChangesFocus(true); }

void LinesEdit::put(const QString& text) {
    if (toPlainText() != text) setPlainText(text);
    document()->setModified(false);
}

void LinesEdit::show_value(const QString& text) {
    shown_ = text;
    if (!document()->isModified()) put(text);
}

void LinesEdit::commit() {
    if (!document()->isModified()) return;
    document()->setModified(false);
    emit committed();
    if (!document()->isModified()) put(shown_);
}

void LinesEdit::focusOutEvent(QFocusEvent* event) {
    QPlainTextEdit::focusOutEvent(event);
    if (event->reason() != Qt::PopupFocusReason) commit();
}

void LinesEdit::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape || !document()->isModified())
        return QPlainTextEdit::keyPressEvent(event);
    put(shown_);
}

void LinesEdit::insertFromMimeData(const QMimeData* source) {
    if (source) QPlainTextEdit::insertFromMimeData(source);
}

}

#include "moc_lines_edit.cpp"
