#include "geometry/tiles.hpp"
#include <algorithm>
#include <cmath>
#include <numeric>
#include <set>

namespace kollema::geometry {
namespace {

constexpr std::size_t worth_it = 200, most_cuts = 48; ///< cuts of a plate, and of a tile
constexpr double on_plane_mm = 1e-7;

/// A rectangle of the plate in its base's x and y, and the cuts that reach into it.
struct Tile {
    shape::Bounds area;
    std::vector<std::size_t> cuts;
};

/// The first step where it is a plate with a rectangular outline and all others are cuts; else null.
const shape::Prism* plate_of(const shape::Recipe& recipe) {
    if (recipe.size() <= worth_it) return nullptr;
    const auto* plate = std::get_if<shape::Prism>(&recipe.front().form);
    if (!plate || plate->outline.size() != 4) return nullptr;
    for (std::size_t i = 0; i < 4; ++i) {
        const Vector2 side = plate->outline[(i + 1) % 4].at - plate->outline[i].at;
        if (plate->outline[i].bulge != 0 || (side.x() != 0 && side.y() != 0)) return nullptr;
    }
    const bool all_cut =
        std::all_of(recipe.begin() + 1, recipe.end(), [](const auto& step) { return step.cuts; });
    return all_cut ? plate : nullptr;
}

class Tiles {
public:
    Tiles(const shape::Recipe& recipe, const shape::Prism& plate) : recipe_(recipe), plate_(plate) {
        for (const auto& step : recipe)
            reaches_.push_back(shape::bounds(step, plate.base));
        Tile whole;
        for (const auto& corner : plate.outline)
            whole.area.take({corner.at.x(), corner.at.y(), 0});
        whole_ = whole.area;
        whole.cuts.resize(recipe.size() - 1);
        std::iota(whole.cuts.begin(), whole.cuts.end(), std::size_t{1});
        split(whole);
    }

    std::vector<Tile> all;

    shape::Recipe recipe_of(const Tile& tile) const {
        const Vector2 least = tile.area.least.head<2>(), greatest = tile.area.greatest.head<2>();
        shape::Recipe own;
        own.emplace_back(shape::Prism{plate_.base, shape::rectangle(least, greatest), plate_.length_mm});
        for (const std::size_t cut : tile.cuts)
            own.push_back(recipe_[cut]);
        return own;
    }

    /// Whether all of some points lie on one side of the tile that is none of the plate.
    template <class Points>
    bool between_tiles(const Tile& tile, const Points& points) const {
        for (const int axis : {0, 1})
            for (const bool low : {true, false}) {
                const double side = low ? tile.area.least[axis] : tile.area.greatest[axis];
                if (side == (low ? whole_.least[axis] : whole_.greatest[axis])) continue;
                if (std::ranges::all_of(points, [&](const Vector3& p) {
                        return std::abs(plate_.base.local(p)[axis] - side) < on_plane_mm;
                    }))
                    return true;
            }
        return false;
    }

private:
    /// Across its longer side, in the middle or where fewer cuts near by would be parted.
    void split(const Tile& tile) {
        if (tile.cuts.size() <= most_cuts) return all.push_back(tile);
        const Vector3 size = tile.area.greatest - tile.area.least;
        const int axis = size.x() >= size.y() ? 0 : 1;
        double best = 0;
        std::size_t fewest = tile.cuts.size() + 1;
        for (const double share : {0.5003, 0.4607, 0.5409, 0.4201, 0.5811, 0.3803, 0.6217}) {
            const double at = tile.area.least[axis] + share * size[axis];
            const auto parted =
                static_cast<std::size_t>(std::ranges::count_if(tile.cuts, [&](std::size_t cut) {
                    return reaches_[cut].least[axis] < at && reaches_[cut].greatest[axis] > at;
                }));
            if (parted >= fewest) continue;
            fewest = parted;
            best = at;
        }
        Tile low{.area = tile.area, .cuts = {}}, high = low;
        low.area.greatest[axis] = high.area.least[axis] = best;
        for (const std::size_t cut : tile.cuts) {
            if (reaches_[cut].least[axis] < best) low.cuts.push_back(cut);
            if (reaches_[cut].greatest[axis] > best) high.cuts.push_back(cut);
        }
        // Cuts that lie over each other are not parted by any line.
        if (std::max(low.cuts.size(), high.cuts.size()) > tile.cuts.size() * 9 / 10)
            return all.push_back(tile);
        split(low);
        split(high);
    }

    const shape::Recipe& recipe_;
    const shape::Prism& plate_;
    std::vector<shape::Bounds> reaches_; ///< of each step, in the plate's base
    shape::Bounds whole_;
};

void add(const Mesh& tile, Mesh& all, const auto& between) {
    const auto first = static_cast<std::uint32_t>(all.points.size());
    all.points.insert(all.points.end(), tile.points.begin(), tile.points.end());
    all.normals.insert(all.normals.end(), tile.normals.begin(), tile.normals.end());
    for (const auto& t : tile.triangles)
        if (!between(std::array{tile.points[t[0]], tile.points[t[1]], tile.points[t[2]]}))
            all.triangles.push_back({first + t[0], first + t[1], first + t[2]});
    for (const auto& edge : tile.edges)
        if (!between(edge)) all.edges.push_back(edge);
    if (tile.points.empty()) return;
    all.bounds.take(tile.bounds.least);
    all.bounds.take(tile.bounds.greatest);
}

}

std::optional<Mesh> mesh_in_tiles(const shape::Recipe& recipe) {
    const auto* plate = plate_of(recipe);
    if (!plate) return std::nullopt;
    Mesh made;
    std::set<std::size_t> missing;
    const Tiles tiles(recipe, *plate);
    for (const auto& tile : tiles.all) {
        const Built built = solid_of(tiles.recipe_of(tile));
        for (const std::size_t step : built.missing)
            missing.insert(step == 0 ? 0 : tile.cuts[step - 1]);
        add(mesh_of(built.solid), made,
            [&](const auto& points) { return tiles.between_tiles(tile, points); });
    }
    made.missing.assign(missing.begin(), missing.end());
    return made;
}

}
