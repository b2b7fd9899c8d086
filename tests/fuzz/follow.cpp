#include "follow.hpp"
#include "assembly/placement.hpp"
#include "assembly/requirement_result.hpp"
#include "check/evaluation.hpp"
#include "drawing/section.hpp"
#include "file/project_file.hpp"
#include <cctype>
#include <cmath>
#include <string_view>

namespace kollema::fuzz {
namespace {

/// Thrown within this file: what is not as it must be.
struct Fault {
    std::string what;
};

void must_be(bool good, std::string what) {
    if (!good) throw Fault{std::move(what)};
}

void must_be_finite(double value, const char* what) {
    must_be(std::isfinite(value), std::string(what) + " is no number");
}

/// "nan" and "inf" as words of their own, not as a part of "resonance" or "information".
void must_hold_numbers(const std::string& text) {
    for (const std::string_view word : {"nan", "inf"})
        for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + 1)) {
            const auto letter = [&](std::size_t i) {
                return i < text.size() && std::isalnum(static_cast<unsigned char>(text[i])) != 0;
            };
            must_be((at > 0 && letter(at - 1)) || letter(at + word.size()), "a text says " + text);
        }
}

void must_be_sound(const Project& project) {
    if (const auto defect = first_defect(project)) throw Fault{"a defect: " + in_one_line(*defect)};
}

void must_survive_its_file(const Project& project) {
    must_be_sound(project);
    const std::string text = file::to_json(project);
    const auto again = file::from_json(text, "again");
    must_be(again.has_value(), again ? "" : "not read again: " + in_one_line(again.error()));
    // Bytes that are no UTF-8 are replaced when a project is written; everything else stays.
    must_be(file::to_json(*again) == text, "it changes when it is written and read");
}

/// The kernel makes no part of the run: what it would cut has a test of its own.
drawing::Cut uncut(const Part&, const Frame&, const Frame&, const drawing::Strip&) {
    return {{{{{0, 0}, {1, 0}, {1, 1}}}}, {}};
}

void look_at_sections(const Project& project, const assembly::Placement& placement) {
    for (const auto& joint : project.joints) {
        const auto section = drawing::section_of(project, placement, joint, uncut);
        if (!section) continue;
        for (const double edge :
             {section->window.left, section->window.right, section->window.top, section->window.bottom})
            must_be_finite(edge, "an edge of a section");
        for (const auto unit : {LengthUnit::mm, LengthUnit::inch})
            for (const auto& callout :
                 drawing::callouts_of(project, joint, *placement.designs.at(joint.id), *section, unit))
                must_hold_numbers(callout.text);
    }
}

void look_at_gaps(const Project& project, const assembly::Placement& placement) {
    for (const auto& requirement : project.requirements) {
        const auto result = assembly::evaluate(project, placement, requirement);
        if (!result) continue;
        for (const double value :
             {result->nominal, result->worst_case ? result->worst_case->min : 0,
              result->worst_case ? result->worst_case->max : 0, result->rss.min, result->rss.max,
              result->distribution.mean, result->distribution.sigma, result->distribution.yield,
              result->distribution.below, result->distribution.above})
            must_be_finite(value, "a figure of a gap");
        must_be(result->distribution.yield >= 0 && result->distribution.yield <= 1, "a yield outside 0 to 1");
        for (const auto& step : result->working)
            must_be_finite(step.value, "a step of the working");
    }
}

std::size_t try_fixes(const Project& project, const check::Findings& findings) {
    std::size_t count = 0;
    for (const auto& finding : findings) {
        for (const auto unit : {LengthUnit::mm, LengthUnit::inch}) {
            must_hold_numbers(in_words(finding.message, unit));
            must_hold_numbers(in_words(finding.because, unit));
        }
        for (const auto& fix : finding.fixes) {
            must_hold_numbers(in_words(fix.text));
            ++count;
            if (const auto fixed = edit::apply(project, fix.changes)) {
                must_be_sound(*fixed);
                if (count > 1) continue;
                must_survive_its_file(*fixed);
                (void)check::all_rules(*fixed); // the rules see what a fix leaves behind
            }
        }
    }
    return count;
}

}

Followed follow(const std::string& text) {
    Followed result;
    const auto project = file::from_json(text, "fuzzed");
    if (!project) return result;
    result.accepted = true;
    try {
        must_survive_its_file(*project);
        if (const auto placement = assembly::place(*project)) {
            look_at_sections(*project, *placement);
            look_at_gaps(*project, *placement);
        }
        if (const auto findings = check::all_rules(*project)) result.fixes = try_fixes(*project, *findings);
    } catch (const Fault& fault) {
        result.fault = fault.what;
    }
    return result;
}

}
