#pragma once
#include "formula/description.hpp"
#include "formula/tape.hpp"
#include "quantity/result.hpp"

namespace kollema::formula {

/// What is to be zero, and where it comes from.
struct Equation {
    Tape::At value = 0;
    std::string from; ///< "loop 1, along x"
};

/// A description made ready to be computed: one tape, of which the first inputs are the sizes and the next
/// the unknowns.
struct Model {
    Tape tape;
    std::vector<stack::Contributor> sizes;
    std::vector<Unknown> unknowns;
    std::vector<Equation> equations;
    struct Gap {
        std::string id, name;
        stack::Limits limits;
        Tape::At value = 0;
        /// What a simulation counts: only draws of which these sizes lie from … to before …; all where empty.
        struct Only {
            std::size_t size = 0;
            double from = 0, to = 0;
        };
        std::vector<Only> only = {};
    };
    std::vector<Gap> gaps;

    std::size_t inputs() const { return sizes.size() + unknowns.size(); }
};

/// Each size is tried on both sides of its zone, each time through the whole formula: seconds for so many.
inline constexpr std::size_t most_sizes = 4000;

/// Errors (not held): more sizes than that.  Errors (file): a name that is reserved, stands twice or is no
/// name; what cannot be read in an expression; definitions that need each other in a circle; sizes that
/// stack::validate() refuses; limits the wrong way round; a loop of nothing; no gap.  Errors (not held):
/// other numbers of equations than of unknowns.
Result<Model> compile(const Description& description);

}
