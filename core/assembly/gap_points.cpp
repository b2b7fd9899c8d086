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
    double material_behind_mm() const {
        return thickness_mm(part->body, feature->frame.origin, -feature->frame.z);
    }
};

End end_of(const Project& project, const Placement& placement, const FeatureRef& ref) {
    End end{.part = part_of(project, ref.instance), .stands = placement.frames.at(ref.instance)};
    end.feature = find(*end.part, ref.feature);
    end.face = in(end.stands, end.feature->frame);
    return end;
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
    // Opposite faces that lie farther behind each other than the material behind them look away from each
    // other; less deep they press into each other.
    const bool opposite = from.face.z.dot(to.face.z) < 0;
    if (opposite && place.nominal_mm < 0 && -place.nominal_mm > from.material_behind_mm() - 1e-9) {
        place.along = -place.along;
        place.nominal_mm = -place.nominal_mm;
    }
    if (requirement.at) {
        place.at = {from.face.point({requirement.at->x(), requirement.at->y(), 0})};
        return place;
    }
    for (const auto& p : overlap(from.outline(from.face), to.outline(from.face)))
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
