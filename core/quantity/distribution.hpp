#pragma once
#include "quantity/result.hpp"
#include <string>
#include <string_view>

namespace kollema {

/// How a size scatters between its limits.
enum class Distribution {
    normal,     ///< σ = half the tolerance width / (3·cpk) about the middle, moved by `shift`; not cut
    uniform,    ///< fills the limits
    triangular, ///< symmetric between the limits, peak in the middle
    truncated,  ///< the normal one, cut at the limits
    fixed,      ///< no scatter at all
};

inline std::string_view name(Distribution d) {
    switch (d) {
    case Distribution::normal:
        return "normal";
    case Distribution::uniform:
        return "uniform";
    case Distribution::triangular:
        return "triangular";
    case Distribution::truncated:
        return "truncated";
    case Distribution::fixed:
        break;
    }
    return "fixed";
}

inline Result<Distribution> parse_distribution(std::string_view text) {
    for (const auto d : {Distribution::normal, Distribution::uniform, Distribution::triangular,
                         Distribution::truncated, Distribution::fixed})
        if (text == name(d)) return d;
    return fail({.what = "\"" + std::string(text) + "\"",
                 .why = "this is not a distribution",
                 .remedy = "Use normal, uniform, triangular, truncated or fixed",
                 .kind = FailureKind::file});
}

}
