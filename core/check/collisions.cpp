#include "assembly/piece_frames.hpp"
#include "check/rules.hpp"
#include "piece/recipe.hpp"
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
            {piece.standard, piece.size, piece.length_mm, piece.closed_over_mm.value_or(-1)});
        if (fresh) known->second = made(piece);
        return known->second;
    }

private:
    static std::vector<Cylinder> made(const kind::PlacedPiece& piece) {
        constexpr double hair_mm = 1e-3;
        std::vector<Cylinder> all;
        const auto item = standards::hardware(piece.standard, piece.size);
        if (!item) return all;
        for (const auto& step : piece::recipe_of(*item, piece.length_mm, piece.closed_over_mm)) {
            if (step.cuts) continue;
            const auto box = shape::bounds(step);
            const double left = box.least.x(), right = box.greatest.x(),
                         radius = std::max(box.greatest.y(), box.greatest.z());
            const double from = left + hair_mm, length = right - left - 2 * hair_mm;
            if (length > 0 && radius > hair_mm)
                all.push_back({from * Vector3::UnitX(), Vector3::UnitX(), length, radius - hair_mm});
        }
        return all;
    }

    std::map<std::tuple<std::string, std::string, double, double>, std::vector<Cylinder>> all_;
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
        const auto* design = s.placement.designs.find(joint.id);
        if (!design) continue;
        for (const auto& piece : design->pieces) {
            std::size_t place = 0;
            for (const auto& frame : assembly::piece_frames(s.project, s.placement, joint, piece)) {
                for (const auto& c : outlines.of(piece))
                    cylinders.push_back(
                        {frame.origin + c.base.x() * frame.x, frame.x, c.length_mm, c.radius_mm});
                owners.resize(cylinders.size(), {&joint, place++});
            }
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
