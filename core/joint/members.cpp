#include "joint/members.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::joint {

Frame seat_of(const Part& part, const Member& member) {
    const Frame& face = find(part, member.face)->frame;
    const double c = std::cos(member.turn_rad), s = std::sin(member.turn_rad);
    Frame seat{face.point({member.at.x(), member.at.y(), 0}), face.x, -face.z};
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

Result<std::vector<MemberView>> members_of(const Project& project, const Joint& joint) {
    std::vector<MemberView> views;
    for (const auto& member : joint.members) {
        const Part* part = part_of(project, member.instance);
        MemberView view{.part = part, .seat = seat_of(*part, member), .near_face = find(*part, member.face)};
        for (const auto& place : joint.places) {
            const Vector3 entry = view.seat.point({place.x(), place.y(), 0});
            const double way = thickness_mm(part->body, entry, view.seat.z);
            if (way <= 0)
                return fail({.what = fmt::format("{} in {}", joint.name, part->name),
                             .why = fmt::format("the place at {:.6g}, {:.6g} lies beside the part", place.x(),
                                                place.y()),
                             .remedy = "Move the place onto the face, or make the part larger"});
            view.thickness_mm = way;
        }
        view.far_face = face_at(*part, view.seat.origin + view.thickness_mm * view.seat.z, view.seat.z);
        views.push_back(view);
    }
    return views;
}

}
