#include "kind/catalogue_items.hpp"
#include <algorithm>

namespace kollema::kind {

std::vector<standards::HardwareItem> items_of(std::initializer_list<std::string_view> standards) {
    std::vector<standards::HardwareItem> found;
    for (const auto standard : standards)
        for (const auto& kind : standards::hardware_list())
            if (kind.standard == standard)
                for (const auto& size : kind.sizes)
                    found.push_back(*standards::hardware(standard, size));
    return found;
}

double of(const standards::HardwareItem& item, std::string_view symbol) { return item[symbol].value_or(0); }

fit::SizeLimits limits_of(const standards::HardwareItem& item, std::string_view symbol) {
    const auto d = std::ranges::find(item.dimensions, symbol, &standards::HardwareDimension::symbol);
    if (d == item.dimensions.end()) return {};
    return {d->max_mm.value_or(d->nominal_mm), d->min_mm.value_or(d->nominal_mm)};
}

}
