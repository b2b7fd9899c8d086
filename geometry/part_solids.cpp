#include "geometry/part_solids.hpp"
#include "geometry/made_once.hpp"
#include "geometry/tiles.hpp"

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
    MadeOnce<shape::Recipe, std::shared_ptr<const Built>> solids{most_bytes};
    MadeOnce<CutOf, drawing::Cut> cuts{most_bytes / 4};
    MadeOnce<shape::Recipe, std::shared_ptr<const Mesh>> meshes{most_bytes};
};

PartSolids::PartSolids() : kept_(std::make_unique<Kept>()) {}
PartSolids::~PartSolids() = default;

std::shared_ptr<const Built> PartSolids::of(const shape::Recipe& named) {
    const shape::Recipe recipe = shape::without_names(named);
    return kept_->solids.take(
        recipe, shape::hash_of(recipe), [&] { return std::make_shared<const Built>(solid_of(recipe)); },
        [&](const auto&) { return bytes_of(recipe); });
}

std::shared_ptr<const Mesh> PartSolids::mesh(const shape::Recipe& named) {
    const shape::Recipe recipe = shape::without_names(named);
    const auto make = [&] {
        if (auto tiled = mesh_in_tiles(recipe)) return std::make_shared<const Mesh>(std::move(*tiled));
        const auto built = of(recipe);
        Mesh mesh = mesh_of(built->solid);
        mesh.missing = built->missing;
        return std::make_shared<const Mesh>(std::move(mesh));
    };
    return kept_->meshes.take(recipe, shape::hash_of(recipe), make,
                              [&](const auto& mesh) { return bytes_of(recipe) + bytes_of(*mesh); });
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
    const auto make = [&] {
        const auto built = of(key.recipe);
        return drawing::Cut{geometry::cut(built->solid, plain),
                            edges_behind(built->solid, key.recipe, plain)};
    };
    return seen_from(
        kept_->cuts.take(key, hash_of(key), make,
                         [&](const auto& made) { return bytes_of(key.recipe) + bytes_of(made); }),
        plain, asked);
}

drawing::Cutter PartSolids::cutter() {
    return [this](const Part& part, const Frame& placed, const Frame& plane, const drawing::Strip& strip) {
        return cut(part, placed, plane, strip);
    };
}

PartSolids::Count PartSolids::made() const {
    return {kept_->solids.made(), kept_->cuts.made(), kept_->meshes.made()};
}

}
