#include "sampling.hpp"
#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <string_view>

namespace kollema::cli {
namespace {

std::optional<std::uint64_t> whole_number(std::string_view text) {
    std::uint64_t number = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (error != std::errc{} || end != text.data() + text.size()) return std::nullopt;
    return number;
}

tl::unexpected<Failure> refuse(std::string what, std::string why, std::string remedy) {
    return fail({std::move(what), std::move(why), std::move(remedy), FailureKind::argument});
}

std::optional<stack::Share> read_share(std::string_view text) {
    const auto slash = text.find('/');
    if (slash == std::string_view::npos) return std::nullopt;
    const auto number = whole_number(text.substr(0, slash)), of = whole_number(text.substr(slash + 1));
    if (!number || !of || *number < 1 || *number > *of) return std::nullopt;
    return stack::Share{*number, *of};
}

}

stack::Sampling Drawing::sampling(std::uint64_t usual) const {
    return {.samples = samples.value_or(usual), .seed = seed, .share = share, .ledger = ledger};
}

std::uint64_t usual_samples(std::size_t rows) {
    constexpr double most = 1e6, least = 1000, draws = 1e9;
    return static_cast<std::uint64_t>(std::clamp(draws / static_cast<double>(rows), least, most));
}

Result<Drawing> drawing_of(const SamplingOptions& options) {
    constexpr std::int64_t most_samples = 1'000'000'000'000;
    Drawing drawing;
    if (options.samples) {
        if (*options.samples < 1 || *options.samples > most_samples)
            return refuse(fmt::format("--samples {}", *options.samples),
                          "the number must lie between 1 and a million million", "Give for example 1000000");
        drawing.samples = static_cast<std::uint64_t>(*options.samples);
    }
    const auto seed = whole_number(options.seed);
    if (!seed)
        return refuse("--seed " + options.seed, "a seed is a whole number from 0 to 2^64 - 1",
                      "Give for example 1");
    drawing.seed = *seed;
    if (options.share) {
        const auto share = read_share(*options.share);
        if (!share)
            return refuse("--share " + *options.share,
                          "a share is K/N: part K of N, whole numbers with K from 1 to N",
                          "Give for example 1/4");
        drawing.share = *share;
    }
    return drawing;
}

}
