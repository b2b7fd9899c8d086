#include "check/rules.hpp"
#include "joint/members.hpp"
#include "piece/view.hpp"
#include "shape/cylinder.hpp"
#include "standards/catalogue.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <tuple>

namespace kollema::check {
namespace {

struct Owner {
    const Joint* joint = nullptr;
    std::size_t place = 0;
};

/// The outlines of pieces as cylinders about the x axis; joints of a kind have the same pieces.
class Outlines {
public:
    /// Head, shank, nut, washer.  A hair is taken off, so that what only touches does not collide.
    const std::vector<Cylinder>& of(const kind::PlacedPiece& piece) {
        const auto [known, fresh] = all_.try_emplace(
            {piece.standard, piece.size, piece.length_mm, piece.closed_over_mm.value_or(-1), piece.turned});
        if (fresh) known->second = made(piece);
        return known->second;
    }

private:
    static std::vector<Cylinder> made(const kind::PlacedPiece& piece) {
        constexpr double hair_mm = 1e-3;
        std::vector<Cylinder> all;
        const auto item = standards::hardware(piece.standard, piece.size);
        if (!item) return all;
        for (const auto& outline : piece::side_of(*item, piece.length_mm, piece.closed_over_mm).outlines) {
            double left = outline.front().x, right = left, radius = 0;
            for (const auto& p : outline) {
                left = std::min(left, p.x);
                right = std::max(right, p.x);
                radius = std::max(radius, std::abs(p.y));
            }
            const double from = (piece.turned ? -right : left) + hair_mm, length = right - left - 2 * hair_mm;
            if (length > 0 && radius > hair_mm)
                all.push_back({from * Vector3::UnitX(), Vector3::UnitX(), length, radius - hair_mm});
        }
        return all;
    }

    std::map<std::tuple<std::string, std::string, double, double, bool>, std::vector<Cylinder>> all_;
};

/// "Rail screws 2"
std::string name_of(const Owner& owner) { return fmt::format("{} {}", owner.joint->name, owner.place + 1); }

Finding in_the_same_place(const Snapshot& s, const Owner& a, const Owner& b) {
    return {.rule = "collision",
            .severity = Severity::error,
            .joint = b.joint->id,
            .parts = {part_of(s.project, b.joint->members.front().instance)->id},
            .where = {0, b.place},
            .message = {"{a} and {b} stand in the same place", {{"a", name_of(a)}, {"b", name_of(b)}}},
            .because = {"a head, shank, nut or washer of one reaches into the other at true size"}};
}

}

Findings collisions(const Snapshot& s) {
    std::vector<Cylinder> cylinders;
    std::vector<Owner> owners;
    Outlines outlines;
    for (const auto& joint : s.project.joints) {
        const Member& head = joint.members.front();
        const auto frame = s.placement.frames.find(head.instance);
        const auto* design = s.placement.designs.find(joint.id);
        if (!design || frame == s.placement.frames.end()) continue;
        const Frame seat = in(frame->second, joint::seat_of(*part_of(s.project, head.instance), head));
        for (std::size_t p = 0; p < joint.places.size(); ++p) {
            const Vector3 entry = seat.point({joint.places[p].x(), joint.places[p].y(), 0});
            for (const auto& piece : design->pieces)
                for (const auto& c : outlines.of(piece))
                    cylinders.push_back(
                        {entry + (piece.at_mm + c.base.x()) * seat.z, seat.z, c.length_mm, c.radius_mm});
            owners.resize(cylinders.size(), {&joint, p});
        }
    }
    Findings found;
    std::set<std::pair<const Joint*, const Joint*>> told; // one finding for two joints is enough
    for (const auto& [i, j] : near_pairs(cylinders, 0)) {
        const Owner &a = owners[i], &b = owners[j];
        if ((a.joint == b.joint && a.place == b.place) || told.contains({a.joint, b.joint})) continue;
        if (gap_mm(cylinders[i], cylinders[j]) > 0) continue;
        told.emplace(a.joint, b.joint);
        found.push_back(in_the_same_place(s, a, b));
    }
    return found;
}

}
