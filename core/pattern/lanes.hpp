#pragma once
#include "stack/instructions.hpp"
#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

/// Internal to patterns: many assemblies side by side, decided with the vector instructions of the machine.
namespace kollema::pattern {

inline constexpr std::size_t together = 8; ///< assemblies that are sought for side by side
inline constexpr std::size_t most_plates = 16;

/// What differs by less is equal: sizes are decimal numbers, and a turn rounds.
inline constexpr double rounding = 1e-13; ///< of the sizes and of the pattern's width

/// What is the same in all assemblies.  Plate 0 stays; row p·holes + i is hole i of plate p.
struct Arrangement {
    std::size_t holes = 0, plates = 0;
    /// By hole: the axis of its fastener is sought too; else plate 0 carries it at the middle of its hole.
    std::vector<char> axis_is_free = {};
    /// By row, where slots are: their direction, in the plate before it turns.
    struct Direction {
        double x = 1, y = 0;
        bool turns = false; ///< with the plate of the row; else it is plate 0's
    };
    std::vector<Direction> slots = {}; ///< empty: all holes are round
    std::size_t rows() const { return holes * plates; }
};

/// Of assemblies side by side: number k of row r at [r·stride + k].
struct Columns {
    const double *x = nullptr, *y = nullptr; ///< middles of the holes
    const double* reach =
        nullptr; ///< how far a fastener's axis may lie from the middle; of carried ones plate 0's is unread
    const double* half = nullptr; ///< half of the way along the slot; unread without slots
    std::size_t stride = 0;
};

enum class Verdict : std::uint8_t { open, fits, outside };

/// Room for one Deciding::decide, kept from call to call; and the weights of what it decided.
struct Room {
    explicit Room(const Arrangement& arrangement);
    std::vector<double> numbers;
    double* start = nullptr;  ///< on a border of 64 bytes
    double* weight = nullptr; ///< by row, `together` each: of outside ones, not all zero
};

/// Counts are multiples of eight.
struct Deciding {
    /// Whether the place of least squares works, or is so far off that none can.
    void (*quick)(const Arrangement&, const Columns&, Room&, std::size_t count, Verdict*);
    /// Of eight assemblies those that are open: a place that works, turned truly, or weights of the rows for
    /// which even the best place is outside.  Least greatest ½(|z|² − reach²) by a primal-dual interior point
    /// method (Nocedal & Wright, Numerical Optimization, 2006, ch. 19), the axes of the fasteners eliminated.
    void (*decide)(const Arrangement&, const Columns&, Room&, Verdict*);
};
/// Precondition: the machine has them.
const Deciding& deciding(stack::Instructions set);

}
