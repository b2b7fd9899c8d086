#include "joint/members.hpp"
#include "joint/mid_plane_faces.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::joint {

Frame seat_of(const Part& part, const Member& member) {
    const Feature& feature = *find(part, member.face);
    const double c = std::cos(member.turn_rad), s = std::sin(member.turn_rad);
    // Into the material; along a mid-plane's own normal.
    const bool with_z = std::holds_alternative<MidPlane>(feature.shape) != member.from_other_end;
    Frame seat{feature.frame.point({member.at.x(), member.at.y(), 0}), feature.frame.x,
               with_z ? feature.frame.z : Vector3(-feature.frame.z)};
    if (const auto* round = std::get_if<Round>(&feature.shape)) {
        const bool back = member.from_other_end;
        const double from = back ? round->length_mm - member.at.x() : member.at.x();
        seat = {feature.frame.point({0, 0, from}), feature.frame.x,
                back ? Vector3(-feature.frame.z) : feature.frame.z};
    }
    seat.x = c * seat.x + s * seat.y();
    return seat;
}

namespace {

const Feature* face_at(const Part& part, const Vector3& point, const Vector3& outward) {
    for (const auto& feature : part.features) {
        if (!std::holds_alternative<PlaneFace>(feature.shape)) continue;
        const bool same_way = feature.frame.z.dot(outward) > 1 - 1e-9;
        if (same_way && std::abs((point - feature.frame.origin).dot(outward)) < 1e-6) return &feature;
    }
    return nullptr;
}

}

namespace {

Result<MemberView> view_of_cylinder(MemberView view, const Joint& joint, const Member& member,
                                    const Round& round) {
    view.cylinder = find(*view.part, member.face);
    view.thickness_mm = round.length_mm - member.at.x();
    if (member.at.x() < 0 || view.thickness_mm <= 0)
        return fail(
            {.what = fmt::format("{} on {}", joint.name, view.part->name),
             .why = fmt::format("{:.6g} mm lie beyond the end of {}", member.at.x(), view.cylinder->name),
             .remedy = "Take a place along it"});
    const bool back = member.from_other_end;
    if (member.at.x() == 0)
        view.near_face = find(*view.part, FeatureId{back ? round.last.face : round.first.face});
    view.far_face = find(*view.part, FeatureId{back ? round.first.face : round.last.face});
    return view;
}

/// Through a ring the axis meets no material: its width is the way to the face on the other side.
double way_to_opposite_face(const Part& part, const Vector3& entry, const Vector3& along) {
    double nearest = 0;
    for (const auto& feature : part.features)
        if (std::holds_alternative<PlaneFace>(feature.shape) && feature.frame.z.dot(along) > 1 - 1e-9) {
            const double way = (feature.frame.origin - entry).dot(along);
            if (way > 1e-9 && (nearest == 0 || way < nearest)) nearest = way;
        }
    return nearest;
}

Result<MemberView> view_of(const Project& project, const Joint& joint, const Member& member,
                           bool along_an_axis) {
    const Part* part = part_of(project, member.instance);
    MemberView view{.part = part, .seat = seat_of(*part, member)};
    const Feature* feature = find(*part, member.face);
    if (const auto* round = std::get_if<Round>(&feature->shape))
        return view_of_cylinder(view, joint, member, *round);
    if (std::holds_alternative<MidPlane>(feature->shape)) {
        take_nearest_faces(view);
        return view;
    }
    view.near_face = feature;
    const Vector3 inward = member.from_other_end ? Vector3(-view.seat.z) : view.seat.z;
    const shape::Recipe body = shape::recipe(part->body);
    for (const auto& place : joint.places) {
        const Vector3 entry = view.seat.point({place.x(), place.y(), 0});
        double way = shape::thickness_mm(body, entry, inward);
        if (way <= 0 && along_an_axis) way = way_to_opposite_face(*part, entry, inward);
        if (way <= 0)
            return fail(
                {.what = fmt::format("{} in {}", joint.name, part->name),
                 .why = fmt::format("the place at {:.6g}, {:.6g} lies beside the part", place.x(), place.y()),
                 .remedy = "Move the place onto the face, or make the part larger"});
        view.thickness_mm = way;
    }
    if (!member.from_other_end)
        view.far_face = face_at(*part, view.seat.origin + view.thickness_mm * view.seat.z, view.seat.z);
    return view;
}

double stands_back_mm(const Feature* face) {
    const auto* plane = face ? std::get_if<PlaneFace>(&face->shape) : nullptr;
    return plane ? plane->stands_back_mm : 0;
}

/// ± of a size without limits of its own, by the part's process.
Result<double> general_half_mm(const Project& project, const Part& part, double size_mm) {
    const auto process = process_at_hand(project.workshop, part.process);
    if (!process) return tl::unexpected(process.error());
    return standards::general_tolerance_mm(std::max(0.5, size_mm), process->tolerance_class);
}

/// The limits of a width: those of the dimension between its faces, or the general tolerance.
Result<fit::SizeLimits> width_limits(const Project& project, const MemberView& view) {
    const double width = view.across.width_mm;
    const auto between = std::ranges::find_if(view.part->dimensions, [&](const Dimension& d) {
        return (d.from == view.near_wall && d.to == view.far_wall) ||
               (d.from == view.far_wall && d.to == view.near_wall);
    });
    if (between != view.part->dimensions.end()) {
        const bool same_way = nominal_mm(*view.part, *between) > 0;
        return fit::SizeLimits{width + (same_way ? between->plus_mm : -between->minus_mm),
                               width + (same_way ? between->minus_mm : -between->plus_mm)};
    }
    const auto half = general_half_mm(project, *view.part, width);
    if (!half) return tl::unexpected(half.error());
    return fit::SizeLimits{width + *half, width - *half};
}

/// The limits of a cylinder: its zone, or the general tolerance of the part's process.
Result<SizeTolerance> tolerance_of(const Project& project, const Part& part, const Round& round) {
    if (!round.tolerance.zone.empty() || round.tolerance.plus_mm != 0 || round.tolerance.minus_mm != 0)
        return round.tolerance;
    const auto half = general_half_mm(project, part, round.diameter_mm);
    if (!half) return tl::unexpected(half.error());
    return SizeTolerance{.plus_mm = *half, .minus_mm = -*half};
}

}

Result<fit::SizeLimits> limits_of(const Project& project, const Part& part, const Round& round) {
    const auto tolerance = tolerance_of(project, part, round);
    if (!tolerance) return tl::unexpected(tolerance.error());
    return fit::size_limits(round.diameter_mm, *tolerance);
}

Result<kind::MemberSite> member_site(const Project& project, const MemberView& view, const Member& member) {
    const auto material = standards::material(view.part->material);
    if (!material) return tl::unexpected(material.error());
    kind::MemberSite site{.name = view.part->name,
                          .thickness_mm = view.thickness_mm,
                          .open_before_mm = view.open_before_mm,
                          .material = *material};
    if (view.across.width_mm > 0) {
        const auto limits = width_limits(project, view);
        if (!limits) return tl::unexpected(limits.error());
        site.across = view.across;
        site.across.limits = *limits;
    }
    site.seat = *seat_of(find(*view.part, member.face)->shape);
    if (!view.cylinder) return site;
    const auto& round = std::get<Round>(view.cylinder->shape);
    const auto tolerance = tolerance_of(project, *view.part, round);
    if (!tolerance) return tl::unexpected(tolerance.error());
    const auto limits = fit::size_limits(round.diameter_mm, *tolerance);
    if (!limits) return tl::unexpected(limits.error());
    site.axis = {.diameter_mm = round.diameter_mm,
                 .tolerance = *tolerance,
                 .limits = *limits,
                 .length_mm = view.thickness_mm,
                 .near = member.from_other_end ? round.last : round.first,
                 .far = member.from_other_end ? round.first : round.last,
                 .wall_diameter_mm = round.wall_diameter_mm};
    if (member.at.x() > 0) site.axis.near = {}; // it begins away from that end
    if (const auto process = process_at_hand(project.workshop, view.part->process))
        site.axis.roughness_um = process->roughness_um;
    // Beyond the sizes of the standard none is known.
    site.axis.length_half_mm = general_half_mm(project, *view.part, round.length_mm).value_or(0);
    return site;
}

Result<std::vector<MemberView>> members_of(const Project& project, const Joint& joint) {
    std::vector<MemberView> views;
    const bool along_an_axis = kind::says_where_seats_stand(joint.kind);
    for (const auto& member : joint.members) {
        auto view = view_of(project, joint, member, along_an_axis);
        if (!view) return tl::unexpected(view.error());
        if (!views.empty()) {
            const MemberView& before = views.back();
            if (!along_an_axis)
                view->open_before_mm = stands_back_mm(before.far_face) + stands_back_mm(view->near_face);
            view->stands_mm = before.stands_mm + before.thickness_mm + view->open_before_mm;
        }
        views.push_back(*view);
    }
    const auto is_middle = [](const MemberView& v) { return v.across.width_mm > 0; };
    if (views.size() == 2 && std::ranges::all_of(views, is_middle)) face_each_other(views[0], views[1]);
    if (!along_an_axis) return views;
    kind::Site site{.joint = joint.name, .members = {}, .workshop = project.workshop};
    for (std::size_t m = 0; m < views.size(); ++m) {
        auto one = member_site(project, views[m], joint.members[m]);
        if (!one) return tl::unexpected(one.error());
        site.members.push_back(std::move(*one));
    }
    const auto stands = kind::stands_mm(joint.kind, site);
    if (stands.size() != views.size())
        return fail({.what = joint.name,
                     .why = fmt::format("{} join {} members, here are {}", kind::info(joint.kind).title,
                                        stands.size(), views.size()),
                     .remedy = "Choose another kind of joint, or other members"});
    for (std::size_t m = 0; m < views.size(); ++m)
        views[m].stands_mm = stands[m];
    return views;
}

}
