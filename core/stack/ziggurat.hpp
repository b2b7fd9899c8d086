#pragma once
#include <array>
#include <cstddef>

namespace kollema::stack {

/// Ziggurat of 1024 layers of equal area under exp(−x²/2); Marsaglia & Tsang, J. Stat. Software 5 (2000).
struct Ziggurat {
    static constexpr std::size_t layers = 1024;
    struct alignas(16) Layer { ///< for a draw u in ±½; both are read at once
        double width = 0;      ///< u·width is the place
        double sure = 0;       ///< |u| below it: under the curve for certain
    };
    alignas(64) std::array<Layer, layers> layer{};
    /// Right edge of layer i; [0] the widest, the base with its tail; [layers] is 0.
    std::array<double, layers + 1> edge{};
    std::array<double, layers + 1> height{}; ///< of the curve at each edge
    double tail_start = 0;
};

const Ziggurat& ziggurat();

}
