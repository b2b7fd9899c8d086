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
};

/// Draws assemblies: every size and clearance by its distribution, then a place within the floats, any that
/// they allow as likely.  Same seed, same bits, on any number of threads.  Empty when stopped.
std::optional<Simulated> simulate(const Toleranced& assembly, const Effects& effects,
                                  const stack::Sampling& sampling, const stack::KeepGoing& keep_going = {});

}
