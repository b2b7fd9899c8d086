#pragma once
#include "stack/chain.hpp"
#include <limits>
#include <optional>
#include <string>
#include <vector>

/// A gap as people write it down: a formula of sizes, closed loops of vectors, or both.  Every value is the
/// text of an expression; lengths in any one unit, angles in degrees.
namespace kollema::formula {

struct Named {
    std::string name, value;
};

struct Unknown {
    std::string name;
    double guess = 0; ///< picks the branch
    double min = -std::numeric_limits<double>::infinity(), max = std::numeric_limits<double>::infinity();
    bool is_angle = false;
};

/// One side of a loop: so long, along so many degrees from x to y, raised so many towards z.
struct Side {
    std::string length, angle;
    std::optional<std::string> elevation;
};

/// A move along, or a turn about, an axis of the frame that the step before left.
struct FrameStep {
    bool turns = false;
    char axis = 'x';
    std::string by;
};

enum class Closes { all, place, turn };

/// Either sides that sum to zero, or steps that end in the first frame.
struct Loop {
    std::vector<Side> sides;
    std::vector<FrameStep> steps;
    Closes closes = Closes::all; ///< of steps
};

struct Gap {
    std::string id, name, value;
    stack::Limits limits;
};

struct Description {
    std::vector<stack::Contributor> sizes; ///< their sensitivity is what is sought
    std::vector<Named> definitions;        ///< in any order
    std::vector<Unknown> unknowns;
    std::vector<Loop> loops;
    std::vector<std::string> equations; ///< each is zero
    std::vector<Gap> gaps;
};

}
