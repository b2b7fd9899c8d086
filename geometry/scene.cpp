#include "geometry/scene.hpp"
#include "assembly/piece_frames.hpp"
#include "geometry/side_by_side.hpp"
#include "piece/recipe.hpp"
#include "standards/catalogue.hpp"
#include <atomic>
#include <fmt/format.h>
#include <set>
#include <tuple>

namespace kollema::geometry {
namespace {

void take(const Body3& body, shape::Bounds& bounds) {
    const auto &low = body.mesh->bounds.least, &high = body.mesh->bounds.greatest;
    if (body.mesh->points.empty()) return;
    for (int corner = 0; corner < 8; ++corner)
        bounds.take(
            body.placed.point({(corner & 1) != 0 ? low.x() : high.x(), (corner & 2) != 0 ? low.y() : high.y(),
                               (corner & 4) != 0 ? low.z() : high.z()}));
}

/// The pieces of a joint at all its places.
void add_pieces(const Project& project, const assembly::Placement& placement, const Joint& joint,
                PartSolids& solids, Scene& scene) {
    const auto* design = placement.designs.find(joint.id);
    if (!design) return;
    for (const auto& piece : design->pieces) {
        const auto item = standards::hardware(piece.standard, piece.size);
        if (!item) continue;
        const auto mesh = solids.mesh(piece::recipe_of(*item, piece.length_mm, piece.closed_over_mm));
        for (const auto& frame : assembly::piece_frames(project, placement, joint, piece)) {
            scene.bodies.push_back({{}, joint.id, mesh, frame});
            take(scene.bodies.back(), scene.bounds);
        }
    }
}

/// What a scene is made of, several at once; false where nobody waits any more.
bool make_meshes(const Project& project, const assembly::Placement& placement, PartSolids& solids,
                 const std::function<bool(double)>& keep_going) {
    std::vector<shape::Recipe> all;
    std::set<PartId> parts;
    for (const auto& instance : project.instances)
        if (parts.insert(instance.part).second) all.push_back(recipe_of(*find(project, instance.part)));
    std::set<std::tuple<std::string, std::string, double, std::optional<double>>> pieces;
    for (const auto& joint : project.joints)
        if (const auto* design = placement.designs.find(joint.id))
            for (const auto& piece : design->pieces)
                if (const auto item = standards::hardware(piece.standard, piece.size);
                    item &&
                    pieces.emplace(piece.standard, piece.size, piece.length_mm, piece.closed_over_mm).second)
                    all.push_back(piece::recipe_of(*item, piece.length_mm, piece.closed_over_mm));
    std::atomic<std::size_t> done = 0;
    return side_by_side(
        all.size(), [&] { return keep_going(static_cast<double>(done) / static_cast<double>(all.size())); },
        [&](std::size_t i) {
            solids.mesh(all[i]);
            ++done;
        });
}

}

std::optional<Scene> scene_of(const Project& project, const assembly::Placement& placement,
                              PartSolids& solids, const std::function<bool(double)>& keep_going) {
    if (!make_meshes(project, placement, solids, keep_going)) return std::nullopt;
    Scene scene;
    const auto add_part = [&](const Instance& instance, const auto& where) {
        const Part& part = *find(project, instance.part);
        const auto recipe = recipe_of(part);
        const auto mesh = solids.mesh(recipe);
        scene.bodies.push_back({instance.id, {}, mesh, where(*mesh)});
        take(scene.bodies.back(), scene.bounds);
        for (const std::size_t step : mesh->missing)
            scene.problems.push_back(
                fmt::format("{}: {} could not be made", part.name,
                            recipe[step].name.empty() ? "a part of the body" : recipe[step].name));
    };
    for (const auto& instance : project.instances) {
        const auto stands = placement.frames.find(instance.id);
        if (stands == placement.frames.end()) continue;
        if (!keep_going(1)) return std::nullopt;
        add_part(instance, [&](const Mesh&) { return stands->second; });
    }
    for (const auto& joint : project.joints) {
        if (!keep_going(1)) return std::nullopt;
        add_pieces(project, placement, joint, solids, scene);
    }
    constexpr double room_mm = 20;
    for (const auto& id : placement.loose) {
        if (!keep_going(1)) return std::nullopt;
        add_part(*find(project, id), [&](const Mesh& mesh) {
            const double x = scene.bounds.greatest.x() + room_mm - mesh.bounds.least.x();
            return Frame{{x, scene.bounds.least.y() - mesh.bounds.least.y(),
                          scene.bounds.least.z() - mesh.bounds.least.z()}};
        });
    }
    return scene;
}

}
