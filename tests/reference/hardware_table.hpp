#pragma once
// What the tests of hardware tables ask of a piece.
#include "standards/catalogue.hpp"
#include <algorithm>
#include <catch2/catch.hpp>

namespace kollema::test {

using standards::hardware;
using standards::hardware_list;
using standards::HardwareDimension;
using standards::HardwareItem;

/// Calls with every piece of a standard.
template <class Check>
void for_each_size(const std::string& standard, Check check) {
    const auto kind =
        std::ranges::find_if(hardware_list(), [&](const auto& k) { return k.standard == standard; });
    REQUIRE(kind != hardware_list().end());
    for (const auto& size : kind->sizes) {
        CAPTURE(standard, size);
        const auto item = hardware(standard, size);
        REQUIRE(item);
        check(*item);
    }
}

inline double of(const HardwareItem& item, const char* symbol) {
    const auto value = item[symbol];
    CAPTURE(item.standard, item.size, symbol);
    REQUIRE(value);
    return *value;
}

inline const HardwareDimension& limits_of(const HardwareItem& item, const char* symbol) {
    const auto found =
        std::ranges::find_if(item.dimensions, [&](const auto& d) { return d.symbol == symbol; });
    REQUIRE(found != item.dimensions.end());
    return *found;
}

}
