#include "chain_table.hpp"
#include "file/typed_table.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QKeyEvent>
#include <QStyledItemDelegate>
#include <algorithm>
#include <array>
#include <functional>

namespace kollema::desktop {
namespace {

struct Column {
    const char *title, *tip;
    std::string stack::TypedRow::*cell; ///< null: computed
    int width;
};
constexpr std::array columns{
    Column{"Name", "Any words", &stack::TypedRow::name, 0},
    Column{"Nominal", "A length, such as 12 or 1/2 in, or a thread such as M10", &stack::TypedRow::nominal,
           66},
    Column{"Limits",
           "±0.1, or two deviations such as +0.2 -0.1, a zone such as H7, the class "
           "of a thread such as 6g, or a "
           "process such as milled: what it holds every day",
           &stack::TypedRow::limits, 92},
    Column{"Way", "+ widens the gap (usual), - narrows it; or a factor such as -0.5", &stack::TypedRow::sense,
           38},
    Column{"Scatters", "normal (usual), uniform, triangular, truncated or fixed",
           &stack::TypedRow::distribution, 70},
    Column{"Cpk", "1 where nothing stands", &stack::TypedRow::cpk, 38},
    Column{"Shift", "Of the mean, as a share of half the width; 0 where nothing stands",
           &stack::TypedRow::shift, 42},
    Column{"Share, worst",
           "Of the gap's variance, and of its worst case; the tip of a cell tells what a "
           "larger nominal does to the yield",
           nullptr, 86},
    Column{"Alone up to",
           "The widest that it alone may be, about its middle, until the "
           "requirement just fails; a dash where no "
           "width of it is enough",
           nullptr, 82}};
constexpr int share_column = 7, room_column = 8;

QString share_words(const ShownLink& link) {
    return qt(fixed(100 * link.variance_share, 1)) + ", " + qt(fixed(100 * link.worst_case_share, 1)) + " %";
}

/// A hundredth of a unit, which everybody can picture.
QString slope_words(const ShownLink& link, LengthUnit unit) {
    const double step = to_mm(unit == LengthUnit::mm ? 0.01 : 0.001, unit);
    return QString("Its nominal %1 %2 larger: yield %3%4 ppm")
        .arg(unit == LengthUnit::mm ? "0.01" : "0.001", qt(symbol(unit)), link.yield_slope > 0 ? "+" : "",
             qt(plain(1e6 * link.yield_slope * step, 3)));
}

QString sense_words(double sensitivity) {
    return sensitivity == 1 ? "+" : sensitivity == -1 ? "-" : qt(plain(sensitivity, 4));
}

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

}

ChainTable::ChainTable(QWidget* parent) : QTableWidget(0, static_cast<int>(columns.size()), parent) {
    setObjectName("chain_rows");
    setAccessibleName("Sizes of the chain");
    setItemDelegate(new RowDelegate(this, [this] { edit_row(currentRow() + 1); }));
    verticalHeader()->setDefaultSectionSize(23);
    verticalHeader()->setFixedWidth(24);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int c = 0; c < static_cast<int>(columns.size()); ++c) {
        const auto& column = columns[static_cast<std::size_t>(c)];
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
    action("Copy the table", QKeySequence::Copy, [this] { copy(); });
    action("Take the row out", QKeySequence("Ctrl+Del"), [this] { take_out_row(); });
}

void ChainTable::put(int row, int column, const QString& text, bool editable, const QString& tip) {
    QTableWidgetItem* cell = item(row, column);
    if (!cell) {
        cell = new QTableWidgetItem;
        setItem(row, column, cell);
    }
    if (cell->text() != text) cell->setText(text);
    cell->setToolTip(tip);
    const auto flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    cell->setFlags(editable ? flags | Qt::ItemIsEditable : flags);
}

void ChainTable::show_nothing() {
    typed_.reset();
    filling_ = true;
    setRowCount(0);
    filling_ = false;
}

void ChainTable::show_typed(const TypedChain& chain, const ShownChain* shown) {
    typed_ = chain;
    filling_ = true;
    const int rows = static_cast<int>(chain.rows.size());
    setRowCount(rows + 1); // one more to go on with
    for (int row = 0; row <= rows; ++row)
        for (int c = 0; c < static_cast<int>(columns.size()); ++c) {
            const auto& column = columns[static_cast<std::size_t>(c)];
            const auto i = static_cast<std::size_t>(row);
            QString text, tip = column.cell ? QString() : qt(column.tip);
            if (column.cell && row < rows) text = qt(chain.rows[i].*column.cell);
            if (!column.cell && row < rows && shown) {
                const auto& link = shown->links.at(i);
                if (c == share_column) {
                    text = share_words(link);
                    tip = slope_words(link, chain.unit);
                }
                if (c == room_column) text = room_words(link, chain.unit);
            }
            put(row, c, text, column.cell != nullptr, tip);
        }
    filling_ = false;
}

void ChainTable::show_links(const ShownChain& shown, LengthUnit unit) {
    typed_.reset();
    unit_ = unit;
    filling_ = true;
    setRowCount(static_cast<int>(shown.links.size()));
    for (int row = 0; row < rowCount(); ++row) {
        const auto& link = shown.links[static_cast<std::size_t>(row)];
        put(row, 0, link.name, false, link.name + (link.note.isEmpty() ? "" : "\n" + link.note));
        put(row, 1, qt(plain(from_mm(link.nominal_mm, unit), unit == LengthUnit::mm ? 5 : 6)), false);
        put(row, 2, limits_words(link.plus_mm, link.minus_mm, unit), false);
        put(row, 3, sense_words(link.sensitivity), false);
        put(row, 4, link.note, false, link.note);
        for (const int c : {5, 6, room_column})
            put(row, c, {}, false);
        put(row, share_column, share_words(link), false);
    }
    filling_ = false;
}

void ChainTable::take_cells() {
    if (!typed_) return;
    std::vector<stack::TypedRow> rows;
    for (int row = 0; row < rowCount(); ++row) {
        auto& typed = rows.emplace_back();
        for (int c = 0; c < static_cast<int>(columns.size()); ++c)
            if (const auto cell = columns[static_cast<std::size_t>(c)].cell; cell && item(row, c))
                typed.*cell = item(row, c)->text().trimmed().toStdString();
    }
    while (!rows.empty() && rows.back() == stack::TypedRow{})
        rows.pop_back();
    if (rows != typed_->rows) emit rows_wished(QString("row %1").arg(std::max(0, currentRow()) + 1), rows);
}

void ChainTable::paste() {
    if (!typed_) return;
    const QString text = QApplication::clipboard()->text();
    if (!text.contains('\t') && !text.contains('\n')) { // one cell
        if (auto* cell = currentItem()) cell->setText(text.trimmed());
        return;
    }
    const auto pasted = file::read_typed_table(text.toStdString(), "the clipboard");
    if (!pasted) return emit refused(message(pasted.error()));
    constexpr std::size_t most_rows = 2000;
    if (pasted->size() > most_rows)
        return emit refused(
            QString("%1 rows are more than a table in the window shows; kollema-cli stack reads them")
                .arg(pasted->size()));
    auto rows = typed_->rows;
    const auto at = std::min(static_cast<std::size_t>(std::max(0, currentRow())), rows.size());
    rows.insert(rows.begin() + static_cast<std::ptrdiff_t>(at), pasted->begin(), pasted->end());
    emit rows_wished(QString("%1 rows pasted").arg(pasted->size()), rows);
}

void ChainTable::copy() const {
    if (typed_) return QApplication::clipboard()->setText(qt(file::typed_table(typed_->rows)));
    std::vector<stack::TypedRow> rows;
    for (int row = 0; row < rowCount(); ++row) {
        const auto text = [&](int c) { return item(row, c)->text().toStdString(); };
        rows.push_back({.name = text(0),
                        .nominal = text(1) + " " + std::string(symbol(unit_)),
                        .limits = text(2),
                        .sense = text(3)});
    }
    QApplication::clipboard()->setText(qt(file::typed_table(rows)));
}

void ChainTable::take_out_row() {
    const int row = currentRow();
    if (!typed_ || row < 0 || row >= static_cast<int>(typed_->rows.size())) return;
    auto rows = typed_->rows;
    rows.erase(rows.begin() + row);
    emit rows_wished(QString("row %1 out").arg(row + 1), rows);
}

void ChainTable::edit_row(int row) {
    if (!typed_ || row >= rowCount()) return;
    setFocus(Qt::ShortcutFocusReason);
    setCurrentCell(row, 0);
    editItem(currentItem());
}

}
