#pragma once
#include "contact/sampling.hpp"
#include "stack/exact.hpp"

namespace kollema::contact {

/// Everything about one gap.
struct GapAnswer {
    double nominal = 0;                        ///< clearances at nominal, floats by chance in their middle
    std::optional<stack::Interval> worst_case; ///< none where nothing goes together
    stack::Interval rss;
    stack::GapProbabilities distribution;
    /// Else floats depend on each other or the exact form did not converge, and the distribution is the
    /// simulation's.
    bool exact = true;
    bool one_sided = false; ///< then `sensitivity` is a mean: it changes with the corners that carry
    std::vector<stack::Contribution> contributions; ///< sizes, then clearances, in order
    std::vector<Vector3> reactions;                 ///< by contact: force for a unit force along the gap;
                                                    ///< none where it changes with what carries
};

/// Contacts that tie each other, and what that costs.
struct Misfit {
    std::vector<std::size_t> contacts;
    std::optional<stack::Moments> disagreement; ///< in mm; none where several null vectors tie them
    double together = 1;                        ///< share of assemblies that go together
    bool presses = false; ///< it forbids by contacts that only push: `disagreement` is the room between them
};

/// The closed forms of a gap; where it is not exact its distribution is filled in from a simulation.
GapAnswer answer(const Toleranced& assembly, const Effects& effects, std::size_t gap);
void take_from(const Simulated& simulated, std::size_t gap, GapAnswer& answer);

/// The gap's density in 1/mm over a range, for pictures: exact where the floats are independent, else from
/// the bins of a simulation.
struct DensityPoint {
    double gap = 0, density = 0;
};
std::vector<DensityPoint> exact_density(const Toleranced& assembly, const Effects& effects, std::size_t gap,
                                        const stack::Interval& range);
std::vector<DensityPoint> drawn_density(const Simulated& simulated, const Bins& bins);

/// By group the contacts that shape holds more than once and that some size moves against each other.
std::vector<std::vector<std::size_t>> disputed(const Toleranced& assembly, const Held& held);

/// Groups of contacts that shape ties together and that a size enters, in file order.  `simulated` answers
/// for groups with several null vectors; where it holds none of them they are drawn here.
std::vector<Misfit> misfits(const Toleranced& assembly, const Held& held, const Simulated& simulated);

}
