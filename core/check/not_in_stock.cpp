#include "check/rules.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::check {
namespace {

/// A note when the shelf holds pieces of this standard and the joint's is not among them.
void look(Findings& found, const Workshop& workshop, const Joint& joint, const kind::PlacedPiece& piece) {
    const auto same_standard = [&](const StockItem& item) { return item.standard == piece.standard; };
    if (std::ranges::none_of(workshop.stock, same_standard)) return;
    const bool held = piece.length_mm > 0
                          ? !stocked_lengths(workshop, piece.standard, piece.size, {piece.length_mm}).empty()
                          : find_stock(workshop, piece.standard, piece.size) != nullptr;
    if (held) return;
    std::string shelf;
    for (const auto& item : workshop.stock)
        if (same_standard(item)) shelf += (shelf.empty() ? "" : ", ") + item.size;
    const std::string length = piece.length_mm > 0 ? " × {length}" : "";
    found.push_back(
        {.rule = "not-in-stock",
         .severity = Severity::note,
         .joint = joint.id,
         .message = {"{joint}: {piece}" + length + " is not on the workshop's shelf",
                     {{"joint", joint.name},
                      {"piece", piece.standard + " " + piece.size},
                      {"length", Quantity{piece.length_mm, Unit::length}}}},
         .because = {
             "The shelf has {standard} in {sizes}; none of them suits here, or another was chosen by hand.",
             {{"standard", piece.standard}, {"sizes", shelf}}}});
}

}

Findings not_in_stock(const Snapshot& s) {
    Findings found;
    for (const auto& joint : s.project.joints)
        if (const auto* design = s.placement.designs.find(joint.id))
            for (const auto& piece : design->pieces)
                look(found, s.project.workshop, joint, piece);
    return found;
}

}
