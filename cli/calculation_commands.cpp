#include "commands.hpp"
#include "fastening/engagement.hpp"
#include "fastening/tightening.hpp"
#include "fit/press_fit.hpp"
#include "fit/taper.hpp"
#include "quantity/expression.hpp"
#include "standards/fits.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;
using Pairs = std::vector<std::pair<std::string, std::string>>;

Json json(const Working& working) {
    Json steps = Json::array();
    for (const auto& s : working)
        steps.push_back({{"name", s.name},
                         {"formula", s.formula},
                         {"figures", s.figures},
                         {"value", s.value},
                         {"unit", s.unit},
                         {"source", s.source}});
    return steps;
}

void add_working(Pairs& rows, const Working& working) {
    for (const auto& s : working)
        rows.emplace_back(s.name, fmt::format("{} = {} = {} {}  [{}]", s.formula, s.figures,
                                              plain(s.value, 6), s.unit, s.source));
}

Json range(fit::Range r, double factor = 1) { return {{"min", r.min * factor}, {"max", r.max * factor}}; }

std::string from_to(fit::Range r, int decimals, const char* unit) {
    return fmt::format("{} to {} {}", fixed(r.min, decimals), fixed(r.max, decimals), unit);
}

/// An option that holds a number, with the option's name in front of what is wrong with it.
Result<double> number(const char* option, const std::string& text) {
    auto value = parse_number(text);
    if (!value) value.error().what = fmt::format("{} {}", option, value.error().what);
    return value;
}

Result<double> length(const char* option, const std::string& text, const Context& context) {
    auto value = parse_positive_length_mm(text, context.unit);
    if (!value) value.error().what = fmt::format("{} {}", option, value.error().what);
    return value;
}

Result<fit::PressPair> pair_of(const Context& context, const PressOptions& o) {
    fit::PressPair pair;
    const auto read = [](Result<double> value, double& into) -> Result<void> {
        if (!value) return tl::unexpected(value.error());
        into = *value;
        return {};
    };
    auto good = read(parse_positive_length_mm(o.size, context.unit), pair.diameter_mm);
    if (good) good = read(length("--length", o.length, context), pair.length_mm);
    if (good) good = read(length("--hub-od", o.hub_od, context), pair.hub_outer_mm);
    if (good && o.shaft_id) good = read(length("--shaft-id", *o.shaft_id, context), pair.shaft_bore_mm);
    if (good) good = read(number("--friction", o.friction), pair.friction);
    if (good) good = read(number("--rz-hub", o.rz_hub), pair.rz_hub_um);
    if (good) good = read(number("--rz-shaft", o.rz_shaft), pair.rz_shaft_um);
    if (good) good = read(number("--temperature", o.temperature), pair.temperature_C);
    if (!good) return tl::unexpected(good.error());
    const auto hub = standards::material(o.hub_material);
    if (!hub) return tl::unexpected(hub.error());
    const auto shaft = standards::material(o.shaft_material);
    if (!shaft) return tl::unexpected(shaft.error());
    pair.hub = *hub;
    pair.shaft_material = *shaft;
    const auto f = standards::fit(pair.diameter_mm, o.fit);
    if (!f) return tl::unexpected(f.error());
    const auto limits = [&](const standards::LimitDeviations& d) {
        return fit::SizeLimits{pair.diameter_mm + d.upper_um / 1000, pair.diameter_mm + d.lower_um / 1000};
    };
    pair.hole = limits(f->hole);
    pair.shaft = limits(f->shaft);
    return pair;
}

}

Answered press(const Context& context, const PressOptions& options) {
    const auto pair = pair_of(context, options);
    if (!pair) return tl::unexpected(pair.error());
    const auto r = fit::press_fit(*pair);
    if (!r) return tl::unexpected(r.error());
    const double lengths = context.length(1);
    const Json j{{"size", context.length(pair->diameter_mm)},
                 {"unit", context.symbol()},
                 {"fit", options.fit},
                 {"interference", range(r->interference_mm, lengths)},
                 {"pressure", range(r->pressure_MPa)},
                 {"axial_force", range(r->axial_force_N)},
                 {"torque", range(r->torque_Nm)},
                 {"hub_stress", {{"max", r->hub_stress_MPa}}},
                 {"shaft_stress", {{"max", r->shaft_stress_MPa}}},
                 {"hub_safety", r->hub_safety},
                 {"shaft_safety", r->shaft_safety},
                 {"press_in_force", {{"max", r->press_in_force_N}}},
                 {"heat_hub_to", r->heat_hub_to_C},
                 {"cool_shaft_to", r->cool_shaft_to_C ? Json(*r->cool_shaft_to_C) : Json(nullptr)},
                 {"bore_change", r->bore_change_mm ? range(*r->bore_change_mm, lengths)
                                                   : Json{{"min", nullptr}, {"max", nullptr}}},
                 {"working", json(r->working)},
                 {"cautions", r->cautions}};
    Pairs rows{{"interference", fmt::format("{} to {}", context.shown(r->interference_mm.min),
                                            context.shown(r->interference_mm.max))},
               {"pressure", from_to(r->pressure_MPa, 2, "MPa")},
               {"axial force", from_to(r->axial_force_N, 0, "N")},
               {"torque", from_to(r->torque_Nm, 2, "N·m")},
               {"stress at the hub's bore",
                fmt::format("{} MPa, safety {}", fixed(r->hub_stress_MPa, 1), fixed(r->hub_safety, 2))},
               {"stress in the shaft",
                fmt::format("{} MPa, safety {}", fixed(r->shaft_stress_MPa, 1), fixed(r->shaft_safety, 2))},
               {"force to press in", fixed(r->press_in_force_N, 0) + " N"},
               {"heat the hub to", fixed(r->heat_hub_to_C, 0) + " °C"},
               {"cool the shaft to",
                r->cool_shaft_to_C ? fixed(*r->cool_shaft_to_C, 0) + " °C" : "no cold is enough"}};
    if (r->bore_change_mm)
        rows.emplace_back("change of the shaft's bore",
                          fmt::format("{} to {}", context.shown(r->bore_change_mm->min),
                                      context.shown(r->bore_change_mm->max)));
    add_working(rows, r->working);
    for (const auto& caution : r->cautions)
        rows.emplace_back("caution", caution);
    return Answer{j, pairs(rows)};
}

Answered torque(const std::string& name, const std::string& grade, const std::string& friction_text,
                const std::string& material) {
    const auto friction = number("--friction", friction_text);
    if (!friction) return tl::unexpected(friction.error());
    const auto t = fastening::tighten(name, grade, *friction, material);
    if (!t) return tl::unexpected(t.error());
    const Json j{{"name", name},
                 {"grade", grade},
                 {"friction", *friction},
                 {"preload", t->preload_N},
                 {"torque", t->torque_Nm},
                 {"proof_load", t->proof_load_N},
                 {"stress_area", t->stress_area_mm2},
                 {"head_pressure", t->head_pressure_MPa},
                 {"pressure_limit", t->pressure_limit_MPa ? Json(*t->pressure_limit_MPa) : Json(nullptr)},
                 {"working", json(t->working)},
                 {"caution", t->caution}};
    Pairs rows{{"preload", fmt::format("{} N", fixed(t->preload_N, 0))},
               {"torque", fmt::format("{} N·m", fixed(t->torque_Nm, 2))},
               {"proof load", fmt::format("{} N", fixed(t->proof_load_N, 0))},
               {"stress area", fmt::format("{} mm²", fixed(t->stress_area_mm2, 2))},
               {"pressure under the head", fmt::format("{} MPa", fixed(t->head_pressure_MPa, 0))}};
    add_working(rows, t->working);
    rows.emplace_back("caution", t->caution);
    return Answer{j, pairs(rows)};
}

Answered engagement(const Context& context, const std::string& name, const std::string& grade,
                    const std::string& material) {
    Working working;
    const auto length = fastening::engagement(name, grade, material, &working);
    if (!length) return tl::unexpected(length.error());
    const auto thread = standards::thread(name);
    const double rule = standards::material(material)->engagement_diameters * thread->major_mm;
    const Json j{{"name", name},
                 {"unit", context.symbol()},
                 {"grade", grade},
                 {"material", material},
                 {"minimum_length", context.length(length->minimum_mm)},
                 {"inner_thread", context.length(length->inner_strips_mm)},
                 {"screw_thread", context.length(length->outer_strips_mm)},
                 {"at_greatest_rm", context.length(length->at_greatest_rm_mm)},
                 {"rule_of_thumb", context.length(rule)},
                 {"working", json(working)}};
    Pairs rows{{"minimum length", context.shown(length->minimum_mm)},
               {"rule of thumb", context.shown(rule) + " (common practice)"}};
    add_working(rows, working);
    return Answer{j, pairs(rows)};
}

Answered taper(const Context&, const std::string& text) {
    const auto t = fit::parse_taper(text);
    if (!t) return tl::unexpected(t.error());
    const Json j{{"ratio", t->ratio},
                 {"included_angle", t->included_angle_deg},
                 {"half_angle", t->half_angle_deg},
                 {"slope_angle", t->slope_angle_deg},
                 {"contradiction", t->contradiction ? Json(*t->contradiction) : Json(nullptr)}};
    Pairs rows{
        {"taper", fmt::format("1:{} (the diameter changes by 1 over this length)", plain(t->ratio, 8))},
        {"included angle", fmt::format("{}°", fixed(t->included_angle_deg, 5))},
        {"half angle", fmt::format("{}°", fixed(t->half_angle_deg, 5))},
        {"slope 1:" + plain(t->ratio, 8),
         fmt::format("{}° (the height changes by 1)", fixed(t->slope_angle_deg, 5))}};
    if (t->contradiction) rows.emplace_back("contradiction", *t->contradiction);
    return Answer{j, pairs(rows)};
}

}
