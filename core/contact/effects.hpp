#pragma once
#include "contact/resting_place.hpp"
#include <map>

namespace kollema::contact {

/// What forces at the contacts make of everything that scatters: the change of a gap for each of it.  What is
/// not named does nothing.
struct Pulls {
    std::map<std::size_t, double> of_size;  ///< by size: for a unit of its deviation
    std::map<std::size_t, double> of_push;  ///< by contact: for a unit of a pushed radius
    std::map<std::size_t, Vector> of_float; ///< by contact: the forces at its rows that float or open
};

struct GapEffects {
    double nominal = 0;                    ///< with no deviation and every float in its middle
    std::map<std::size_t, Vector3> forces; ///< by contact, for a unit force along the gap; of several ways to
                                           ///< carry it the least loaded
    Pulls pulls;                           ///< by these
    std::vector<Pulls> spare;              ///< by forces that carry nothing and may be added
    bool exact = true;                     ///< no float on the way depends on another or on an opening
    bool one_sided = false;                ///< openings are on the way: the forces change from place to place
};

/// Everything that scatters reduced to what it does to the gaps and to the floats, ready for closed forms and
/// for sampling.
struct Effects {
    Held held;
    std::vector<GapEffects> gaps;
    struct Shift {
        std::size_t by = 0; ///< size or contact
        Vector floating;    ///< what a unit of it does to the block's floating rows
    };
    struct OfBlock {
        std::vector<Shift> sizes, pushes;
        std::vector<RestingPlace> resting; ///< of what openings and forces place
    };
    std::vector<OfBlock> blocks; ///< of those in which floats depend on each other or openings; else empty
};

/// Errors: a gap that is not held, a push that nothing stops.
Result<Effects> effects(const Toleranced& assembly);

}
