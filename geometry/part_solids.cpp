#include "geometry/part_solids.hpp"
#include <algorithm>
#include <deque>
#include <mutex>

namespace kollema::geometry {
namespace {

/// What was made last, found by what it was made from.
template <class From, class Made>
class Recent {
public:
    explicit Recent(std::size_t most) : most_(most) {}
    const Made* find(const From& from) {
        const auto found = std::ranges::find(all_, from, &std::pair<From, Made>::first);
        return found == all_.end() ? nullptr : &found->second;
    }
    void add(From from, Made made) {
        all_.emplace_front(std::move(from), std::move(made));
        if (all_.size() > most_) all_.pop_back();
    }

private:
    std::size_t most_;
    std::deque<std::pair<From, Made>> all_;
};

/// A cut hangs on the recipe and on the plane as the part sees it.
struct CutOf {
    shape::Recipe recipe;
    Frame plane;
    bool operator==(const CutOf&) const = default;
};

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

struct PartSolids::Kept {
    std::mutex mutex;
    Recent<shape::Recipe, std::shared_ptr<const Built>> solids{600};
    Recent<CutOf, drawing::Cut> cuts{2000};
    Recent<shape::Recipe, std::shared_ptr<const Mesh>> meshes{600};
    Count made;
};

PartSolids::PartSolids() : kept_(std::make_unique<Kept>()) {}
PartSolids::~PartSolids() = default;

std::shared_ptr<const Built> PartSolids::of(const shape::Recipe& recipe) {
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->solids.find(recipe)) return *known;
    }
    auto built = std::make_shared<const Built>(solid_of(recipe));
    const std::lock_guard lock(kept_->mutex);
    kept_->solids.add(recipe, built);
    ++kept_->made.solids;
    return built;
}

std::shared_ptr<const Mesh> PartSolids::mesh(const shape::Recipe& recipe) {
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->meshes.find(recipe)) return *known;
    }
    auto mesh = std::make_shared<const Mesh>(mesh_of(of(recipe)->solid));
    const std::lock_guard lock(kept_->mutex);
    kept_->meshes.add(recipe, mesh);
    ++kept_->made.meshes;
    return mesh;
}

drawing::Cut PartSolids::cut(const Part& part, const Frame& placed, const Frame& plane) {
    const Frame asked = frame_within(placed, plane), plain = of_plane(asked);
    CutOf key{recipe_of(part), plain};
    {
        const std::lock_guard lock(kept_->mutex);
        if (const auto* known = kept_->cuts.find(key)) return seen_from(*known, plain, asked);
    }
    const auto built = of(key.recipe);
    const Solid& solid = built->solid;
    drawing::Cut made{geometry::cut(solid, plain), edges_behind(solid, key.recipe, plain)};
    const std::lock_guard lock(kept_->mutex);
    kept_->cuts.add(std::move(key), made);
    ++kept_->made.cuts;
    return seen_from(std::move(made), plain, asked);
}

drawing::Cutter PartSolids::cutter() {
    return [this](const Part& part, const Frame& placed, const Frame& plane) {
        return cut(part, placed, plane);
    };
}

PartSolids::Count PartSolids::made() const {
    const std::lock_guard lock(kept_->mutex);
    return kept_->made;
}

}
