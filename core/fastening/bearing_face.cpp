#include "fastening/bearing_face.hpp"
#include <algorithm>
#include <numbers>

namespace kollema::fastening {
namespace {

double least(const standards::HardwareItem& piece, std::string_view symbol) {
    const auto found = std::ranges::find(piece.dimensions, symbol, &standards::HardwareDimension::symbol);
    return found == piece.dimensions.end() ? 0 : found->min_mm.value_or(found->nominal_mm);
}

double outer_mm(const standards::HardwareItem& piece) {
    constexpr double share_of_flats = 0.95, edge_share = 0.05;
    if (piece["dw"]) return least(piece, "dw");
    if (piece.shape == "hex_screw" || piece["m"]) return share_of_flats * piece["s"].value_or(0);
    if (piece.shape == "countersunk_screw") return least(piece, "dk");
    return least(piece, "dk") - edge_share * piece["d"].value_or(0);
}

}

double BearingFace::area_mm2() const {
    return std::numbers::pi / 4 * std::max(0.0, outer_mm * outer_mm - hole_mm * hole_mm);
}

BearingFace bearing_face(const standards::HardwareItem& piece, double hole_mm) {
    return {outer_mm(piece), hole_mm};
}

BearingFace under_washer(const BearingFace& head, const standards::HardwareItem& washer) {
    return {std::min(least(washer, "d2"), head.outer_mm + 1.6 * washer["h"].value_or(0)),
            std::max(head.hole_mm, washer["d1"].value_or(0))};
}

}
