#include "check/evaluation.hpp"
#include "commands.hpp"
#include "drawing/hole_text.hpp"
#include "file/project_file.hpp"
#include "geometry/crossings.hpp"
#include "joint/hardware_list.hpp"
#include "quantity/printable.hpp"
#include "quantity/text.hpp"
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
    const auto findings = geometry::all_findings(*project);
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

namespace {

std::string csv(const std::vector<joint::HardwareLine>& lines) {
    std::string text = "designation,standard,size,length_mm,strength,quantity,used_in,mass_kg\n";
    for (const auto& line : lines) {
        std::string used_in;
        for (const auto& joint : line.used_in)
            used_in += (used_in.empty() ? "" : " ") + joint.text;
        text += fmt::format("{},{},{},{},{},{},{},{}\n", csv_cell(line.designation), csv_cell(line.standard),
                            csv_cell(line.size), line.length_mm > 0 ? plain(line.length_mm) : "",
                            csv_cell(line.strength), line.quantity, csv_cell(used_in),
                            line.mass_kg ? plain(*line.mass_kg, 4) : "");
    }
    return text;
}

}

Answered bom(const Context& context, const std::string& file, const std::optional<std::string>& csv_file) {
    const auto project = file::load(file);
    if (!project) return tl::unexpected(project.error());
    if (csv_file)
        if (const auto sound = other_than_input("-o", *csv_file, file); !sound)
            return tl::unexpected(sound.error());
    const auto lines = joint::hardware_list(*project, joint::designs_of(*project));
    if (csv_file)
        if (const auto done = file::write_text_atomically(*csv_file, csv(lines)); !done)
            return tl::unexpected(done.error());
    Json list = Json::array();
    std::vector<Row> rows{{"quantity", "designation", "used in", "mass"}};
    for (const auto& line : lines) {
        Json used_in = Json::array();
        std::string names;
        for (const auto& joint : line.used_in) {
            used_in.push_back(joint.text);
            names += (names.empty() ? "" : ", ") + find(*project, joint)->name;
        }
        list.push_back({{"designation", line.designation},
                        {"standard", line.standard},
                        {"size", line.size},
                        {"length", line.length_mm > 0 ? Json(context.length(line.length_mm)) : Json(nullptr)},
                        {"strength", line.strength},
                        {"quantity", line.quantity},
                        {"used_in", used_in},
                        {"mass_kg", or_null(line.mass_kg)}});
        rows.push_back({std::to_string(line.quantity), line.designation, names,
                        line.mass_kg ? plain(*line.mass_kg, 3) + " kg" : "-"});
    }
    return Answer{Json{{"unit", context.symbol()}, {"lines", list}}, table(rows)};
}

Answered callouts(const Context& context, const std::string& file) {
    const auto project = file::load(file);
    if (!project) return tl::unexpected(project.error());
    Json parts = Json::array();
    std::string text;
    for (const auto& part : project->parts) {
        Json features = Json::array();
        text += part.name + "\n";
        for (const auto& feature : part.features) {
            const auto* hole = std::get_if<Hole>(&feature.shape);
            if (!hole) continue;
            const std::string callout = drawing::hole_text(*hole, context.unit);
            features.push_back({{"feature", feature.id.text}, {"name", feature.name}, {"callout", callout}});
            text += fmt::format("    {}: {}\n", feature.name, callout);
        }
        parts.push_back({{"part", part.id.text}, {"name", part.name}, {"features", features}});
    }
    return Answer{Json{{"unit", context.symbol()}, {"parts", parts}}, printable_lines(text)};
}

Answered schema() {
    const std::string text = file::json_schema();
    return Answer{Json::parse(text), text};
}

}
