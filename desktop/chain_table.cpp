#include "chain_table.hpp"
#include "file/typed_table.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <array>

namespace kollema::desktop {
namespace {

using stack::TypedRow;

/// The typed columns, in order.
constexpr std::array row_cells{&TypedRow::name,  &TypedRow::nominal,      &TypedRow::limits,
                               &TypedRow::sense, &TypedRow::distribution, &TypedRow::cpk,
                               &TypedRow::shift, &TypedRow::made};

constexpr std::array columns{
    RowTable::Column{"Name", "Any words", 0},
    RowTable::Column{"Nominal", "A length, such as 12 or 1/2 in, or a thread such as M10", 66},
    RowTable::Column{"Limits",
                     "±0.1, or two deviations such as +0.2 -0.1, a zone such as H7, the class "
                     "of a thread such as 6g, or a process such as milled: what it holds every day",
                     80},
    RowTable::Column{"Way", "+ widens the gap (usual), - narrows it; or a factor such as -0.5", 38},
    RowTable::Column{"Scatters", "normal (usual), uniform, triangular, truncated or fixed", 62},
    RowTable::Column{"Cpk", "1 where nothing stands", 38},
    RowTable::Column{"Shift", "Of the mean, as a share of half the width; 0 where nothing stands", 42},
    RowTable::Column{"Made", "here (usual) or bought: then it is as it is, and no other limits are offered",
                     52},
    RowTable::Column{"Share, worst",
                     "Of the gap's variance, and of its worst case; the tip of a cell tells what a "
                     "larger nominal does to the yield",
                     86, false},
    RowTable::Column{"Alone up to",
                     "The widest that it alone may be, about its middle, until the requirement just fails; a "
                     "dash where no width of it is enough",
                     82, false}};
constexpr int share_column = 8, room_column = 9;

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

}

ChainTable::ChainTable(QWidget* parent) : RowTable(columns, parent) {
    setObjectName("chain_rows");
    setAccessibleName("Sizes of the chain");
    connect(this, &RowTable::cells_wished, this, [this](const QString& what, const CellRows& cells) {
        emit rows_wished(what, rows_of(cells, row_cells));
    });
}

void ChainTable::show_typed(const TypedChain& chain, const ShownChain* shown) {
    show_cells(cells_of(chain.rows, row_cells));
    for (int row = 0; shown && row < static_cast<int>(chain.rows.size()); ++row) {
        const auto& link = shown->links.at(static_cast<std::size_t>(row));
        put(row, share_column, share_words(link), false, slope_words(link, chain.unit));
        put(row, room_column, room_words(link, chain.unit), false, columns[room_column].tip);
    }
}

void ChainTable::show_links(const ShownChain& shown, LengthUnit unit) {
    show_nothing();
    unit_ = unit;
    setRowCount(static_cast<int>(shown.links.size()));
    for (int row = 0; row < rowCount(); ++row) {
        const auto& link = shown.links[static_cast<std::size_t>(row)];
        put(row, 0, link.name, false, link.name + (link.note.isEmpty() ? "" : "\n" + link.note));
        put(row, 1, qt(plain(from_mm(link.nominal_mm, unit), unit == LengthUnit::mm ? 5 : 6)), false);
        put(row, 2, limits_words(link.plus_mm, link.minus_mm, unit), false);
        put(row, 3, sense_words(link.sensitivity), false);
        put(row, 4, link.note, false, link.note);
        for (const int c : {5, 6, 7, room_column})
            put(row, c, {}, false);
        put(row, share_column, share_words(link), false);
    }
}

Result<CellRows> ChainTable::read_pasted(const QString& text) const {
    const auto rows = file::read_typed_table(text.toStdString(), "the clipboard");
    if (!rows) return tl::unexpected(rows.error());
    return cells_of(*rows, row_cells);
}

QString ChainTable::copied() const {
    if (is_typed()) return qt(file::typed_table(rows_of(cells(), row_cells)));
    std::vector<TypedRow> rows;
    for (int row = 0; row < rowCount(); ++row) {
        const auto text = [&](int c) { return item(row, c)->text().toStdString(); };
        rows.push_back({.name = text(0),
                        .nominal = text(1) + " " + std::string(symbol(unit_)),
                        .limits = text(2),
                        .sense = text(3)});
    }
    return qt(file::typed_table(rows));
}

}

#include "moc_chain_table.cpp"
