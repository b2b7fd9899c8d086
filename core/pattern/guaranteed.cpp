#include "algebra/dense.hpp"
#include "pattern/drawing.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::pattern {
namespace {

using Eigen::Matrix2d, Eigen::Matrix3d;

double zone_at_the_end(const Plate& plate) {
    return plate.position_mm * (plate.leaning ? plate.leaning->widening() : 1);
}

/// Sizes that differ by less are equal.
double equal_mm(const Group& group) {
    return rounding * (group.fastener.max_mm() +
                       std::ranges::max_element(group.plates, {}, &Plate::position_mm)->position_mm);
}

double least_clearance(const Group& group, std::size_t p) {
    const Plate& plate = group.plates[p];
    return plate.threaded ? 0 : (plate.hole.min_mm() - group.fastener.max_mm()) / 2;
}

const Plate* carrying_plate(const Group& group) {
    const auto found = std::ranges::find(group.plates, true, &Plate::threaded);
    return found == group.plates.end() ? nullptr : &*found;
}

bool fasteners_pass(const Group& group) {
    for (std::size_t p = 0; p < group.plates.size(); ++p)
        if (least_clearance(group, p) < -equal_mm(group)) return false;
    return true;
}

/// Whatever the other holes do: a slot is a hole of its width, a flattened dowel a round one.
bool each_hole_by_itself(const Group& group) {
    for (std::size_t a = 0; a < group.plates.size(); ++a)
        for (std::size_t b = a + 1; b < group.plates.size(); ++b) {
            const Plate &first = group.plates[a], &second = group.plates[b];
            if (carrying_plate(group) && !first.threaded && !second.threaded) continue; // they do not meet
            const double clearance = least_clearance(group, a) + least_clearance(group, b);
            if ((zone_at_the_end(first) + zone_at_the_end(second)) / 2 > clearance + equal_mm(group))
                return false;
        }
    return true;
}

/// A plate follows its only fastener; one that leans must pass it over its whole length.
bool one_hole_passes(const Group& group) {
    const Plate* by = carrying_plate(group);
    const double lean = by && by->leaning ? by->position_mm * (by->leaning->widening() - 1) / 2 : 0;
    for (std::size_t p = 0; p < group.plates.size(); ++p)
        if (!group.plates[p].threaded && 2 * least_clearance(group, p) < lean - equal_mm(group)) return false;
    return true;
}

/// A hole between two plates at its worst: how far it may be off, and what there is for it.
struct Hole {
    Point at;
    double error = 0, clearance = 0;
    Point along = {1, 0};              ///< where a slot or a flattened dowel leaves more
    double half = 0;                   ///< of a slot's way
    std::optional<double> radius = {}; ///< of the hole of a flattened dowel
    double land = 0, pin_radius = 0;

    bool round() const { return half == 0 && !radius; }

    /// What is left across where it is off by so much along; below zero: nothing.
    double across_at(double along_off) const {
        if (radius) {
            const double room = *radius - pin_radius;
            if (room < 0) return -1;
            if (along_off <= room * land / 2 / pin_radius) // an arc meets the hole, beside that a corner
                return std::sqrt(room * room - along_off * along_off);
            const double reach = land / 2 + along_off, square = *radius * *radius - reach * reach;
            return square < 0 ? -1 : std::sqrt(square) - std::sqrt(pin_radius * pin_radius - land * land / 4);
        }
        const double out = std::max(0.0, along_off - half), square = clearance * clearance - out * out;
        return square < 0 ? -1 : std::sqrt(square);
    }
    double way_along() const {
        if (!radius) return half + clearance;
        const double r = pin_radius, b = land / 2;
        return std::sqrt(std::max(0.0, *radius * *radius - r * r + b * b)) - b;
    }
};

Point direction(double degrees) {
    const double angle = degrees * std::numbers::pi / 180;
    return {std::cos(angle), std::sin(angle)};
}

std::vector<Hole> holes_between(const Pattern& pattern, std::size_t a, std::size_t b) {
    std::vector<Hole> all;
    for (const auto& group : pattern.groups) {
        Hole hole{.at = {}};
        for (const std::size_t p : {a, b}) {
            const Plate& plate = group.plates[p];
            hole.error += zone_at_the_end(plate) / 2;
            hole.clearance += std::max(0.0, least_clearance(group, p));
            if (plate.slot && hole.half == 0) {
                hole.half = (plate.slot->length_mm - plate.hole.max_mm()) / 2;
                hole.along = direction(plate.slot->direction_deg);
            }
            if (!group.flattened || plate.threaded) continue;
            hole.along = direction(group.flattened->free_along_deg);
            hole.radius = plate.hole.min_mm() / 2;
            hole.pin_radius = group.fastener.max_mm() / 2;
            hole.land = group.flattened->land_mm;
        }
        for (const auto& at : group.holes) {
            hole.at = at;
            all.push_back(hole);
        }
    }
    return all;
}

/// What becomes at most of a vector of length one: the greater singular value.
double longest(const Matrix2d& m) {
    return (std::hypot(m(0, 0) + m(1, 1), m(1, 0) - m(0, 1)) +
            std::hypot(m(0, 0) - m(1, 1), m(1, 0) + m(0, 1))) /
           2;
}

/// Places the plate by the errors of all holes as least squares would, with weights by what each hole leaves
/// to this power: what then is left over at the worst is a sum over the zones of all, and what the true turn
/// bends beside the straight one.  (The errors turn with the plate, but stay in their zones.)
bool holds_when_placed(const std::vector<Hole>& holes, double power) {
    using ByMove = Eigen::Matrix<double, 2, 3>;
    Point middle = Point::Zero();
    for (const auto& hole : holes)
        middle += hole.at / static_cast<double>(holes.size());
    double widest = 1e-12;
    for (const auto& hole : holes)
        widest = std::max(widest, (hole.at - middle).norm());
    const auto by_move = [&](const Hole& hole) {
        const Point arm = (hole.at - middle) / widest;
        return ByMove{{1, 0, -arm.y()}, {0, 1, arm.x()}};
    };
    const auto weight = [&](const Hole& hole) -> Matrix2d {
        const Point across(-hole.along.y(), hole.along.x());
        const auto of = [&](double room) { return std::pow(std::max(room, 1e-4), -power); };
        return of(hole.clearance) * across * across.transpose() +
               of(hole.round() ? hole.clearance : hole.way_along()) * hole.along * hole.along.transpose();
    };
    Matrix3d curve = Matrix3d::Zero();
    for (const auto& hole : holes)
        curve += by_move(hole).transpose() * weight(hole) * by_move(hole);
    // Of the plate, by the error of each hole: any moves do, for what they leave over is asked below.
    std::vector<Eigen::Matrix<double, 3, 2>> moves;
    moves.reserve(holes.size());
    for (const auto& hole : holes)
        moves.emplace_back(algebra::solve_definite(curve, by_move(hole).transpose() * weight(hole)));
    double turn = 0; // at most
    for (std::size_t i = 0; i < holes.size(); ++i)
        turn += moves[i].row(2).norm() * holes[i].error / widest;
    for (std::size_t i = 0; i < holes.size(); ++i) {
        const Hole& hole = holes[i];
        const double bend = (hole.at - middle).norm() * turn * turn / 2;
        const Point across(-hole.along.y(), hole.along.x());
        double most = 0, most_along = 0, most_across = 0;
        for (std::size_t k = 0; k < holes.size(); ++k) {
            Matrix2d left = -by_move(hole) * moves[k];
            if (i == k) left += Matrix2d::Identity();
            most += longest(left) * holes[k].error;
            most_along += (left.transpose() * hole.along).norm() * holes[k].error;
            most_across += (left.transpose() * across).norm() * holes[k].error;
        }
        if (hole.round()) {
            if (!(most + bend <= hole.clearance)) return false;
            continue;
        }
        // The slot or the dowel turns too: what is along it then is across by so much.
        const double skew = turn * (most_along + most_across) + bend;
        if (!(most_across + skew <= hole.across_at(most_along + skew))) return false;
    }
    return true;
}

bool some_placement_holds(const Pattern& pattern) {
    const bool carried =
        std::ranges::all_of(pattern.groups, [](const Group& g) { return carrying_plate(g) != nullptr; });
    if (!carried && pattern.plates() > 2) return false;
    const std::size_t first = layout_of(pattern).order.front();
    for (std::size_t p = 0; p < pattern.plates(); ++p) {
        if (p == first) continue;
        const auto holes = holes_between(pattern, first, p);
        if (std::ranges::none_of(std::array{1.0, 2.0, 4.0, 8.0},
                                 [&](double power) { return holds_when_placed(holes, power); }))
            return false;
    }
    return true;
}

}

bool always_fits(const Pattern& pattern) {
    if (!std::ranges::all_of(pattern.groups, fasteners_pass)) return false;
    if (std::ranges::all_of(pattern.groups, each_hole_by_itself)) return true;
    if (!pattern.may_move) return false;
    const Group& first = pattern.groups.front();
    if (pattern.holes().size() == 1) return first.flattened ? true : one_hole_passes(first);
    return some_placement_holds(pattern);
}

}
