#include "drawing/hole_text.hpp"
#include "drawing/section.hpp"
#include "joint/design.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::drawing {
namespace {

/// Half of the hole that the head side gets; where it gets none nothing.
double half_width(const kind::Design& design) {
    const Hole* hole = design.shapes.front().hole();
    return hole ? hole->diameter_mm / 2 : 0;
}

/// The member's thickness on the left, its hole on the right.
void add_member(std::vector<Callout>& callouts, const Project& project, const Joint& joint, std::size_t m,
                const Section& section, LengthUnit unit) {
    const Part* part = part_of(project, joint.members[m].instance);
    const Hole* hole = joint::actual_hole(project, joint, m, 0);
    const auto drawn = std::ranges::find(section.parts, part->id, &CutPart::part);
    if (drawn == section.parts.end()) return;
    const Box& box = drawn->bounds;
    const double height = box.top - box.bottom, middle = (box.top + box.bottom) / 2;
    const std::string across = size_across(part->body, joint.members[m].face);
    for (const auto& size : shape::parameters(part->body))
        if (size.key == across)
            callouts.push_back(
                {fmt::format("{} {}", part->name, plain(from_mm(std::get<double>(size.value), unit), 6)),
                 "thickness:" + part->id.text,
                 {std::max(box.left, section.window.left) + 1, middle},
                 Side::left});
    if (hole)
        callouts.push_back({hole_text(*hole, unit),
                            fmt::format("hole:{}", m),
                            {hole->diameter_mm / 2, middle - height / 6},
                            Side::right});
}

/// Half the width of a piece's drawing: where its figure points to.
double reach_mm(const kind::PlacedPiece& placed) {
    const auto item = standards::hardware(placed.standard, placed.size);
    return item ? piece::side_of(*item, placed.length_mm, placed.closed_over_mm).window.top : 0;
}

std::string text_of(const kind::Outcome& outcome, LengthUnit unit) {
    std::string name = outcome.title;
    name.front() = static_cast<char>(std::tolower(static_cast<unsigned char>(name.front())));
    if (outcome.least == outcome.greatest)
        return fmt::format("{} {}", name,
                           outcome.unit == Unit::length ? number_of({outcome.least, outcome.unit}, unit)
                                                        : shown({outcome.least, outcome.unit}, unit));
    return fmt::format("{} {} to {} {}", name, number_of({outcome.least, outcome.unit}, unit),
                       number_of({outcome.greatest, outcome.unit}, unit), symbol(outcome.unit, unit));
}

}

std::vector<Callout> callouts_of(const Project& project, const Joint& joint, const kind::Design& design,
                                 const Section& section, LengthUnit unit) {
    std::vector<Callout> callouts;
    for (std::size_t m = 0; m < joint.members.size(); ++m)
        add_member(callouts, project, joint, m, section, unit);
    if (!design.pieces.empty()) {
        const auto& fastener = design.pieces.front();
        const double head = reach_mm(fastener);
        callouts.push_back({design.designation,
                            std::string(kind::info(joint.kind).size_parameter),
                            {head, -fastener.at_mm + 0.5},
                            Side::right});
    }
    for (const auto& outcome : design.outcomes)
        callouts.push_back({text_of(outcome, unit),
                            outcome.key,
                            {-half_width(design), -(outcome.from_mm + outcome.to_mm) / 2},
                            Side::left});
    return callouts;
}

}
