#pragma once
#include "standards/catalogue.hpp"
#include <optional>

namespace kollema::piece {

/// What a shape is drawn and weighed from: a piece of the catalogue, and what its place makes of it.
class Sizes {
public:
    Sizes(const standards::HardwareItem& item, double length_mm, std::optional<double> closed_over_mm = {})
        : item_(item),
          length_mm_(length_mm),
          closed_over_mm_(closed_over_mm) {}

    const standards::HardwareItem& item() const { return item_; }
    double length() const { return length_mm_; } ///< 0 for what has none
    /// What a rivet that is set clamps; empty: as it is bought.
    std::optional<double> closed_over() const { return closed_over_mm_; }
    double of(std::string_view symbol, double otherwise = 0) const {
        return item_[symbol].value_or(otherwise);
    }
    bool has(std::string_view symbol) const { return item_[symbol].has_value(); }

private:
    const standards::HardwareItem& item_;
    double length_mm_;
    std::optional<double> closed_over_mm_;
};

}
