#include "check/rules.hpp"
#include "joint/cap_screw.hpp"
#include "joint/dowel_pin.hpp"
#include "quantity/format.hpp"
#include <fmt/format.h>

namespace kollema::check {
namespace {

/// A note when the shelf holds pieces of this standard and the joint's is not among them.
void look(Findings& found, const Project& project, const Joint& joint, const std::string& standard,
          const std::string& size, double length_mm) {
    const auto of_standard = [&](const StockItem& item) { return item.standard == standard; };
    if (std::ranges::none_of(project.workshop.stock, of_standard)) return;
    if (!stocked_lengths(project.workshop, standard, size, {length_mm}).empty()) return;
    std::string shelf;
    for (const auto& item : project.workshop.stock)
        if (of_standard(item)) shelf += (shelf.empty() ? "" : ", ") + item.size;
    found.push_back({.rule = "not-in-stock",
                     .severity = Severity::note,
                     .joint = joint.id,
                     .message = fmt::format("{}: {} {} × {} is not on the workshop's shelf", joint.name,
                                            standard, size, plain(length_mm)),
                     .because = fmt::format(
                         "The shelf has {} in {}; none of them suits here, or another was chosen by hand.",
                         standard, shelf)});
}

}

Findings not_in_stock(const Snapshot& snapshot) {
    Findings found;
    for (const auto& j : snapshot.project.joints) {
        if (const auto* screw = std::get_if<CapScrewJoint>(&j.kind)) {
            if (const auto d = joint::design(snapshot.project, j, *screw))
                look(found, snapshot.project, j, "ISO 4762", screw->thread, d->length_mm);
        } else if (const auto* dowel = std::get_if<DowelPinJoint>(&j.kind)) {
            if (const auto d = joint::design(snapshot.project, j, *dowel))
                look(found, snapshot.project, j, "ISO 8734", plain(dowel->diameter_mm), d->length_mm);
        }
    }
    return found;
}

}
