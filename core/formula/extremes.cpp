#include "formula/bound.hpp"
#include "formula/curvature.hpp"
#include "formula/middle.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::formula {
namespace {

using Eigen::VectorXd;

/// Thrown within extremes() only: sizes that do not close.
struct Open {};

/// Climbs towards the greatest value of side·gap over the box −1 … 1 of the sizes that have a width.
class Climber {
public:
    Climber(Closing& closing, const Middle& middle, Tape::At of, double side)
        : closing_(closing),
          middle_(middle),
          of_(of),
          side_(side) {
        for (Eigen::Index i = 0; i < middle.half.size(); ++i)
            if (middle.half[i] > 0) wide_.push_back(i);
    }

    Eigen::Index count() const { return static_cast<Eigen::Index>(wide_.size()); }

    VectorXd of_sizes(const VectorXd& sizes) const {
        VectorXd u(count());
        for (Eigen::Index k = 0; k < count(); ++k) {
            const Eigen::Index i = wide_[static_cast<std::size_t>(k)];
            u[k] = std::clamp((sizes[i] - middle_.middle.sizes[i]) / middle_.half[i], -1.0, 1.0);
        }
        return u;
    }

    struct Place {
        VectorXd u, slope;
        double value = 0;
        bool has_tangent = true; ///< not at the edge of a root, where the slope has no end
    };

    Place at(const VectorXd& u) {
        VectorXd sizes = middle_.middle.sizes;
        for (Eigen::Index k = 0; k < count(); ++k) {
            const Eigen::Index i = wide_[static_cast<std::size_t>(k)];
            sizes[i] += u[k] * middle_.half[i];
        }
        const auto closed = closing_.follow(middle_.middle, sizes);
        if (!closed || !std::isfinite(closed->values[of_])) throw Open{};
        const VectorXd all = closing_.slopes(*closed, of_);
        Place place{u, VectorXd(count()), side_ * closed->values[of_]};
        for (Eigen::Index k = 0; k < count(); ++k) {
            const Eigen::Index i = wide_[static_cast<std::size_t>(k)];
            const double slope = side_ * all[i] * middle_.half[i];
            place.slope[k] = std::isfinite(slope) ? slope : 0; // the edge of a root: the value counts
            place.has_tangent = place.has_tangent && std::isfinite(slope);
        }
        return place;
    }

    /// Steps of Barzilai & Borwein (1988) along the slope, kept within the box; halved where they lead down.
    Place climb(const VectorXd& u) {
        Place here = at(u);
        double step = 1 / std::max(here.slope.cwiseAbs().maxCoeff(), 1e-300);
        for (int i = 0; i < 100; ++i) {
            if (is_top(here)) break;
            Place next = here;
            bool up = false;
            for (int halving = 0; halving < 40 && !up; ++halving, step /= 2) {
                const VectorXd there = (here.u + step * here.slope).cwiseMin(1).cwiseMax(-1);
                if ((there - here.u).cwiseAbs().maxCoeff() < 1e-12) break;
                next = at(there);
                up = next.value > here.value;
            }
            if (!up) break;
            const VectorXd moved = next.u - here.u, turned = here.slope - next.slope;
            const double bent = moved.dot(turned);
            step = bent > 0 ? moved.squaredNorm() / bent : 4 * step + 1 / next.slope.cwiseAbs().maxCoeff();
            here = std::move(next);
        }
        return over_corners(along_sizes(std::move(here)));
    }

    /// On a ridge of abs, min or max the slope of one side leads off it at once.  What leads along it is the
    /// shortest mean of the slopes around (gradient sampling; Burke, Lewis & Overton 2005).
    Place along_ridges(Place here) {
        stack::RandomBlock random(11, 0);
        double reach = 0.3;
        for (int scale = 0; scale < 18; ++scale, reach *= 0.3) {
            constexpr int most_steps = 60;
            for (int step = 0; step < most_steps && step_along_ridge(here, reach, random); ++step) {
            }
        }
        return here;
    }

    /// Of a gap that bends down everywhere: tangents around its top, weighed so that they lead nowhere, are
    /// above all of it (the dual of Kelley's cutting planes, 1960).
    double above_all(const Place& top) {
        double least = std::numeric_limits<double>::infinity();
        if (!top.has_tangent) return least;
        stack::RandomBlock random(13, 0);
        double reach = 0.1;
        for (int scale = 0; scale < 8; ++scale, reach *= 0.1) {
            const auto tangents = around(top, reach, random);
            const VectorXd at_sides = top.u.unaryExpr(
                [reach](double x) { return 1 - std::abs(x) < reach ? std::copysign(1.0, x) : x; });
            const VectorXd mean = shortest_mean(tangents, at_sides, 4000);
            least = std::min(least, mean[count()] + mean.head(count()).cwiseAbs().sum());
        }
        return least;
    }

private:
    /// Tangents here and at places near by: slopes, and last what they give in the middle of the box.
    std::vector<VectorXd> around(const Place& here, double reach, stack::RandomBlock& random) {
        std::vector<VectorXd> all;
        const auto take = [&](const Place& p) {
            if (!p.has_tangent && !all.empty()) return;
            all.emplace_back(count() + 1);
            all.back() << p.slope, p.value - p.slope.dot(p.u);
        };
        take(here);
        for (Eigen::Index i = 0; i < 2 * count() + 2; ++i) {
            VectorXd near = here.u;
            for (auto& x : near)
                x += reach * (2 * random.spare_uniform() - 1);
            take(at(near.cwiseMin(1).cwiseMax(-1)));
        }
        return all;
    }

    bool step_along_ridge(Place& here, double reach, stack::RandomBlock& random) {
        const VectorXd way = inward(shortest_mean(around(here, reach, random), here.u), here.u).head(count());
        if (way.cwiseAbs().maxCoeff() < 1e-12 * (std::abs(here.value) + 1)) return false;
        double far = 4 * reach / way.norm();
        for (int halving = 0; halving < 20; ++halving, far /= 2) {
            Place next = at((here.u + far * way).cwiseMin(1).cwiseMax(-1));
            if (!(next.value > here.value)) continue;
            here = std::move(next);
            return true;
        }
        return false;
    }

    /// Slopes without what leads out of the box at its sides; of a tangent without its last.
    static VectorXd inward(VectorXd slope, const VectorXd& u) {
        for (Eigen::Index k = 0; k < u.size(); ++k)
            if (slope[k] > 0 ? u[k] >= 1 : u[k] <= -1) slope[k] = 0;
        slope.tail(slope.size() - u.size()).setZero();
        return slope;
    }

    /// Of the tangents' convex hull the one whose slope is shortest once what leads out of the box is taken
    /// off (Frank & Wolfe 1956).
    static VectorXd shortest_mean(const std::vector<VectorXd>& all, const VectorXd& u, int most = 400) {
        VectorXd mean = all.front();
        for (int i = 0; i < most; ++i) {
            const VectorXd way = inward(mean, u);
            const VectorXd* best = &all.front();
            for (const auto& one : all)
                if (one.dot(way) < best->dot(way)) best = &one;
            const VectorXd towards = *best - mean;
            if (towards.dot(way) > -1e-14 * way.squaredNorm() || way.isZero(0)) break;
            double near = 0, far = 1; // the length falls, then rises
            for (int halving = 0; halving < 40; ++halving) {
                const double share = (near + far) / 2;
                (towards.dot(inward(mean + share * towards, u)) < 0 ? near : far) = share;
            }
            mean += (near + far) / 2 * towards;
        }
        return mean;
    }

    static bool is_top(const Place& p) {
        for (Eigen::Index k = 0; k < p.u.size(); ++k) {
            const bool at_end = p.slope[k] > 0 ? p.u[k] >= 1 : p.u[k] <= -1;
            if (!at_end && std::abs(p.slope[k]) > 1e-12 * (std::abs(p.value) + 1)) return false;
        }
        return true;
    }

    /// One size after the other over its whole width: leaves ridges (of abs, min and max) and lower tops.
    Place along_sizes(Place here) {
        constexpr Eigen::Index most = 40;
        if (count() > most) return here;
        for (int round = 0; round < 3; ++round) {
            const double before = here.value;
            for (Eigen::Index k = 0; k < count(); ++k) {
                for (const double there : {-1.0, -0.5, 0.0, 0.5, 1.0})
                    take_better(here, k, there);
                double reach = 0.25;
                for (int halving = 0; halving < 22; ++halving, reach /= 2)
                    if (!take_better(here, k, here.u[k] + reach)) take_better(here, k, here.u[k] - reach);
            }
            if (!(here.value > before)) break;
        }
        return here;
    }

    bool take_better(Place& here, Eigen::Index k, double there) {
        there = std::clamp(there, -1.0, 1.0);
        if (there == here.u[k]) return false;
        VectorXd u = here.u;
        u[k] = there;
        Place next = at(u);
        if (!(next.value > here.value)) return false;
        here = std::move(next);
        return true;
    }

    /// The corner that the slopes point to, as long as that is higher.
    Place over_corners(Place here) {
        for (int i = 0; i < 20; ++i) {
            VectorXd corner = here.u;
            for (Eigen::Index k = 0; k < count(); ++k)
                if (here.slope[k] != 0) corner[k] = here.slope[k] > 0 ? 1 : -1;
            Place next = at(corner);
            if (!(next.value > here.value)) break;
            here = std::move(next);
        }
        return here;
    }

    Closing& closing_;
    const Middle& middle_;
    Tape::At of_;
    double side_;
    std::vector<Eigen::Index> wide_;
};

Climber::Place climbed(const Model& model, Climber& climber) {
    const Eigen::Index n = climber.count();
    auto centre = climber.at(VectorXd::Zero(n));
    if (n == 0) return centre;
    std::vector<VectorXd> starts{VectorXd::Zero(n), centre.slope.cwiseSign(), -centre.slope.cwiseSign()};
    constexpr Eigen::Index few = 10;
    if (n <= few) {
        double best = -std::numeric_limits<double>::infinity();
        VectorXd best_corner;
        for (std::size_t corner = 0; corner < std::size_t{1} << n; ++corner) {
            VectorXd u(n);
            for (Eigen::Index k = 0; k < n; ++k)
                u[k] = corner >> k & 1 ? 1 : -1;
            if (const double value = climber.at(u).value; value > best) {
                best = value;
                best_corner = u;
            }
        }
        starts.push_back(best_corner);
    }
    stack::RandomBlock random(7, 0);
    for (int chance = 0; chance < 6; ++chance) {
        VectorXd u(n);
        for (auto& x : u)
            x = 2 * random.spare_uniform() - 1;
        starts.push_back(u);
    }
    Climber::Place best = centre;
    for (const auto& start : starts)
        if (auto top = climber.climb(start); top.value > best.value) best = std::move(top);
    return model.tape.has_corners() ? climber.along_ridges(std::move(best)) : best;
}

/// Whether the gap lies below each of its tangents.
bool bends_down(const Model& model, const Middle& middle, Tape::At of, double side) {
    if (!model.unknowns.empty()) return false;
    std::vector<Range> inputs, values(model.tape.size());
    for (Eigen::Index i = 0; i < middle.half.size(); ++i)
        inputs.push_back(Range::of(middle.middle.sizes[i]) + Range{-middle.half[i], middle.half[i]});
    ranges(model.tape, inputs, values);
    const Curvature c = curvatures(model.tape, values, {})[of];
    return c == (side > 0 ? Curvature::concave : Curvature::convex);
}

/// From below and from above, as near as the work is worth.
std::optional<Bounded> settled(const Model& model, Closing& closing, const Middle& middle, Tape::At of,
                               Climber& climber, double side, const Climber::Place& top, double agree) {
    const double above = bends_down(model, middle, of, side) ? climber.above_all(top)
                                                             : std::numeric_limits<double>::infinity();
    if (above - top.value <= agree)
        return Bounded{.found = top.value, .bound = std::max(above, top.value), .sizes = {}};
    auto b = bounded(model, closing, middle, of, side, top.value, agree);
    if (!b || b->bound - b->found <= agree) return b;
    if (b->sizes.size() > 0) b->found = std::max(b->found, climber.climb(climber.of_sizes(b->sizes)).value);
    b->bound = std::max(std::min(b->bound, above), b->found);
    return b;
}

}

std::optional<Extremes> extremes(const Model& model, Closing& closing, const Middle& middle, Tape::At of) {
    try {
        Climber down(closing, middle, of, -1), up(closing, middle, of, 1);
        const auto bottom = climbed(model, down), top = climbed(model, up);
        const double agree = std::max(found_to * (top.value + bottom.value),
                                      1e-12 * std::max(std::abs(top.value), std::abs(bottom.value)));
        const auto low = settled(model, closing, middle, of, down, -1, bottom, agree),
                   high = settled(model, closing, middle, of, up, 1, top, agree);
        if (!low || !high) return std::nullopt;
        return Extremes{.found = {-low->found, high->found},
                        .bound = {-low->bound, high->bound},
                        .proven = low->bound - low->found <= agree && high->bound - high->found <= agree};
    } catch (const Open&) {
        return std::nullopt;
    }
}

}
