#include "kind/through_holes.hpp"
#include "fastening/bearing_face.hpp"
#include "fastening/tightening.hpp"
#include "standards/threads.hpp"
#include <algorithm>

namespace kollema::kind {
namespace {

/// Material that must stay under a head: half the screw's diameter (common practice).
constexpr double floor_diameters = 0.5;
constexpr double usual_friction = 0.12;

fastening::BearingFace face_of(const Pressing& pressing) {
    return fastening::bearing_face(pressing.piece, pressing.hole_mm);
}

}

std::vector<Value> clearance_classes() {
    std::vector<Value> all;
    for (const auto c : {standards::ClearanceClass::fine, standards::ClearanceClass::medium,
                         standards::ClearanceClass::coarse})
        all.emplace_back(std::string(standards::name(c)));
    return all;
}

Result<Hole> clearance_hole(const std::string& thread, const std::string& clearance_class) {
    const auto c = standards::parse_clearance_class(clearance_class);
    if (!c) return tl::unexpected(c.error());
    const auto t = standards::thread(thread);
    if (!t) return tl::unexpected(t.error());
    const auto diameter = standards::clearance_hole_mm(t->size, *c);
    if (!diameter) return tl::unexpected(diameter.error());
    return Hole{.diameter_mm = *diameter,
                .tolerance = {.zone = std::string(standards::clearance_hole_zone(*c))}};
}

Needs clearance_needs(const Site& site, const Design& design, const AsMade& made, std::size_t from,
                      std::size_t to, double fastener_mm, const std::string& fastener_name) {
    constexpr double rounding_mm = 1e-9;
    Needs needs;
    for (std::size_t m = from; m < to; ++m)
        for (std::size_t p = 0; p < site.places; ++p) {
            const Hole* hole = made.hole(m, p);
            if (!hole || hole->thread || hole->diameter_mm > fastener_mm + rounding_mm) continue;
            const double wanted = design.shapes[m].hole()->diameter_mm;
            needs.push_back(
                {.rule = "no-clearance",
                 .severity = Severity::error,
                 .member = m,
                 .place = p,
                 .is = hole->diameter_mm,
                 .wanted = wanted,
                 .message = {"{joint}: hole {place} in {part} leaves the {fastener} no clearance (ø {is})",
                             {{"fastener", fastener_name}}},
                 .because =
                     {"{wanted} is the clearance hole for it; a hole as large as the fastener jams on the "
                      "first deviation of size or place"},
                 .remedies = {
                     {{"Open the hole to ø {wanted}", {{"wanted", length(wanted)}}}, {MatchHole{m, p}}}}});
        }
    return needs;
}

Needs recess_needs(const Site& site, const AsMade& made, const standards::HardwareItem& screw,
                   const standards::CounterboreSize& standard, const Remedy& without) {
    Needs needs;
    const double k = *screw["k"], dk = *screw["dk"], d = *screw["d"];
    const std::map<std::string, Phrase::Word> words{{"k", length(k)},
                                                    {"dk", length(dk)},
                                                    {"source", screw.source},
                                                    {"depth", length(standard.depth_mm)},
                                                    {"width", length(standard.diameter_mm)}};
    for (std::size_t p = 0; p < site.places; ++p) {
        const Hole* hole = made.hole(0, p);
        if (!hole || !hole->counterbore) continue;
        const auto& bore = *hole->counterbore;
        const auto add = [&](Severity severity, double is, double wanted, std::string message,
                             std::string because, Remedy remedy) {
            Need need{.rule = "counterbore",
                      .severity = severity,
                      .place = p,
                      .is = is,
                      .wanted = wanted,
                      .message = {std::move(message), words},
                      .because = {std::move(because), words},
                      .remedies = {std::move(remedy)}};
            need.message.words.emplace("proud", length(k - bore.depth_mm));
            needs.push_back(std::move(need));
        };
        const Remedy match{{"Make the counterbore ø {width} and {depth} deep", words}, {MatchHole{0, p}}};
        if (bore.depth_mm < k)
            add(Severity::warning, bore.depth_mm, k,
                "{joint}: counterbore {place} in {part} leaves the head {proud} proud",
                "it is {is} deep, the head up to {k} high ({source})", match);
        if (bore.diameter_mm <= dk)
            add(Severity::error, bore.diameter_mm, standard.diameter_mm,
                "{joint}: counterbore {place} in {part} does not take the head",
                "it is ø {is}, the head up to ø {dk} ({source})", match);
        const double floor = site.members.front().thickness_mm - bore.depth_mm, wanted = floor_diameters * d;
        if (floor < wanted)
            add(floor < wanted / 2 ? Severity::error : Severity::warning, floor, wanted,
                "{joint}: counterbore {place} in {part} leaves only {is} under the head",
                "at least half the screw's diameter, {wanted}, should stay (common practice)", without);
    }
    return needs;
}

Needs pressure_needs(const Site& site, const Pressing& pressing, const std::string& thread,
                     const std::string& property_class, const std::vector<Remedy>& remedies) {
    const auto tight = fastening::tighten(thread, property_class, usual_friction);
    if (!tight) return {};
    const auto face =
        pressing.washer ? fastening::under_washer(face_of(pressing), *pressing.washer) : face_of(pressing);
    const auto& material = site.members[pressing.member].material;
    const double area = face.area_mm2();
    if (area > 0 && tight->preload_N / area <= material.surface_pressure_MPa) return {};
    Need need{
        .rule = "head-pressure",
        .severity = Severity::warning,
        .member = pressing.member,
        .is = area > 0 ? tight->preload_N / area : 0,
        .wanted = material.surface_pressure_MPa,
        .unit = Unit::pressure,
        .message = area > 0 ? Phrase{"{joint}: tightened, the {piece} presses {is} on {part}"}
                            : Phrase{"{joint}: the {piece} finds no face around its hole in {part}"},
        .because = {"{material} bears {wanted} (VDI 2230-1); at {force} (90 % of yield, friction 0.12) the "
                    "face of ø {outer} over ø {hole} sinks in and the preload is lost",
                    {{"material", material.title},
                     {"force", Quantity{tight->preload_N, Unit::force}},
                     {"outer", length(face.outer_mm)},
                     {"hole", length(face.hole_mm)}}},
        .remedies = remedies};
    need.message.words.emplace("piece", pressing.name);
    return {need};
}

std::vector<AssemblyStep> tightening_steps(const Pressing& turned, const std::string& thread,
                                           const std::string& property_class) {
    const auto tight = fastening::tighten(thread, property_class, usual_friction, {}, face_of(turned));
    if (!tight) return {};
    return {{{"Tighten the {piece} to {torque} (preload {force}, friction 0.12)",
              {{"piece", turned.name},
               {"torque", Quantity{tight->torque_Nm, Unit::torque}},
               {"force", Quantity{tight->preload_N, Unit::force}}}},
             tight->caution}};
}

}
