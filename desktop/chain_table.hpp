#pragma once
#include "presenter/chains.hpp"
#include "row_table.hpp"

namespace kollema::desktop {

/// The sizes of a chain, a row each: cells of a typed one are typed and pasted here, those of the assembly
/// are shown; beside them what each has to do with the gap.
class ChainTable : public RowTable {
    Q_OBJECT
public:
    explicit ChainTable(QWidget* parent = nullptr);

    void show_typed(const TypedChain& chain, const ShownChain* shown); ///< null where it cannot be computed
    void show_links(const ShownChain& shown, LengthUnit unit);

signals:
    void rows_wished(const QString& what, const std::vector<stack::TypedRow>& rows);

protected:
    Result<CellRows> read_pasted(const QString& text) const override;
    QString copied() const override;

private:
    LengthUnit unit_ = LengthUnit::mm; ///< of what is only shown
};

}
