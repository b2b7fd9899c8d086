#include "assembly/gap_points.hpp"
#include "shape/overlap.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

/// An end of the gap, placed.
struct End {
    const Part* part = nullptr;
    Frame stands; ///< of the part
    Frame face;   ///< in the assembly
    const Feature* feature = nullptr;

    /// The face's corners in the plane of another.
    std::vector<Vector2> outline(const Frame& plane) const {
        std::vector<Vector2> corners;
        for (const auto& corner : face_corners(part->body, feature->frame))
            corners.emplace_back(plane.local(stands.point(corner)).head<2>());
        return corners;
    }
    /// Of the part, behind a point of the face's plane.
    double material_behind_mm(const Vector3& at) const {
        const Frame& own = feature->frame;
        return thickness_mm(part->body, own.point(face.local(at)), -own.z);
    }
};

End end_of(const Project& project, const Placement& placement, const FeatureRef& ref) {
    End end{.part = part_of(project, ref.instance), .stands = placement.frames.at(ref.instance)};
    end.feature = find(*end.part, ref.feature);
    end.face = in(end.stands, end.feature->frame);
    return end;
}

/// Whether opposite faces, the second this far behind the first, press into each other: at some place that
/// both have in common there is so much of either part between them.  Else they look away from each other.
bool press(const End& from, const End& to, const std::vector<Vector2>& common, double behind_mm) {
    Vector2 middle = Vector2::Zero();
    for (const auto& p : common)
        middle += p / static_cast<double>(common.size());
    const auto filled = [&](const Vector2& p) {
        const Vector3 at = from.face.point({p.x(), p.y(), 0});
        constexpr double grazing_mm = 1e-9;
        return from.material_behind_mm(at) > behind_mm - grazing_mm &&
               to.material_behind_mm(at - behind_mm * from.face.z) > behind_mm - grazing_mm;
    };
    constexpr double within = 0.9; // along an edge itself a line grazes the part
    return std::ranges::any_of(
        common, [&](const Vector2& p) { return filled(middle) || filled(middle + within * (p - middle)); });
}

}

Result<GapPlace> gap_place(const Project& project, const Placement& placement,
                           const Requirement& requirement) {
    const auto refuse = [&](std::string why, std::string remedy) {
        return fail({.what = requirement.name, .why = std::move(why), .remedy = std::move(remedy)});
    };
    for (const auto& end : {requirement.from, requirement.to})
        if (!placement.frames.contains(end.instance))
            return refuse(fmt::format("{} is joined to nothing", part_of(project, end.instance)->name),
                          "Join it to the grounded part");
    const End from = end_of(project, placement, requirement.from),
              to = end_of(project, placement, requirement.to);
    if (!along_one_line(from.face.z, to.face.z))
        return refuse("its two faces are not parallel", "Choose parallel faces");
    GapPlace place{.along = from.face.z};
    place.nominal_mm = (to.face.origin - from.face.origin).dot(place.along);
    const auto common = overlap(from.outline(from.face), to.outline(from.face));
    // A distance is positive, whichever end is named first; only what presses into the other is not.
    const bool opposite = from.face.z.dot(to.face.z) < 0;
    if (place.nominal_mm < 0 && !(opposite && press(from, to, common, -place.nominal_mm))) {
        place.along = -place.along;
        place.nominal_mm = -place.nominal_mm;
    }
    if (requirement.at) {
        place.at = {from.face.point({requirement.at->x(), requirement.at->y(), 0})};
        return place;
    }
    for (const auto& p : common)
        place.at.push_back(from.face.point({p.x(), p.y(), 0}));
    if (place.at.empty()) {
        const Vector3 between = (from.face.origin + to.face.origin) / 2;
        place.at = {between - between.dot(place.along) * place.along +
                    from.face.origin.dot(place.along) * place.along};
        place.remark = "its faces do not stand before each other: the gap is asked midway between them";
    }
    return place;
}

}
