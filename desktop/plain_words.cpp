#include "plain_words.hpp"
#include <QEvent>
#include <QLabel>

namespace kollema::desktop {

/// Before a widget is shown for the first time; the label of a tip at its very beginning.
bool PlainWords::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Polish)
        if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
    return QObject::eventFilter(watched, event);
}

}
