#include "shape/recipe.hpp"
#include "shape/revolved.hpp"
#include <algorithm>
#include <bit>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <cstdint>
#include <numbers>

namespace kollema::shape {
namespace {

Vector2 half_plane(const Vector3& local) { return {std::hypot(local.x(), local.y()), local.z()}; }

bool inside(const Prism& p, const Vector3& point) {
    const Vector3 local = p.base.local(point);
    return local.z() > 0 && local.z() < p.length_mm && contains(p.outline, {local.x(), local.y()});
}
bool inside(const Turned& t, const Vector3& point) {
    return contains(t.half, half_plane(t.axis.local(point)));
}

void add_crossings(const Prism& p, const Vector3& point, const Vector3& direction, std::vector<double>& at) {
    const Vector3 from = p.base.local(point), along = p.base.local_vector(direction);
    if (std::abs(along.z()) > 1e-12)
        for (const double height : {0.0, p.length_mm})
            at.push_back((height - from.z()) / along.z());
    const double across = std::hypot(along.x(), along.y());
    if (across < 1e-12) return;
    const std::size_t first = at.size();
    add_crossings(p.outline, {from.x(), from.y()}, Vector2(along.x(), along.y()) / across, at);
    for (std::size_t i = first; i < at.size(); ++i)
        at[i] /= across;
}

void add_crossings(const Turned& t, const Vector3& point, const Vector3& direction, std::vector<double>& at) {
    add_crossings_of_revolved(t.half, t.axis.local(point), t.axis.local_vector(direction), at);
}

/// How far a point is from the surface of a form, where, and what leads out there.
struct Near {
    double distance_mm = 0;
    std::size_t edge = 0;
    Vector3 outward = Vector3::UnitZ();
};

Near near(const Prism& p, const Vector3& point) {
    const Vector3 local = p.base.local(point);
    const Vector2 flat(local.x(), local.y());
    const std::size_t edge = edge_at(p.outline, flat);
    const double beside = (nearest_on(p.outline, flat) - flat).norm();
    const double above = std::max({0.0, -local.z(), local.z() - p.length_mm});
    const Vector2 out = outward_at(p.outline, edge, flat);
    Near best{std::hypot(beside, above), edge, p.base.vector({out.x(), out.y(), 0})};
    const double off = contains(p.outline, flat) ? 0 : beside;
    for (const bool end : {false, true})
        if (const double d = std::hypot(off, local.z() - (end ? p.length_mm : 0)); d < best.distance_mm)
            best = {d, p.outline.size() + (end ? 1 : 0), end ? p.base.z : Vector3(-p.base.z)};
    return best;
}

Near near(const Turned& t, const Vector3& point) {
    const Vector3 local = t.axis.local(point);
    const Vector2 flat = half_plane(local);
    const std::size_t edge = edge_at(t.half, flat);
    const Vector2 out = outward_at(t.half, edge, flat);
    const Vector3 radial =
        flat.x() > 1e-12 ? Vector3(Vector3(local.x(), local.y(), 0) / flat.x()) : Vector3(Vector3::UnitX());
    return {(nearest_on(t.half, flat) - flat).norm(), edge,
            t.axis.vector(out.x() * radial + Vector3(0, 0, out.y()))};
}

/// How far the material goes along a direction from a point inside it.
double way_out(const Recipe& recipe, const Vector3& from, const Vector3& direction) {
    constexpr double on_the_face_mm = 1e-9;
    for (const auto& s : stretches(recipe, from, direction))
        if (s.from_mm <= on_the_face_mm && s.to_mm > on_the_face_mm) return s.to_mm;
    return 0;
}

/// A single prism along or across the axis: its outline, or the rectangles in which the plane cuts it.
std::optional<NearestEdge> nearest_edge_of_prism(const Prism& p, const Vector3& at, const Vector3& axis) {
    const Vector3 local = p.base.local(at);
    const Vector2 flat(local.x(), local.y());
    if (p.base.z.cross(axis).norm() < 1e-9) {
        const Vector2 way = nearest_on(p.outline, flat) - flat;
        if (way.norm() < 1e-12) return std::nullopt;
        return NearestEdge{way.norm(), p.base.vector({way.x() / way.norm(), way.y() / way.norm(), 0})};
    }
    if (std::abs(p.base.z.dot(axis)) > 1e-9) return std::nullopt;
    const Vector3 across = p.base.z.cross(axis), across_local = p.base.local_vector(across);
    NearestEdge best;
    const auto take = [&](double distance, const Vector3& towards) {
        if (distance < best.distance_mm) best = {distance, towards};
    };
    take(local.z(), -p.base.z);
    take(p.length_mm - local.z(), p.base.z);
    std::vector<double> crossings;
    add_crossings(p.outline, flat, {across_local.x(), across_local.y()}, crossings);
    for (const double t : crossings)
        if (std::abs(t) < best.distance_mm &&
            (nearest_on(p.outline, flat + t * across_local.head<2>()) - flat - t * across_local.head<2>())
                    .norm() < 1e-9)
            take(std::abs(t), t < 0 ? Vector3(-across) : across);
    return best;
}

}

bool contains(const Step& step, const Vector3& point) {
    return std::visit([&](const auto& form) { return inside(form, point); }, step.form);
}

bool contains(const Recipe& recipe, const Vector3& point) {
    for (std::size_t i = recipe.size(); i-- > 0;)
        if (contains(recipe[i], point)) return !recipe[i].cuts;
    return false;
}

SurfacePoint surface_at(const Recipe& recipe, const Vector3& point) {
    SurfacePoint best;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < recipe.size(); ++i) {
        const Near n = std::visit([&](const auto& form) { return near(form, point); }, recipe[i].form);
        constexpr double same_mm = 1e-7;
        if (n.distance_mm > least + same_mm) continue;
        least = std::min(least, n.distance_mm);
        best = {{i, n.edge}, recipe[i].cuts ? Vector3(-n.outward) : n.outward};
    }
    return best;
}

namespace {

constexpr double least_stretch_mm = 1e-10;

/// Between two crossings the middle of what lies between, where that is more than rounding.
template <class F>
bool any_between(const std::vector<double>& at, F holds) {
    for (std::size_t i = 0; i + 1 < at.size(); ++i)
        if (at[i + 1] - at[i] >= least_stretch_mm && holds((at[i] + at[i + 1]) / 2)) return true;
    return false;
}

/// The last of some steps that contains the point tells.
bool contains(const Recipe& recipe, const std::vector<std::size_t>& steps, const Vector3& point) {
    for (auto step = steps.rbegin(); step != steps.rend(); ++step)
        if (contains(recipe[*step], point)) return !recipe[*step].cuts;
    return false;
}

}

std::vector<Stretch> stretches(const Recipe& recipe, const Vector3& point, const Vector3& direction) {
    std::vector<double> at, own;
    std::vector<std::size_t> entered; // of thousands of holes a line meets few
    for (std::size_t i = 0; i < recipe.size(); ++i) {
        own.clear();
        std::visit([&](const auto& form) { add_crossings(form, point, direction, own); }, recipe[i].form);
        std::ranges::sort(own);
        if (!any_between(own, [&](double t) { return contains(recipe[i], point + t * direction); })) continue;
        entered.push_back(i);
        at.insert(at.end(), own.begin(), own.end());
    }
    std::ranges::sort(at);
    std::vector<Stretch> all;
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        if (at[i + 1] - at[i] < least_stretch_mm) continue;
        if (!contains(recipe, entered, point + (at[i] + at[i + 1]) / 2 * direction)) continue;
        if (!all.empty() && at[i] - all.back().to_mm < 1e-9)
            all.back().to_mm = at[i + 1];
        else
            all.push_back({at[i], at[i + 1]});
    }
    return all;
}

double thickness_mm(const Recipe& recipe, const Vector3& from, const Vector3& direction) {
    return way_out(recipe, from, direction);
}

NearestEdge nearest_edge(const Recipe& recipe, const Vector3& at, const Vector3& axis) {
    if (recipe.size() == 1)
        if (const auto* prism = std::get_if<Prism>(&recipe[0].form))
            if (const auto found = nearest_edge_of_prism(*prism, at, axis)) return *found;
    // The nearest point of an outline is where the shortest ray out of it ends.
    const Vector3 u = axis.unitOrthogonal(), v = axis.cross(u);
    const auto towards = [&](double angle) -> Vector3 { return std::cos(angle) * u + std::sin(angle) * v; };
    const auto way = [&](double angle) { return way_out(recipe, at, towards(angle)); };
    constexpr int rays = 144;
    constexpr double step = 2 * std::numbers::pi / rays;
    std::array<double, rays> ways{};
    for (std::size_t i = 0; i < rays; ++i)
        ways[i] = way(step * static_cast<double>(i));
    NearestEdge best;
    for (std::size_t i = 0; i < rays; ++i) {
        if (ways[i] > ways[(i + 1) % rays] || ways[i] > ways[(i + rays - 1) % rays]) continue;
        const double middle = step * static_cast<double>(i);
        const auto [angle, least] =
            boost::math::tools::brent_find_minima(way, middle - step, middle + step, 40);
        if (const double found = std::min(least, ways[i]); found < best.distance_mm)
            best = {found, towards(least < ways[i] ? angle : middle)};
    }
    return best;
}

Bounds bounds(const Step& step) {
    Bounds b;
    if (const auto* p = std::get_if<Prism>(&step.form)) {
        const Extent e = extent(p->outline);
        for (const double x : {e.least.x(), e.greatest.x()})
            for (const double y : {e.least.y(), e.greatest.y()})
                for (const double z : {0.0, p->length_mm})
                    b.take(p->base.point({x, y, z}));
        return b;
    }
    const auto& t = std::get<Turned>(step.form);
    const Extent e = extent(t.half);
    const Vector3 reach = e.greatest.x() * (Vector3::Ones() - t.axis.z.cwiseAbs2()).cwiseMax(0).cwiseSqrt();
    for (const double z : {e.least.y(), e.greatest.y()}) {
        b.take(t.axis.point({0, 0, z}) - reach);
        b.take(t.axis.point({0, 0, z}) + reach);
    }
    return b;
}

Bounds bounds(const Recipe& recipe) {
    Bounds all;
    for (const auto& step : recipe)
        if (!step.cuts) {
            const Bounds b = bounds(step);
            all.take(b.least);
            all.take(b.greatest);
        }
    return all;
}

Bounds bounds(const Step& step, const Frame& frame) {
    const Bounds own = bounds(step);
    Bounds b;
    for (const double x : {own.least.x(), own.greatest.x()})
        for (const double y : {own.least.y(), own.greatest.y()})
            for (const double z : {own.least.z(), own.greatest.z()})
                b.take(frame.local({x, y, z}));
    return b;
}

Recipe near_strip(const Recipe& recipe, const Frame& plane, double left_mm, double right_mm) {
    constexpr double spare_mm = 1e-3;
    Recipe near;
    for (const auto& step : recipe) {
        if (step.cuts) {
            const Bounds b = bounds(step, plane);
            if (b.greatest.x() < left_mm - spare_mm || b.least.x() > right_mm + spare_mm ||
                b.least.z() > spare_mm)
                continue;
        }
        near.push_back(step);
    }
    return near;
}

namespace {

/// Numbers one after the other, each mixed in by a multiplication and a shift.
class Hash {
public:
    void take(double number) {
        take_bits(std::bit_cast<std::uint64_t>(number == 0 ? 0.0 : number)); // -0 equals 0
    }
    void take_bits(std::uint64_t bits) {
        value_ = (value_ ^ bits) * 0x9E3779B97F4A7C15U;
        value_ ^= value_ >> 29U;
    }
    void take(const Frame& frame) {
        for (const Vector3& v : {frame.origin, frame.x, frame.z})
            for (const double number : v)
                take(number);
    }
    void take(const Outline& outline) {
        take_bits(outline.size());
        for (const auto& corner : outline)
            for (const double number : {corner.at.x(), corner.at.y(), corner.bulge})
                take(number);
    }
    std::size_t value() const { return value_; }

private:
    std::uint64_t value_ = 0;
};

}

Recipe without_names(Recipe recipe) {
    for (auto& step : recipe)
        step.name.clear();
    return recipe;
}

std::size_t hash_of(const Recipe& recipe) {
    Hash hash;
    for (const auto& step : recipe) {
        hash.take_bits(step.cuts ? 1 : 0);
        if (const auto* prism = std::get_if<Prism>(&step.form)) {
            hash.take(prism->base);
            hash.take(prism->outline);
            hash.take(prism->length_mm);
        } else {
            const auto& turned = std::get<Turned>(step.form);
            hash.take(turned.axis);
            hash.take(turned.half);
        }
    }
    return hash.value();
}

std::size_t hash_of(const Frame& frame) {
    Hash hash;
    hash.take(frame);
    return hash.value();
}

}
