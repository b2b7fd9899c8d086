#include "shape/volume.hpp"
#include <algorithm>
#include <array>
#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <cmath>
#include <numbers>
#include <set>

namespace kollema::shape {
namespace {

/// Volume and first moments in the coordinates of the form's axis.
using Sums = Eigen::Vector4d;

/// Adaptive Gauss–Kronrod rule of 15 nodes for a function with several values; halves where the seven inner
/// nodes disagree.
template <class F>
Sums integral(const F& f, double from, double to, double within, int depth) {
    using Rule = boost::math::quadrature::gauss_kronrod<double, 15>;
    using Inner = boost::math::quadrature::gauss<double, 7>;
    const double middle = (from + to) / 2, half = (to - from) / 2;
    const auto &nodes = Rule::abscissa(), &weights = Rule::weights();
    const auto& inner = Inner::weights();
    Sums whole = Sums::Zero(), rough = Sums::Zero();
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        Sums here = f(middle + half * nodes[i]);
        if (nodes[i] != 0) here += f(middle - half * nodes[i]);
        whole += weights[i] * here;
        if (i % 2 == 0) rough += inner[i / 2] * here;
    }
    whole *= half;
    rough *= half;
    if (depth == 0 || std::abs(whole[0] - rough[0]) <= within) return whole;
    return integral(f, from, middle, within / 2, depth - 1) + integral(f, middle, to, within / 2, depth - 1);
}

/// Between breaks, where the integrand may begin and end like a root: x = middle − half·cos t.
template <class F>
Sums piecewise(const F& f, const std::set<double>& breaks, double within, int depth) {
    Sums sum = Sums::Zero();
    for (auto from = breaks.begin(); from != breaks.end() && std::next(from) != breaks.end(); ++from) {
        const double middle = (*from + *std::next(from)) / 2, half = (*std::next(from) - *from) / 2;
        if (half < 1e-12) continue;
        sum += integral([&](double t) -> Sums { return half * std::sin(t) * f(middle - half * std::cos(t)); },
                        0, std::numbers::pi, within, depth);
    }
    return sum;
}

/// What two sets of stretches share.
std::vector<Stretch> shared(const std::vector<Stretch>& a, const std::vector<Stretch>& b) {
    std::vector<Stretch> all;
    for (const auto& s : a)
        for (const auto& t : b)
            if (const Stretch both{std::max(s.from_mm, t.from_mm), std::min(s.to_mm, t.to_mm)};
                both.to_mm > both.from_mm)
                all.push_back(both);
    return all;
}

const Frame& frame_of(const Step& step) {
    if (const auto* prism = std::get_if<Prism>(&step.form)) return prism->base;
    return std::get<Turned>(step.form).axis;
}

const Outline& outline_of(const Step& step) {
    if (const auto* prism = std::get_if<Prism>(&step.form)) return prism->outline;
    return std::get<Turned>(step.form).half;
}

bool turns_about(const Step& step, const Frame& axis) {
    const auto* turned = std::get_if<Turned>(&step.form);
    if (!turned || turned->axis.z.cross(axis.z).norm() > 1e-12) return false;
    const Vector3 between = turned->axis.origin - axis.origin;
    return between.cross(axis.z).norm() < 1e-9;
}

void add_breaks(const Outline& outline, std::set<double>& breaks) {
    for (const auto& corner : outline)
        breaks.insert(corner.at.x());
    const Extent e = extent(outline);
    breaks.insert(e.least.x());
    breaks.insert(e.greatest.x());
    for (std::size_t i = 0; i < outline.size(); ++i)
        if (outline[i].bulge != 0) { // an arc that turns back within itself
            const Outline alone{outline[i], {outline[(i + 1) % outline.size()].at}};
            const Extent of_arc = extent(alone);
            breaks.insert(of_arc.least.x());
            breaks.insert(of_arc.greatest.x());
        }
}

/// What a form has in common with earlier steps.
class Overlap {
public:
    Overlap(const Step& step, Recipe earlier)
        : alone_{Step{step.form}},
          frame_(frame_of(step)),
          earlier_(std::move(earlier)) {}

    Sums sums() const {
        const Step& step = alone_.front();
        const Extent e = extent(outline_of(step));
        const Vector2 size = e.greatest - e.least;
        within_ = 1e-11 * size.x() * size.y() * std::max(size.x(), size.y());
        return std::holds_alternative<Prism>(step.form) ? over_outline() : over_rings();
    }

private:
    /// Along the form's own direction through a point of its cross-section.
    Sums along(double x, double y) const {
        const Vector3 point = frame_.point({x, y, 0});
        Sums sum = Sums::Zero();
        for (const auto& s :
             shared(stretches(alone_, point, frame_.z), stretches(earlier_, point, frame_.z))) {
            const double length = s.to_mm - s.from_mm;
            sum += length * Sums(1, x, y, (s.from_mm + s.to_mm) / 2);
        }
        return sum;
    }

    /// Where earlier forms along the same direction begin and end on this one's cross-section: their
    /// outlines, seen in its x and y.
    std::vector<Outline> outlines_beside() const {
        std::vector<Outline> all;
        for (const auto& step : earlier_) {
            const Frame& other = frame_of(step);
            if (other.z.cross(frame_.z).norm() > 1e-12) continue;
            const auto seen = [&](const Vector3& p) { return Vector2(frame_.local(p).head<2>()); };
            if (const auto* prism = std::get_if<Prism>(&step.form)) {
                const double sense = other.z.dot(frame_.z) > 0 ? 1 : -1;
                auto& outline = all.emplace_back();
                for (const auto& c : prism->outline)
                    outline.push_back({seen(other.point({c.at.x(), c.at.y(), 0})), sense * c.bulge});
            } else
                for (const auto& c : outline_of(step))
                    if (c.at.x() > 0) all.push_back(circle(seen(other.origin), c.at.x()));
        }
        return all;
    }

    Sums over_outline() const {
        const Outline& outline = outline_of(alone_.front());
        const auto beside = outlines_beside();
        std::set<double> breaks;
        add_breaks(outline, breaks);
        const double least = *breaks.begin(), greatest = *breaks.rbegin();
        for (const auto& other : beside)
            add_breaks(other, breaks);
        std::erase_if(breaks, [&](double x) { return x < least || x > greatest; });
        const auto across = [&](double x) {
            std::vector<double> crossings;
            add_crossings(outline, {x, 0}, {0, 1}, crossings);
            for (const auto& other : beside)
                add_crossings(other, {x, 0}, {0, 1}, crossings);
            std::ranges::sort(crossings);
            Sums sum = Sums::Zero();
            for (std::size_t i = 0; i + 1 < crossings.size(); ++i)
                if (crossings[i + 1] - crossings[i] > 1e-12 &&
                    contains(outline, {x, (crossings[i] + crossings[i + 1]) / 2}))
                    sum += integral([&](double y) { return along(x, y); }, crossings[i], crossings[i + 1],
                                    within_, depth);
            return sum;
        };
        return piecewise(across, breaks, within_, depth);
    }

    /// Where earlier forms that lie across begin and end on this one's cross-section: lines n·p = distance,
    /// and how far the corners between them are from the axis.
    struct Across {
        std::vector<std::pair<Vector2, double>> lines;
        std::vector<double> corners_mm;

        /// A form from one end to the other, its two sides at an angle of a right one to these.
        void take(const Vector2& along, const std::array<double, 2>& ends,
                  const std::array<double, 2>& sides) {
            for (const double end : ends)
                lines.emplace_back(along, end);
            for (const double side : sides) {
                lines.emplace_back(Vector2(-along.y(), along.x()), side);
                for (const double end : ends)
                    corners_mm.push_back(std::hypot(end, side));
            }
        }
    };
    Across forms_across() const {
        Across all;
        const auto seen = [&](const Vector3& p) { return Vector2(frame_.local(p).head<2>()); };
        for (const auto& step : earlier_) {
            const Frame& other = frame_of(step);
            if (std::abs(other.z.dot(frame_.z)) > 1e-12) continue;
            const Vector2 along = seen(frame_.origin + other.z), aside(-along.y(), along.x());
            const double begin = along.dot(seen(other.origin)), middle = aside.dot(seen(other.origin));
            if (const auto* prism = std::get_if<Prism>(&step.form))
                for (const auto& c : prism->outline) {
                    const double side = aside.dot(seen(other.point({c.at.x(), c.at.y(), 0})));
                    all.take(along, {begin, begin + prism->length_mm}, {side, side});
                }
            else
                for (const auto& c : outline_of(step))
                    all.take(along, {begin + c.at.y(), begin + c.at.y()},
                             {middle - c.at.x(), middle + c.at.x()});
        }
        return all;
    }

    /// Angles of a whole turn from `first` on where the ring of radius r meets these.
    static std::set<double> angles(const Across& across, double r, double first) {
        std::set<double> all;
        for (const auto& [normal, distance] : across.lines) {
            if (std::abs(distance) >= r) continue;
            const double middle = std::atan2(normal.y(), normal.x()), half = std::acos(distance / r);
            for (const double angle : {middle - half, middle + half})
                all.insert(first + std::remainder(angle - first - std::numbers::pi, 2 * std::numbers::pi) +
                           std::numbers::pi);
        }
        constexpr int parts = 4; // begun off the axes, where prisms have their edges
        for (int i = 0; i <= parts; ++i)
            all.insert(first + 2 * std::numbers::pi * i / parts);
        return all;
    }

    Sums over_rings() const {
        std::set<double> breaks;
        add_breaks(outline_of(alone_.front()), breaks);
        const double least = *breaks.begin(), greatest = *breaks.rbegin();
        bool round = true;
        for (const auto& step : earlier_) {
            if (turns_about(step, frame_))
                add_breaks(outline_of(step), breaks);
            else
                round = false;
        }
        const Across across = forms_across();
        for (const auto& [normal, distance] : across.lines)
            breaks.insert(std::abs(distance));
        breaks.insert(across.corners_mm.begin(), across.corners_mm.end());
        const int halvings = across.lines.size() > many_lines ? 0 : ring_depth;
        std::erase_if(breaks, [&](double r) { return r < least || r > greatest; });
        const auto ring = [&](double r) -> Sums {
            if (round) {
                const Sums here = along(r, 0);
                return 2 * std::numbers::pi * r * Sums(here[0], 0, 0, here[3]);
            }
            const auto at = [&](double angle) -> Sums {
                return r * along(r * std::cos(angle), r * std::sin(angle));
            };
            return piecewise(at, angles(across, r, 0.25 * std::numbers::pi / 4), within_, halvings);
        };
        return piecewise(ring, breaks, within_, round ? depth : halvings);
    }

    // Halvings of an interval.  Edges that cross a ring slantwise cross it at some angle or other: with both
    // ways as deep as lines a groove over a keyway would take a minute, for what it does not show.
    static constexpr int depth = 9, ring_depth = 1;
    static constexpr std::size_t many_lines = 32; ///< from here on the pieces between them are short enough
    Recipe alone_;
    Frame frame_;
    Recipe earlier_;
    mutable double within_ = 0;
};

}

Volume volume_of(const Step& step) {
    if (const auto* prism = std::get_if<Prism>(&step.form)) {
        const double area = area_mm2(prism->outline);
        const Vector2 middle = first_moment_mm3(prism->outline) / area;
        return {area * prism->length_mm, prism->base.point({middle.x(), middle.y(), prism->length_mm / 2})};
    }
    const auto& turned = std::get<Turned>(step.form);
    // ∫z·x dA over the half outline, by lines along z: exact for straight edges, by quadrature for arcs.
    std::set<double> breaks;
    add_breaks(turned.half, breaks);
    const auto across = [&](double r) {
        std::vector<double> crossings;
        add_crossings(turned.half, {r, 0}, {0, 1}, crossings);
        std::ranges::sort(crossings);
        Sums sum = Sums::Zero();
        for (std::size_t i = 0; i + 1 < crossings.size(); ++i)
            if (contains(turned.half, {r, (crossings[i] + crossings[i + 1]) / 2}))
                sum += r * (crossings[i + 1] - crossings[i]) *
                       Sums(1, 0, 0, (crossings[i] + crossings[i + 1]) / 2);
        return sum;
    };
    const Sums half = piecewise(across, breaks, 0, 2);
    const double volume = 2 * std::numbers::pi * first_moment_mm3(turned.half).x();
    return {volume, turned.axis.point({0, 0, half[3] / half[0]})};
}

Volume volume_of(const Recipe& recipe) {
    double volume = 0;
    Vector3 moment = Vector3::Zero();
    std::vector<Bounds> boxes;
    for (std::size_t i = 0; i < recipe.size(); ++i) {
        boxes.push_back(bounds(recipe[i]));
        if (!recipe[i].cuts) {
            const Volume own = volume_of(recipe[i]);
            volume += own.volume_mm3;
            moment += own.volume_mm3 * own.centre;
        }
        Recipe earlier;
        for (std::size_t j = 0; j < i; ++j)
            if (boxes[j].meets(boxes[i], -1e-9)) earlier.push_back(recipe[j]);
        if (earlier.empty()) continue;
        const Sums common = Overlap(recipe[i], std::move(earlier)).sums();
        const Frame& frame = frame_of(recipe[i]);
        volume -= common[0];
        moment -= common[0] * frame.origin + frame.vector(common.tail<3>());
    }
    return {volume, moment / volume};
}

}
