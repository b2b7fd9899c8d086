#include "kind/face_contact.hpp"
#include "quantity/format.hpp"
#include <array>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

const std::array<Field<FaceContact>, 1> face_fields{
    {{"distance", "Distance", "Between the two faces; 0: they touch", &FaceContact::distance_mm, Unit::length,
      or_zero<FaceContact>}}};

}

Info FaceContact::info() {
    return {.key = "face_contact",
            .title = "Face on face",
            .purpose = "lies on it, or stands a set distance off",
            .size_parameter = "distance",
            .locates = false,
            .least_members = 2,
            .most_members = 2,
            .seats = {{Seat::face}},
            .does = {"locate"},
            .faces_meet = true};
}

std::span<const Field<FaceContact>> FaceContact::fields() { return face_fields; }

std::optional<Failure> FaceContact::defect() const {
    if (distance_mm >= 0) return std::nullopt;
    return Failure{.what = "the distance",
                   .why = "the parts would stand in each other",
                   .remedy = "Give 0 or more",
                   .kind = FailureKind::argument};
}

Result<Design> FaceContact::design(const Site& site) const {
    Design d;
    d.designation = distance_mm > 0 ? fmt::format("{} apart", plain(distance_mm, 6)) : "face on face";
    d.shapes.resize(2);
    d.contacts = {
        {.type = ContactType::seat, .a = 0, .b = 1, .from_mm = 0, .to_mm = distance_mm, .level = 0}};
    if (distance_mm > 0)
        d.outcomes = {{.key = "apart",
                       .title = "Distance",
                       .meaning = "Between the two faces",
                       .least = distance_mm,
                       .greatest = distance_mm,
                       .from_mm = 0,
                       .to_mm = distance_mm,
                       .changed_by = "distance"}};
    d.steps = {{{"Lay {b} on {a}", {{"b", site.members[1].name}, {"a", site.members[0].name}}}, ""}};
    return d;
}

Needs FaceContact::needs(const Site&, const Design&, const AsMade&) const {
    if (distance_mm <= 0) return {};
    return {{.rule = "nothing-between",
             .severity = Severity::note,
             .member = 1,
             .is = distance_mm,
             .wanted = 0,
             .message = {"{joint}: {part} stands {is} off, and nothing between them keeps it there"},
             .because = {"a distance is kept by a spacer, a shoulder or another joint"},
             .remedies = {{{"Let the faces touch"}, {SetParameter{"distance", 0.0}}}}}};
}

}
