#include "check/rules.hpp"
#include "commands.hpp"
#include "file/project_file.hpp"
#include <fmt/format.h>
#include <map>
#include <nlohmann/json.hpp>

namespace kollema::cli {

using Json = nlohmann::ordered_json;

namespace {

template <class T>
Json or_null(const std::optional<T>& value) {
    return value ? Json(*value) : Json(nullptr);
}

/// Lengths in the unit asked for; "unit" says what the two numbers are.
Json json(const check::Finding& f, const Context& context) {
    Json parts = Json::array(), fixes = Json::array();
    for (const auto& part : f.parts)
        parts.push_back(part.text);
    for (const auto& fix : f.fixes)
        fixes.push_back(in_words(fix.text, context.unit));
    const bool length = f.unit == Unit::length || f.unit == Unit::small_length;
    const auto number = [&](const std::optional<double>& value) {
        return value ? Json(length ? context.length(*value) : *value) : Json(nullptr);
    };
    return {{"rule", f.rule},
            {"severity", name(f.severity)},
            {"joint", f.joint.text.empty() ? Json(nullptr) : Json(f.joint.text)},
            {"requirement", f.requirement.text.empty() ? Json(nullptr) : Json(f.requirement.text)},
            {"parts", parts},
            {"member", or_null(f.where.member)},
            {"place", or_null(f.where.place)},
            {"is", number(f.is)},
            {"wanted", number(f.wanted)},
            {"unit", length ? symbol(context.unit) : symbol(f.unit, context.unit)},
            {"message", in_words(f.message, context.unit)},
            {"because", in_words(f.because, context.unit)},
            {"fix", f.fixes.empty() ? Json(nullptr) : fixes.front()},
            {"fixes", fixes}};
}

}

Answered check(const Context& context, const std::string& file, const std::string& fail_on_text) {
    const auto fail_on = parse_severity(fail_on_text);
    if (!fail_on) return tl::unexpected(fail_on.error());
    const auto project = file::load(file);
    if (!project) return tl::unexpected(project.error());
    const auto findings = check::all_rules(*project);
    if (!findings) return tl::unexpected(findings.error());

    Json list = Json::array();
    std::map<Severity, int> counts;
    std::string text;
    bool failed = false;
    for (const auto& f : *findings) {
        list.push_back(json(f, context));
        ++counts[f.severity];
        failed |= f.severity >= *fail_on;
        text += fmt::format("{} [{}] {}\n    because {}\n", name(f.severity), f.rule,
                            in_words(f.message, context.unit), in_words(f.because, context.unit));
        for (const auto& fix : f.fixes)
            text += "    fix: " + in_words(fix.text, context.unit) + "\n";
    }
    using enum Severity;
    text += fmt::format("{} errors, {} warnings, {} notes\n", counts[error], counts[warning], counts[note]);
    const Json j{
        {"findings", list},
        {"counts", {{"error", counts[error]}, {"warning", counts[warning]}, {"note", counts[note]}}}};
    return Answer{j, text, failed ? 1 : 0};
}

Answered schema() {
    const std::string text(file::json_schema());
    return Answer{Json::parse(text), text};
}

}
