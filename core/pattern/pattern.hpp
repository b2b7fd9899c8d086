#pragma once
#include "quantity/result.hpp"
#include "stack/monte_carlo.hpp"
#include <Eigen/Core>

/// Holes that several plates have in common, and one fastener through each.
namespace kollema::pattern {

using Point = Eigen::Vector2d;

/// A diameter with its signed limit deviations.
struct Size {
    double nominal_mm = 0, plus_mm = 0, minus_mm = 0;
    double max_mm() const { return nominal_mm + plus_mm; }
    double min_mm() const { return nominal_mm + minus_mm; }
};

/// A zone of a tapped hole that is not projected: the axis may lean within its thread, and the fastener
/// stands out by as much as the plates on it are thick.
struct Leaning {
    double engaged_mm = 0, standing_out_mm = 0;
    double widening() const {
        return 1 + 2 * standing_out_mm / engaged_mm;
    } ///< of the zone, at the fastener's end
};

/// A hole that is longer than wide; its width is what scatters as its size.
struct SlottedHole {
    double length_mm = 0;     ///< over all
    double direction_deg = 0; ///< from x to y
};

struct Plate {
    bool threaded = false; ///< carries the fastener on the axis of its hole, by a thread or pressed in; then
                           ///< it has no diameter
    Size hole;
    double position_mm = 0; ///< diameter of the zone in which the axis of a hole may lie
    bool bonus =
        false; ///< the zone grows by what a hole is larger than its least (maximum material, ISO 2692)
    std::optional<Leaning> leaning = {}; ///< of a threaded plate whose zone is not projected
    std::optional<SlottedHole> slot = {};
};

/// A dowel of which two flats leave lands of this width, so that it locates across them only.
struct Flattened {
    double land_mm = 0;
    double free_along_deg = 0; ///< where it leaves room, in the plate that carries it
};

/// Holes that are alike in every plate: all screws, all dowels, the one that is slotted.
struct Group {
    Size fastener;
    std::vector<Point> holes;
    std::vector<Plate> plates; ///< the same plates in every group, in the same order
    std::optional<Flattened> flattened = {};
};

enum class Spread { uniform, normal }; ///< normal: σ a sixth of the width, cut at its ends

struct Pattern {
    std::vector<Group> groups;
    bool may_move = true; ///< plates shift and turn until every fastener passes
    Spread positions = Spread::uniform, sizes = Spread::uniform;

    std::size_t plates() const { return groups.front().plates.size(); }
    std::vector<Point> holes() const; ///< of all groups, one after the other
};

/// Errors (file): no group or a group without holes, two holes in one place, fewer than two plates or more
/// than most_plates, other numbers of them in other groups, more than one that carries a group's fasteners or
/// another than that of another group, deviations the wrong way round, a diameter that is not above zero, a
/// zone below zero, a slot shorter than wide, lands wider than the dowel or a flattened one that no plate
/// carries, values beyond stack::largest_size.
Result<void> validate(const Pattern& pattern);

/// Whether every combination within the limits goes together.  With clearances c = (hole − fastener)/2 at
/// their least and zones of diameter z: every c ≥ 0, and for each two plates (z₁ + z₂)/2 ≤ c₁ + c₂, c of a
/// threaded plate being 0 and z wider by its leaning: the fixed and floating fastener formulas of ASME Y14.5,
/// appendix on formulas for positional tolerancing.  A bonus changes nothing: there is none at the least
/// hole.  Where all holes are alike movement is no help: two may both lie outwards in one plate and inwards
/// in the other.  A single hole in plates that may move needs the clearances alone.  Where holes differ one
/// may spare what another lacks: then also where a way to place the plate by the errors is known that holds
/// in the worst case, and else not, though it might.
bool always_fits(const Pattern& pattern);

/// What a plate's holes of a group leave free at the worst, or its fasteners take up where it carries them:
/// least hole less the zone, greatest fastener and the zone (virtual condition, ASME Y14.5).
double virtual_condition_mm(const Group& group, std::size_t plate);

/// How much a hole has to do with what does not go together.
struct Governing {
    std::size_t hole = 0; ///< of Pattern::holes()
    double share = 0;     ///< of the failures; all sum to 1
};

struct Yield {
    std::uint64_t samples = 0, seed = 0;
    double yield = 0;
    stack::Interval ci95;             ///< Wilson's
    std::vector<Governing> governing; ///< the greatest first; empty where all go together
};

/// Draws the pattern; each assembly is decided by a placement that works or a proof that none does.  Same
/// seed, same bits, on any number of threads and with any instructions.  Empty when stopped.  Precondition:
/// validate() passed.
std::optional<Yield> simulate(const Pattern& pattern, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going = {});

}
