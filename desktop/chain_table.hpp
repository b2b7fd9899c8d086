#pragma once
#include "presenter/chains.hpp"
#include <QTableWidget>

namespace kollema::desktop {

/// The sizes of a chain, a row each: cells of a typed one are typed and pasted here, those of the assembly
/// are shown; beside them what each has to do with the gap.
class ChainTable : public QTableWidget {
    Q_OBJECT
public:
    explicit ChainTable(QWidget* parent = nullptr);

    /// In place: an editor that is open in another cell stays.  `shown`: null where it cannot be computed.
    void show_typed(const TypedChain& chain, const ShownChain* shown);
    void show_links(const ShownChain& shown, LengthUnit unit);
    void show_nothing();
    void edit_row(int row); ///< its first cell, for the keyboard

signals:
    void rows_wished(const QString& what, const std::vector<stack::TypedRow>& rows);
    void refused(const QString& message);

private:
    void put(int row, int column, const QString& text, bool editable, const QString& tip = {});
    void take_cells();
    void paste();
    void copy() const;
    void take_out_row();

    std::optional<TypedChain> typed_; ///< none where nothing is typed
    LengthUnit unit_ = LengthUnit::mm;
    bool filling_ = false;
};

}
