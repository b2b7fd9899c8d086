#include "command_finder.hpp"
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {

CommandFinder::CommandFinder(std::function<QList<Command>()> commands,
                             std::function<void(const QString&)> run, QWidget* parent)
    : QDialog(parent),
      commands_(std::move(commands)),
      run_(std::move(run)),
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
    for (const auto& command : commands_()) {
        const QString all = (command.text + " " + command.words).toLower();
        if (!std::ranges::all_of(wanted, [&](const QString& w) { return all.contains(w); })) continue;
        auto* item = new QListWidgetItem(
            command.shortcut.isEmpty() ? command.text : command.text + "    " + command.shortcut, list_);
        item->setData(Qt::UserRole, command.key);
    }
    list_->setCurrentRow(0);
}

void CommandFinder::take() {
    const auto* item = list_->currentItem();
    if (!item) return;
    const QString key = item->data(Qt::UserRole).toString();
    accept();
    run_(key);
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

#include "moc_command_finder.cpp"
