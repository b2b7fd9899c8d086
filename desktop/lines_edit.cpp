#include "lines_edit.hpp"
#include <QApplication>
#include <QClipboard>
#include <QFocusEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>

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
    if (event->key() == Qt::Key_Escape && document()->isModified()) return put(shown_);
    const QMimeData* copied = QApplication::clipboard()->mimeData();
    if (event->matches(QKeySequence::Paste) && (!copied || copied->formats().isEmpty())) return;
    QPlainTextEdit::keyPressEvent(event);
}

/// As with the keys above: where nothing is selected anywhere, what the middle button would paste has no form
/// at all, and Qt 6.4 looks at its first one: the program would end.
void LinesEdit::mouseReleaseEvent(QMouseEvent* event) {
    const auto* clipboard = QApplication::clipboard();
    if (event->button() == Qt::MiddleButton && clipboard->supportsSelection()) {
        const QMimeData* selected = clipboard->mimeData(QClipboard::Selection);
        if (!selected || selected->formats().isEmpty()) return event->accept();
    }
    QPlainTextEdit::mouseReleaseEvent(event);
}

}

#include "moc_lines_edit.cpp"
