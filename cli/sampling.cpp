#include "sampling.hpp"
#include <charconv>
#include <fmt/format.h>

namespace kollema::cli {

Result<std::uint64_t> seed_of(const std::string& text) {
    std::uint64_t seed = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), seed);
    if (error == std::errc{} && end == text.data() + text.size()) return seed;
    return fail({.what = "--seed " + text,
                 .why = "a seed is a whole number from 0 to 2^64 - 1",
                 .remedy = "Give for example 1",
                 .kind = FailureKind::argument});
}

Result<void> check_samples(const std::optional<std::int64_t>& samples) {
    constexpr std::int64_t most_samples = 1'000'000'000;
    if (samples && (*samples < 1 || *samples > most_samples))
        return fail({.what = fmt::format("--samples {}", *samples),
                     .why = "the number must lie between 1 and a thousand million",
                     .remedy = "Give for example 1000000",
                     .kind = FailureKind::argument});
    return {};
}

}
