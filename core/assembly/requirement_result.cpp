#include "assembly/requirement_result.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

/// What scatters, the floats of a joint as one.
std::size_t scattering(const Chain& chain) {
    std::set<JointId> joints;
    std::size_t sizes = 0;
    for (const auto& link : chain.links) {
        if (link.plus_mm == link.minus_mm) continue;
        if (link.kind == LinkKind::play)
            joints.insert(link.joint);
        else
            ++sizes;
    }
    return sizes + joints.size();
}

void decide(RequirementResult& result, const Requirement& requirement) {
    const bool none = result.drawn && result.drawn->none_goes_together();
    std::optional<stack::Interval> drawn;
    if (result.drawn) drawn = none ? stack::Interval{0, 0} : result.drawn->gap.ci95;
    auto verdict = stack::judge(requirement.decided_by, requirement.yield_wanted, scattering(result.chain),
                                result.worst_case, result.limits, result.distribution.yield, drawn);
    if (none) verdict.because += "; no assembly goes together";
    result.decided_by_worst_case = verdict.by_worst_case;
    result.undecided = verdict.undecided;
    result.decided_because = verdict.because;
    result.met = verdict.met;
}

Working working_of(const RequirementResult& result) {
    Working steps;
    for (const auto& link : result.chain.links) {
        Step step = link.working;
        step.name = link.name;
        steps.push_back(step);
    }
    const auto add = [&](const char* name, const char* formula, double value, const char* source) {
        steps.push_back(
            {name, formula, fmt::format("{} links", result.chain.links.size()), value, "mm", source});
    };
    add("nominal gap", "read off the assembly", result.nominal, "the parts as they are placed");
    if (result.worst_case) {
        add("worst case, smallest", "least over all limits and places", result.worst_case->min,
            "all limits at once");
        add("worst case, largest", "greatest over all limits and places", result.worst_case->max,
            "all limits at once");
    }
    add("root sum square, half width", "√Σ(sensitivity·half width)²", (result.rss.max - result.rss.min) / 2,
        "independent contributors");
    add("standard deviation", "√Σ(sensitivity·σ)²", result.distribution.sigma,
        "each contributor's own distribution");
    steps.push_back({"yield", "1 − P(below) − P(above)",
                     fmt::format("1 − {:.4g} − {:.4g}", result.distribution.below, result.distribution.above),
                     result.distribution.yield, "",
                     result.exact ? "exact inversion of the generating function at its saddle point"
                                  : "simulated: floats that depend on each other"});
    return steps;
}

Drawn drawn_at(const contact::Simulated& all, std::size_t point) {
    return {all.gaps[point], all.left_out, all.below[point], all.above[point]};
}

/// Tells a yield of 0.9973 to 0.0003 (one sigma) in a twentieth of a second; where that does not decide, more
/// are drawn, as many as a person waits for.
constexpr std::uint64_t usual_samples = 40'000, most_samples = 640'000;

/// One simulation for the distribution and its picture.
void draw(RequirementResult& result, contact::GapAnswer& answer, double yield_wanted) {
    const auto middle = answer.worst_case.value_or(answer.rss);
    const double margin = 0.02 * (middle.max - middle.min);
    const contact::Bins bins{result.chain.worst_point, 80, {middle.min - margin, middle.max + margin}};
    auto drawn = *contact::simulate(result.chain.system, result.chain.effects,
                                    {.samples = usual_samples, .seed = 1}, {}, bins);
    for (std::uint64_t samples = 4 * usual_samples;
         samples <= most_samples && drawn.left_out < drawn.gaps[result.chain.worst_point].samples &&
         !stack::decides(drawn.gaps[result.chain.worst_point].ci95, yield_wanted);
         samples *= 4)
        drawn = *contact::simulate(result.chain.system, result.chain.effects, {.samples = samples, .seed = 1},
                                   {}, bins);
    contact::take_from(drawn, result.chain.worst_point, answer);
    result.drawn = drawn_at(drawn, result.chain.worst_point);
    if (bins.range.max > bins.range.min) result.curve = contact::drawn_density(drawn, bins);
}

}

Result<RequirementResult> evaluate(const Project& project, const Placement& placement,
                                   const Requirement& requirement) {
    auto chain = chain_of(project, placement, requirement);
    if (!chain) return tl::unexpected(chain.error());
    RequirementResult result{.chain = std::move(*chain),
                             .limits = {requirement.lower_mm, requirement.upper_mm}};
    auto& answer = result.chain.answers[result.chain.worst_point];
    result.exact = answer.exact;
    if (!answer.exact) draw(result, answer, requirement.yield_wanted);
    result.nominal = answer.nominal;
    result.worst_case = answer.worst_case;
    result.rss = answer.rss;
    result.distribution = answer.distribution;
    decide(result, requirement);
    result.working = working_of(result);
    return result;
}

std::optional<Drawn> simulate(const RequirementResult& result, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going) {
    const auto all = contact::simulate(result.chain.system, result.chain.effects, sampling, keep_going);
    if (!all) return std::nullopt;
    return drawn_at(*all, result.chain.worst_point);
}

std::vector<contact::DensityPoint> exact_curve(const RequirementResult& result) {
    if (!result.exact || result.distribution.sigma == 0) return {};
    const double mean = result.distribution.mean, reach = 4 * result.distribution.sigma;
    double from = mean - reach, to = mean + reach;
    if (result.worst_case) {
        const double margin = 0.02 * (to - from);
        from = std::max(from, result.worst_case->min - margin);
        to = std::min(to, result.worst_case->max + margin);
    }
    return contact::exact_density(result.chain.system, result.chain.effects, result.chain.worst_point,
                                  {from, to});
}

}
