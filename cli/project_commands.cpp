#include "check/rules.hpp"
#include "commands.hpp"
#include "file/project_file.hpp"
#include <fmt/format.h>
#include <map>
#include <nlohmann/json.hpp>

namespace kollema::cli {

using Json = nlohmann::ordered_json;

Answered check(const std::string& file, const std::string& fail_on_text) {
    const auto fail_on = check::parse_severity(fail_on_text);
    if (!fail_on) return tl::unexpected(fail_on.error());
    const auto project = file::load(file);
    if (!project) return tl::unexpected(project.error());
    const auto findings = check::all_rules(*project);
    if (!findings) return tl::unexpected(findings.error());

    Json list = Json::array();
    std::map<check::Severity, int> counts;
    std::string text;
    bool failed = false;
    for (const auto& f : *findings) {
        Json parts = Json::array(), fixes = Json::array();
        for (const auto& part : f.parts)
            parts.push_back(part.text);
        for (const auto& fix : f.fixes)
            fixes.push_back(fix.text);
        list.push_back({{"rule", f.rule},
                        {"severity", check::name(f.severity)},
                        {"joint", f.joint.text.empty() ? Json(nullptr) : Json(f.joint.text)},
                        {"parts", parts},
                        {"message", f.message},
                        {"because", f.because},
                        {"fix", f.fixes.empty() ? Json(nullptr) : Json(f.fixes.front().text)},
                        {"fixes", fixes}});
        ++counts[f.severity];
        failed |= f.severity >= *fail_on;
        text += fmt::format("{} [{}] {}\n    because {}\n", check::name(f.severity), f.rule, f.message,
                            f.because);
        for (const auto& fix : f.fixes)
            text += "    fix: " + fix.text + "\n";
    }
    using enum check::Severity;
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
