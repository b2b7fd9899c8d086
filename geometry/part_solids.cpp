#include "geometry/part_solids.hpp"
#include "geometry/recent.hpp"
#include "geometry/tiles.hpp"
#include <mutex>

namespace kollema::geometry {

/// A cut hangs on the recipe and on the plane as the part sees it.
struct CutOf {
    shape::Recipe recipe;
    Frame plane;
    bool operator==(const CutOf&) const = default;
};
std::size_t hash_of(const CutOf& cut) {
    return shape::hash_of(cut.recipe) ^ (shape::hash_of(cut.plane) << 1U);
}

namespace {

/// Rough sizes in memory; those of the kernel's shapes as measured on plates with holes.
constexpr std::size_t bytes_of_a_step = 12000;
std::size_t bytes_of(const shape::Recipe& recipe) { return bytes_of_a_step * (1 + recipe.size()); }
std::size_t bytes_of(const Mesh& mesh) {
    std::size_t points = mesh.points.size() + mesh.normals.size();
    for (const auto& edge : mesh.edges)
        points += edge.size() + 1;
    return points * sizeof(Vector3) + mesh.triangles.size() * sizeof(mesh.triangles[0]);
}
std::size_t bytes_of(const drawing::Cut& cut) {
    std::size_t points = 0;
    for (const auto& face : cut.faces)
        for (const auto& outline : face)
            points += outline.size();
    for (const auto& line : cut.behind)
        points += line.points.size();
    return points * sizeof(Point);
}

/// Of all frames in a plane one: a part that moved within the plane is cut as before.
Frame of_plane(const Frame& plane) {
    const Vector3 n = rounded(plane).z;
    const Vector3 aside = std::abs(n.x()) < 0.9 ? Vector3::UnitX() : Vector3::UnitY();
    return rounded({plane.origin.dot(n) * n, (aside - aside.dot(n) * n).normalized(), n});
}

/// The same cut in the x and y of another frame of its plane.
drawing::Cut seen_from(drawing::Cut cut, const Frame& from, const Frame& to) {
    const auto move = [&](Polygon& points) {
        for (auto& p : points) {
            const Vector3 local = to.local(from.point({p.x, p.y, 0}));
            p = {local.x(), local.y()};
        }
    };
    for (auto& face : cut.faces)
        for (auto& outline : face)
            move(outline);
    for (auto& line : cut.behind)
        move(line.points);
    return cut;
}

}

constexpr std::size_t most_bytes = 512 << 20;

struct PartSolids::Kept {
    std::mutex mutex;
    Recent<shape::Recipe, std::shared_ptr<const Built>> solids{most_bytes};
    Recent<CutOf, drawing::Cut> cuts{most_bytes / 4};
    Recent<shape::Recipe, std::shared_ptr<const Mesh>> meshes{most_bytes};
    Count made;
};

PartSolids::PartSolids() : kept_(std::make_unique<Kept>()) {}
PartSolids::~PartSolids() = default;

std::shared_ptr<const Built> PartSolids::of(const shape::Recipe& named) {
    const shape::Recipe recipe = shape::without_names(named);
    const std::size_t hash = shape::hash_of(recipe);
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->solids.find(recipe, hash)) return *known;
    }
    auto built = std::make_shared<const Built>(solid_of(recipe));
    const std::lock_guard lock(kept_->mutex);
    kept_->solids.add(recipe, hash, built, bytes_of(recipe));
    ++kept_->made.solids;
    return built;
}

std::shared_ptr<const Mesh> PartSolids::mesh(const shape::Recipe& named) {
    const shape::Recipe recipe = shape::without_names(named);
    const std::size_t hash = shape::hash_of(recipe);
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->meshes.find(recipe, hash)) return *known;
    }
    auto made = mesh_in_tiles(recipe);
    if (!made) {
        const auto built = of(recipe);
        made = mesh_of(built->solid);
        made->missing = built->missing;
    }
    auto mesh = std::make_shared<const Mesh>(std::move(*made));
    const std::lock_guard lock(kept_->mutex);
    kept_->meshes.add(recipe, hash, mesh, bytes_of(recipe) + bytes_of(*mesh));
    ++kept_->made.meshes;
    return mesh;
}

namespace {

/// A part with many cuts is made for the strip alone: dear where the whole solid is there already, so only
/// where much is left out.
shape::Recipe recipe_for(const Part& part, const Frame& plane, const drawing::Strip& strip) {
    constexpr std::size_t worth_it = 40;
    shape::Recipe whole = shape::without_names(recipe_of(part));
    if (whole.size() < worth_it) return whole;
    shape::Recipe near = shape::near_strip(whole, plane, strip.left, strip.right);
    return near.size() + worth_it < whole.size() ? near : whole;
}

}

drawing::Cut PartSolids::cut(const Part& part, const Frame& placed, const Frame& plane,
                             const drawing::Strip& strip) {
    const Frame asked = frame_within(placed, plane), plain = of_plane(asked);
    const CutOf key{recipe_for(part, asked, strip), plain};
    const std::size_t hash = hash_of(key);
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->cuts.find(key, hash)) return seen_from(*known, plain, asked);
    }
    const auto built = of(key.recipe);
    const Solid& solid = built->solid;
    drawing::Cut made{geometry::cut(solid, plain), edges_behind(solid, key.recipe, plain)};
    const std::lock_guard lock(kept_->mutex);
    kept_->cuts.add(key, hash, made, bytes_of(key.recipe) + bytes_of(made));
    ++kept_->made.cuts;
    return seen_from(std::move(made), plain, asked);
}

drawing::Cutter PartSolids::cutter() {
    return [this](const Part& part, const Frame& placed, const Frame& plane, const drawing::Strip& strip) {
        return cut(part, placed, plane, strip);
    };
}

PartSolids::Count PartSolids::made() const {
    const std::lock_guard lock(kept_->mutex);
    return kept_->made;
}

}
