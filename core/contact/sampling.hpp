#pragma once
#include "contact/effects.hpp"
#include "stack/monte_carlo.hpp"

namespace kollema::contact {

struct Simulated {
    std::vector<stack::MonteCarlo> gaps; ///< of the assemblies that go together
    std::vector<double> below, above;    ///< by gap: shares that miss the limits
    std::uint64_t left_out = 0;          ///< that do not
    std::vector<double> together;        ///< by group of tied floats: the share that one suits
    std::vector<std::vector<std::size_t>> groups;
    std::vector<std::uint64_t> bins; ///< of the histogram that was asked for
    struct Opening {
        std::size_t contact = 0;
        stack::Moments mm; ///< at the corner that is farthest open
    };
    std::vector<Opening> stands_off; ///< contacts that something closes, where others may keep them open
};

/// A histogram of one gap between two values, for pictures.
struct Bins {
    std::size_t gap = 0, count = 0;
    stack::Interval range;
};

/// Draws assemblies: every size and clearance by its distribution, then a place within the floats, any that
/// they allow as likely.  Same seed, same bits, on any number of threads.  Empty when stopped.
std::optional<Simulated> simulate(const Toleranced& assembly, const Effects& effects,
                                  const stack::Sampling& sampling, const stack::KeepGoing& keep_going = {},
                                  const std::optional<Bins>& bins = {});

}
