#pragma once
#include "quantity/result.hpp"
#include "steady_table.hpp"
#include <array>
#include <span>
#include <string>
#include <vector>

namespace kollema::desktop {

/// The cells that are typed, row by row.
using CellRows = std::vector<QStringList>;

/// Rows whose cells are members of theirs, and back.
template <class Row, std::size_t N>
CellRows cells_of(const std::vector<Row>& rows, const std::array<std::string Row::*, N>& members) {
    CellRows all;
    for (const auto& row : rows) {
        auto& cells = all.emplace_back();
        for (const auto member : members)
            cells << QString::fromStdString(row.*member);
    }
    return all;
}
template <class Row, std::size_t N>
std::vector<Row> rows_of(const CellRows& all, const std::array<std::string Row::*, N>& members) {
    std::vector<Row> rows;
    for (const auto& cells : all) {
        auto& row = rows.emplace_back();
        for (std::size_t c = 0; c < N; ++c)
            row.*members[c] = cells.value(static_cast<int>(c)).toStdString();
    }
    return rows;
}

/// A table that is typed into: Tab goes on to the next cell, Enter to the next row, of which there is always
/// one more; rows are pasted, copied and taken out.  What is typed is told, not kept: whoever shows it
/// decides.
class RowTable : public SteadyTable {
    Q_OBJECT
public:
    struct Column {
        const char *title, *tip;
        int width;         ///< 0: takes what room is left
        bool typed = true; ///< else computed; these stand behind the typed ones
    };
    RowTable(std::span<const Column> columns, QWidget* parent);

    /// In place: an editor that is open in another cell stays.
    void show_cells(CellRows rows);
    void show_nothing();
    void edit_row(int row); ///< its first cell, for the keyboard

signals:
    void cells_wished(const QString& what, const CellRows& rows);
    void refused(const QString& message);

protected:
    void put(int row, int column, const QString& text, bool editable, const QString& tip = {});
    bool is_typed() const { return typed_; } ///< nothing can be typed into what is only shown
    /// Rows of a text from the clipboard, of as many cells as there are typed columns.
    virtual Result<CellRows> read_pasted(const QString& text) const;
    virtual QString copied() const;
    const CellRows& cells() const { return cells_; }

private:
    void take_cells();
    void paste();
    void take_out_row();

    std::vector<Column> columns_;
    int typed_columns_ = 0;
    CellRows cells_;
    bool typed_ = false, filling_ = false;
};

}
