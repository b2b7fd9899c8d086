#include "command_finder.hpp"
#include <QAction>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {

CommandFinder::CommandFinder(const QList<QAction*>& actions, QWidget* parent)
    : QDialog(parent),
      actions_(actions),
      words_(new QLineEdit(this)),
      list_(new QListWidget(this)) {
    setWindowTitle("What do you want to do?");
    resize(520, 360);
    words_->setObjectName("finder_words");
    words_->setPlaceholderText("Type a word: undo, dark, working, rail …");
    words_->setAccessibleName("Words of the command");
    list_->setAccessibleName("Commands found");
    auto* column = new QVBoxLayout(this);
    column->addWidget(words_);
    column->addWidget(list_);
    words_->installEventFilter(this);
    connect(words_, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(words_, &QLineEdit::returnPressed, this, &CommandFinder::take);
    connect(list_, &QListWidget::itemActivated, this, &CommandFinder::take);
    filter();
}

void CommandFinder::filter() {
    list_->clear();
    const QStringList wanted = words_->text().toLower().split(' ', Qt::SkipEmptyParts);
    for (int i = 0; i < actions_.size(); ++i) {
        const QAction* action = actions_[i];
        QString text = action->text();
        text.remove('&').remove(QStringLiteral("…"));
        const QString all = (text + " " + action->toolTip() + " " + action->data().toString()).toLower();
        if (!action->isEnabled() ||
            !std::ranges::all_of(wanted, [&](const QString& w) { return all.contains(w); }))
            continue;
        const QString keys = action->shortcut().toString(QKeySequence::NativeText);
        auto* item = new QListWidgetItem(keys.isEmpty() ? text : text + "    " + keys, list_);
        item->setData(Qt::UserRole, i);
    }
    list_->setCurrentRow(0);
}

void CommandFinder::take() {
    const auto* item = list_->currentItem();
    if (!item) return;
    QAction* action = actions_[item->data(Qt::UserRole).toInt()];
    accept();
    action->trigger();
}

/// Up and down move in the list while the letters go to the field.
bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
    if (watched == words_ && event->type() == QEvent::KeyPress) {
        const auto key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int next = list_->currentRow() + (key == Qt::Key_Down ? 1 : -1);
            list_->setCurrentRow(std::clamp(next, 0, std::max(0, list_->count() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

}
