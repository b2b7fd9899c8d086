#pragma once
#include "quantity/result.hpp"
#include "stack/sampling.hpp"
#include <cstdint>
#include <optional>
#include <string>

namespace kollema::cli {

/// What a command line says of a simulation.
struct SamplingOptions {
    std::optional<std::int64_t> samples; ///< else as many as a few seconds allow
    std::string seed = "1";
    std::optional<std::string> share; ///< "2/5"
};

/// The same, read.
struct Drawing {
    std::optional<std::uint64_t> samples;
    std::uint64_t seed = 1;
    stack::Share share{};
    stack::Ledger* ledger = nullptr;

    /// `usual`: where none were asked for.
    stack::Sampling sampling(std::uint64_t usual) const;
};

/// Samples of a chain where none were asked for: a million, or as many as a few seconds allow.
std::uint64_t usual_samples(std::size_t rows);

/// Errors (argument): a seed that is no whole number from 0 to 2^64 − 1, fewer than one sample or more than a
/// million million, a share that is not K/N with K from 1 to N.
Result<Drawing> drawing_of(const SamplingOptions& options);

}
