#include "row_table.hpp"
#include "presenter/text.hpp"
#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>
#include <QStyledItemDelegate>
#include <algorithm>
#include <functional>

namespace kollema::desktop {
namespace {

constexpr std::size_t most_pasted = 2000;

/// Enter ends a row: typing goes on in the next.
class RowDelegate : public QStyledItemDelegate {
public:
    RowDelegate(QObject* parent, std::function<void()> row_ended)
        : QStyledItemDelegate(parent),
          row_ended_(std::move(row_ended)) {}

protected:
    bool eventFilter(QObject* object, QEvent* event) override {
        const auto* key = event->type() == QEvent::KeyPress ? static_cast<QKeyEvent*>(event) : nullptr;
        auto* editor = qobject_cast<QWidget*>(object);
        if (!key || !editor || (key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter))
            return QStyledItemDelegate::eventFilter(object, event);
        emit commitData(editor);
        emit closeEditor(editor, NoHint);
        row_ended_();
        return true;
    }

private:
    std::function<void()> row_ended_;
};

bool is_empty_row(const QStringList& row) {
    return std::ranges::all_of(row, [](const QString& cell) { return cell.isEmpty(); });
}

}

RowTable::RowTable(std::span<const Column> columns, QWidget* parent)
    : SteadyTable(0, static_cast<int>(columns.size()), parent),
      columns_(columns.begin(), columns.end()),
      typed_columns_(static_cast<int>(std::ranges::count(columns_, true, &Column::typed))) {
    setItemDelegate(new RowDelegate(this, [this] { edit_row(currentRow() + 1); }));
    verticalHeader()->setDefaultSectionSize(23);
    verticalHeader()->setFixedWidth(24);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int c = 0; c < columnCount(); ++c) {
        const auto& column = columns_[static_cast<std::size_t>(c)];
        auto* title = new QTableWidgetItem(column.title);
        title->setToolTip(column.tip);
        setHorizontalHeaderItem(c, title);
        if (column.width > 0)
            setColumnWidth(c, column.width);
        else
            horizontalHeader()->setSectionResizeMode(c, QHeaderView::Stretch);
    }
    connect(this, &QTableWidget::itemChanged, this, [this] {
        if (!filling_) take_cells();
    });
    const auto action = [this](const QString& text, const QKeySequence& keys, auto call) {
        auto* a = new QAction(text, this);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, call);
        addAction(a);
    };
    setContextMenuPolicy(Qt::ActionsContextMenu);
    action("Paste rows", QKeySequence::Paste, [this] { paste(); });
    action("Copy the table", QKeySequence::Copy, [this] { QApplication::clipboard()->setText(copied()); });
    action("Take the row out", QKeySequence("Ctrl+Del"), [this] { take_out_row(); });
}

void RowTable::put(int row, int column, const QString& text, bool editable, const QString& tip) {
    filling_ = true;
    QTableWidgetItem* cell = item(row, column);
    if (!cell) {
        cell = new QTableWidgetItem;
        setItem(row, column, cell);
    }
    if (cell->text() != text && !is_typed_into(row, column)) cell->setText(text);
    cell->setToolTip(tip);
    const auto flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    cell->setFlags(editable ? flags | Qt::ItemIsEditable : flags);
    filling_ = false;
}

void RowTable::show_nothing() {
    typed_ = false;
    cells_.clear();
    setRowCount(0);
}

void RowTable::show_cells(CellRows rows) {
    typed_ = true;
    cells_ = std::move(rows);
    const int count = static_cast<int>(cells_.size());
    // One more to go on with; that in which somebody types stays.
    setRowCount(std::max(count + 1, is_typed_into() ? currentRow() + 1 : 0));
    for (int row = 0; row < rowCount(); ++row)
        for (int c = 0; c < columnCount(); ++c) {
            const bool typed = c < typed_columns_;
            put(row, c, typed && row < count ? cells_[static_cast<std::size_t>(row)].value(c) : QString(),
                typed, columns_[static_cast<std::size_t>(c)].tip);
        }
}

void RowTable::take_cells() {
    if (!typed_) return;
    CellRows rows;
    for (int row = 0; row < rowCount(); ++row) {
        QStringList& cells = rows.emplace_back();
        for (int c = 0; c < typed_columns_; ++c)
            cells << (item(row, c) ? item(row, c)->text().trimmed() : QString());
    }
    while (!rows.empty() && is_empty_row(rows.back()))
        rows.pop_back();
    if (rows != cells_) emit cells_wished(QString("row %1").arg(std::max(0, currentRow()) + 1), rows);
}

Result<CellRows> RowTable::read_pasted(const QString& text) const {
    CellRows rows;
    for (const QString& line : text.split('\n')) {
        QStringList cells = line.split('\t');
        for (auto& cell : cells)
            cell = cell.trimmed();
        cells.resize(typed_columns_);
        if (!is_empty_row(cells)) rows.push_back(cells);
    }
    return rows;
}

QString RowTable::copied() const {
    QStringList lines;
    for (const auto& row : cells_)
        lines << row.join('\t');
    return lines.join('\n') + '\n';
}

void RowTable::paste() {
    if (!typed_) return;
    const QString text = QApplication::clipboard()->text();
    if (!text.contains('\t') && !text.contains('\n')) { // one cell
        if (auto* cell = currentItem()) cell->setText(text.trimmed());
        return;
    }
    const auto pasted = read_pasted(text);
    if (!pasted) return emit refused(message(pasted.error()));
    if (pasted->size() > most_pasted)
        return emit refused(
            QString("%1 rows are more than a table in the window shows; kollema-cli reads them")
                .arg(pasted->size()));
    auto rows = cells_;
    const auto at = std::min(static_cast<std::size_t>(std::max(0, currentRow())), rows.size());
    rows.insert(rows.begin() + static_cast<std::ptrdiff_t>(at), pasted->begin(), pasted->end());
    emit cells_wished(QString("%1 rows pasted").arg(pasted->size()), rows);
}

void RowTable::take_out_row() {
    const int row = currentRow();
    if (!typed_ || row < 0 || row >= static_cast<int>(cells_.size())) return;
    auto rows = cells_;
    rows.erase(rows.begin() + row);
    emit cells_wished(QString("row %1 out").arg(row + 1), rows);
}

void RowTable::edit_row(int row) {
    if (!typed_ || row >= rowCount()) return;
    setFocus(Qt::ShortcutFocusReason);
    setCurrentCell(row, 0);
    editItem(currentItem());
}

}

#include "moc_row_table.cpp"
#include "moc_steady_table.cpp"
