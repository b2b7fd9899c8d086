#include "joint/mid_plane_faces.hpp"
#include "shape/overlap.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::joint {
namespace {

/// Two faces of a part that are alike on both sides of a plane: both look at it or away from it.
struct TwoFaces {
    shape::Offer near, far;
    double width_mm = 0;
    bool inside = false;
};

/// The narrowest first.
std::vector<TwoFaces> faces_across(const Part& part, const Frame& seat) {
    std::vector<TwoFaces> all;
    const auto offers = shape::offers(part.body);
    const auto place = [&](const shape::Offer& o) { return (o.frame.origin - seat.origin).dot(seat.z); };
    for (const auto& far : offers) {
        const double way = place(far), share = far.frame.z.dot(seat.z);
        if (!std::holds_alternative<PlaneFace>(far.shape) || way <= 0 || std::abs(share) < 1 - 1e-9) continue;
        for (const auto& near : offers)
            if (std::holds_alternative<PlaneFace>(near.shape) && near.frame.z.dot(far.frame.z) < -1 + 1e-9 &&
                std::abs(place(near) + way) < 1e-6)
                all.push_back({near, far, 2 * way, share < 0});
    }
    std::ranges::stable_sort(all, {}, &TwoFaces::width_mm);
    return all;
}

void take(const TwoFaces& faces, MemberView& view) {
    shape::Bounds reach;
    for (const auto& corner : face_corners(view.part->body, faces.far.frame))
        reach.take(view.seat.local(corner));
    view.across = {.width_mm = faces.width_mm,
                   .inside = faces.inside,
                   .reach_x_mm = std::min(-reach.least.x(), reach.greatest.x())};
    view.near_wall = {faces.near.id};
    view.far_wall = {faces.far.id};
    view.thickness_mm = faces.width_mm;
}

/// A face of a member in its seat, and what stands behind it.
struct Wall {
    const Part* part;
    const Frame* seat;
    const shape::Offer* face;

    std::vector<Vector2> outline() const {
        std::vector<Vector2> corners;
        for (const auto& corner : face_corners(part->body, face->frame))
            corners.emplace_back(seat->local(corner).head<2>());
        return corners;
    }
    bool is_solid_at(const Vector2& p) const {
        const double at = seat->local(face->frame.origin).z();
        return thickness_mm(part->body, seat->point({p.x(), p.y(), at}), -face->frame.z) > 0;
    }
};

/// Ends of what two faces can touch of each other: what they have in common, drawn in towards its middle to
/// where both are solid, and of many ends the outermost.
std::vector<Vector2> touching(const Wall& one, const Wall& other) {
    const auto common = overlap(one.outline(), other.outline());
    Vector2 middle = Vector2::Zero();
    for (const auto& p : common)
        middle += p / static_cast<double>(common.size());
    std::vector<Vector2> ends;
    for (const auto& p : common)
        for (const double share : {0.999, 0.95, 0.9, 0.8, 0.6, 0.4}) { // on an edge itself a line grazes
            const Vector2 at = middle + share * (p - middle);
            if (!one.is_solid_at(at) || !other.is_solid_at(at)) continue;
            ends.emplace_back(share > 0.99 ? p : at);
            break;
        }
    constexpr std::size_t most = 8;
    if (ends.size() <= most) return ends;
    std::vector<Vector2> outermost;
    for (std::size_t i = 0; i < most; ++i) {
        const double turn = (static_cast<double>(i) + 0.5) * 2 * std::numbers::pi / static_cast<double>(most);
        const Vector2 way(std::cos(turn), std::sin(turn));
        const auto& end = *std::ranges::max_element(ends, {}, [&](const Vector2& p) { return way.dot(p); });
        if (std::ranges::find(outermost, end) == outermost.end()) outermost.push_back(end);
    }
    return outermost;
}

}

void take_nearest_faces(MemberView& view) {
    const auto faces = faces_across(*view.part, view.seat);
    if (!faces.empty()) take(faces.front(), view);
}

void face_each_other(MemberView& a, MemberView& b) {
    struct Meeting {
        const TwoFaces *a, *b;
        std::vector<Vector2> near, far;
    };
    std::optional<Meeting> best;
    const auto of_a = faces_across(*a.part, a.seat), of_b = faces_across(*b.part, b.seat);
    for (const auto& one : of_a)
        for (const auto& other : of_b) {
            if (one.inside == other.inside) continue;
            const double differ = std::abs(one.width_mm - other.width_mm);
            if (best && differ >= std::abs(best->a->width_mm - best->b->width_mm)) continue;
            auto near = touching({a.part, &a.seat, &one.near}, {b.part, &b.seat, &other.near}),
                 far = touching({a.part, &a.seat, &one.far}, {b.part, &b.seat, &other.far});
            if (!near.empty() && !far.empty()) best = Meeting{&one, &other, std::move(near), std::move(far)};
        }
    if (!best) return;
    take(*best->a, a);
    take(*best->b, b);
    for (auto* view : {&a, &b}) {
        view->across.near_corners = best->near;
        view->across.far_corners = best->far;
    }
}

}
