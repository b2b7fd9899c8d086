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
    };
    std::vector<Gap> gaps;

    std::size_t inputs() const { return sizes.size() + unknowns.size(); }
};

/// Errors (file): a name that is reserved, stands twice or is no name; what cannot be read in an expression;
/// definitions that need each other in a circle; sizes that stack::validate() refuses; limits the wrong way
/// round; a loop of nothing; no gap.  Errors (not held): other numbers of equations than of unknowns.
Result<Model> compile(const Description& description);

}
