#include "kind_parts.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <map>
#include <set>

using namespace kollema;
using namespace kollema::test;

namespace {

/// A joint with its members: what a remedy changes.
struct Bench {
    kind::AnyKind kind;
    std::vector<double> thickness_mm;
    std::string material;
    kind::Site site() const { return site_of(thickness_mm, material); }
};

std::optional<Bench> mended(Bench bench, const kind::Remedy& remedy) {
    for (const auto& change : remedy.changes) {
        if (const auto* set = std::get_if<kind::SetParameter>(&change)) {
            const auto kind = kind::with_parameter(bench.kind, set->key, set->value);
            if (!kind) return std::nullopt;
            bench.kind = *kind;
        }
        if (const auto* set = std::get_if<kind::SetThickness>(&change))
            bench.thickness_mm.at(set->member) = set->thickness_mm;
        // MatchHole: here every hole is as designed.
    }
    return bench;
}

std::optional<kind::Needs> needs_of_all(const Bench& bench) {
    const auto site = bench.site();
    const auto design = kind::design(bench.kind, site);
    if (!design) return std::nullopt;
    return kind::needs(bench.kind, site, *design, as_designed(*design));
}

/// How far from what is wanted the worst need of a rule is, with its severity before all.
std::pair<int, double> badness(const kind::Needs& needs, const std::string& rule) {
    std::pair<int, double> worst{-1, 0};
    for (const auto& need : needs)
        if (need.rule == rule)
            worst = std::max(worst, {static_cast<int>(need.severity), std::abs(need.is - need.wanted)});
    return worst;
}

/// The kind as it is offered and in its other sizes, each also with lengths set by hand.
std::vector<kind::AnyKind> variants(const kind::AnyKind& kind) {
    std::vector<kind::AnyKind> all;
    const auto about = kind::info(kind);
    const auto sizes = choices_of(kind, std::string(about.size_parameter));
    for (std::size_t i = 0; i < sizes.size(); i += 3) {
        const auto sized = kind::with_parameter(kind, about.size_parameter, sizes[i]);
        if (!sized) continue;
        all.push_back(*sized);
        const auto lengths = choices_of(*sized, "length");
        for (std::size_t l = 0; l < lengths.size(); l += 2)
            if (const auto cut = kind::with_parameter(*sized, "length", lengths[l])) all.push_back(*cut);
    }
    return all;
}

}

TEST_CASE("every remedy makes better what it is offered for, in every size and grip", "[kind][long]") {
    std::map<std::string, int> tried;
    for (const auto& offered : kind::all_kinds()) {
        if (!kind::fits(offered, {kind::Seat::face, kind::Seat::face}))
            continue; // along an axis: tests/core/axes.cpp
        for (const auto& kind : variants(offered))
            for (const std::vector<double>& thickness :
                 {std::vector{2.0, 3.0}, {4.0, 12.0}, {10.0, 5.0}, {12.0, 40.0}, {35.0, 30.0}, {60.0, 80.0}})
                for (const char* material : {"aluminium", "c45"}) {
                    const Bench bench{kind, thickness, material};
                    const auto needs = needs_of_all(bench);
                    if (!needs) continue; // cannot be made at all, and says so elsewhere
                    for (const auto& need : *needs)
                        for (const auto& remedy : need.remedies) {
                            CAPTURE(kind::info(kind).key, need.rule, thickness, material,
                                    in_words(need.message, LengthUnit::mm),
                                    in_words(remedy.text, LengthUnit::mm));
                            const auto after = mended(bench, remedy);
                            CHECK(after.has_value());
                            const auto then = after ? needs_of_all(*after) : std::nullopt;
                            CHECK(then.has_value()); // what is proposed can be made
                            if (then) CHECK(badness(*then, need.rule) < badness(*needs, need.rule));
                            ++tried[need.rule];
                        }
                }
    }
    for (const char* rule : {"thread-engagement", "shank-in-thread", "press-depth", "rivet-allowance"}) {
        CAPTURE(rule);
        CHECK(tried[rule] > 10);
    }
}
