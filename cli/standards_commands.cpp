#include "commands.hpp"
#include "piece/view.hpp"
#include "quantity/expression.hpp"
#include "standards/catalogue.hpp"
#include "standards/fits.hpp"
#include "standards/holes.hpp"
#include "standards/threads.hpp"
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

namespace kollema::cli {
namespace {

using Json = nlohmann::ordered_json;

Json length_or_null(const Context& context, const std::optional<double>& mm) {
    return mm ? Json(context.length(*mm)) : Json(nullptr);
}

std::optional<double> first_or_none(const std::vector<double>& values) {
    return values.empty() ? std::nullopt : std::optional(values.front());
}

Json range(const Context& context, const standards::SizeRange& r) {
    return {{"max", length_or_null(context, r.max_mm)}, {"min", length_or_null(context, r.min_mm)}};
}

std::string shown(const Context& context, const standards::SizeRange& r) {
    const auto limit = [&](const std::optional<double>& mm) {
        return mm ? context.shown(*mm) : std::string("–");
    };
    return limit(r.max_mm) + " / " + limit(r.min_mm);
}

Json zone_json(const Context& context, const std::string& zone, const standards::LimitDeviations& limits) {
    return {{"zone", zone},
            {"upper", context.length(limits.upper_um / 1000)},
            {"lower", context.length(limits.lower_um / 1000)}};
}

std::string signed_pair(const Context& context, const standards::LimitDeviations& limits) {
    return fmt::format("{} / {}", signed_length(limits.upper_um / 1000, context.unit),
                       signed_length(limits.lower_um / 1000, context.unit));
}

}

Answered limits(const Context& context, const std::string& size_text, const std::string& zone_text) {
    const auto size = parse_positive_length_mm(size_text, context.unit);
    if (!size) return tl::unexpected(size.error());
    const auto zone = standards::parse_zone(zone_text);
    if (!zone) return tl::unexpected(zone.error());
    const auto limits = standards::limit_deviations(*size, *zone);
    if (!limits) return tl::unexpected(limits.error());
    Json j{{"size", context.length(*size)}, {"unit", context.symbol()}};
    j.update(zone_json(context, zone->text(), *limits));
    j["source"] = standards::limits_and_fits_source;
    return Answer{
        j, pairs({{exact_length(*size, context.unit) + " " + zone->text(), signed_pair(context, *limits)},
                  {"source", std::string(standards::limits_and_fits_source)}})};
}

Answered fit(const Context& context, const std::string& size_text, const std::string& text) {
    const auto size = parse_positive_length_mm(size_text, context.unit);
    if (!size) return tl::unexpected(size.error());
    const auto f = standards::fit(*size, text);
    if (!f) return tl::unexpected(f.error());
    const auto preferred = standards::preferred_fit(f->text);
    const Json j{
        {"size", context.length(*size)},
        {"unit", context.symbol()},
        {"fit", f->text},
        {"system", standards::name(f->basis)},
        {"hole", zone_json(context, f->hole_zone, f->hole)},
        {"shaft", zone_json(context, f->shaft_zone, f->shaft)},
        {"clearance",
         {{"max", context.length(f->clearance_max_um() / 1000)},
          {"min", context.length(f->clearance_min_um() / 1000)}}},
        {"kind", standards::name(f->kind)},
        {"preferred", preferred ? Json{{"iso286", preferred->iso},
                                       {"b42", preferred->b42.empty() ? Json(nullptr) : Json(preferred->b42)}}
                                : Json(nullptr)},
        {"source", f->source}};
    return Answer{j,
                  pairs({{"fit", exact_length(*size, context.unit) + " " + f->text},
                         {"hole " + f->hole_zone, signed_pair(context, f->hole)},
                         {"shaft " + f->shaft_zone, signed_pair(context, f->shaft)},
                         {"clearance",
                          fmt::format("{} to {}", signed_length(f->clearance_min_um() / 1000, context.unit),
                                      signed_length(f->clearance_max_um() / 1000, context.unit))},
                         {"kind", std::string(standards::name(f->kind))},
                         {"source", f->source}})};
}

Answered thread(const Context& context, const std::string& name,
                const std::optional<std::string>& tolerance_class) {
    const auto t = standards::thread(name);
    if (!t) return tl::unexpected(t.error());
    Json j{{"name", t->name},
           {"unit", context.symbol()},
           {"pitch", context.length(t->pitch_mm)},
           {"major", context.length(t->major_mm)},
           {"pitch_diameter", context.length(t->pitch_diameter_mm)},
           {"minor_internal", context.length(t->minor_internal_mm)},
           {"minor_external", context.length(t->minor_external_mm)},
           {"stress_area", t->stress_area_mm2},
           {"tap_drill", length_or_null(context, t->tap_drill_mm)},
           {"source", t->source}};
    std::vector<std::pair<std::string, std::string>> rows{
        {"thread", t->name},
        {"pitch", context.shown(t->pitch_mm)},
        {"major diameter", context.shown(t->major_mm)},
        {"pitch diameter", context.shown(t->pitch_diameter_mm)},
        {"minor diameter, internal", context.shown(t->minor_internal_mm)},
        {"minor diameter, external", context.shown(t->minor_external_mm)},
        {"stress area", fixed(t->stress_area_mm2, 2) + " mm²"},
        {"tap drill", t->tap_drill_mm ? context.shown(*t->tap_drill_mm) : "–"}};
    if (tolerance_class) {
        const auto limits = standards::thread_limits(*t, *tolerance_class);
        if (!limits) return tl::unexpected(limits.error());
        j["class"] = *tolerance_class;
        j["limits"] = {{"major", range(context, limits->major)},
                       {"pitch_diameter", range(context, limits->pitch_diameter)},
                       {"minor", range(context, limits->minor)}};
        j["source"] = t->source + "; " + limits->source;
        rows.insert(rows.end(),
                    {{"major, " + *tolerance_class, shown(context, limits->major)},
                     {"pitch diameter, " + *tolerance_class, shown(context, limits->pitch_diameter)},
                     {"minor, " + *tolerance_class, shown(context, limits->minor)}});
    }
    rows.emplace_back("source", j["source"].get<std::string>());
    return Answer{j, pairs(rows)};
}

Answered hole(const Context& context, const std::string& fastener, const std::string& class_text) {
    const auto clearance_class = standards::parse_clearance_class(class_text);
    if (!clearance_class) return tl::unexpected(clearance_class.error());
    const auto holes = standards::holes_for(fastener, *clearance_class);
    if (!holes) return tl::unexpected(holes.error());
    Json j{{"fastener", fastener},
           {"unit", context.symbol()},
           {"class", class_text},
           {"clearance", context.length(holes->clearance_mm)},
           {"tap_drill", length_or_null(context, holes->tap_drill_mm)},
           {"counterbore", nullptr},
           {"countersink", nullptr},
           {"countersink_iso7721", nullptr},
           {"source", holes->source}};
    std::vector<std::pair<std::string, std::string>> rows{
        {"clearance hole, " + class_text, context.shown(holes->clearance_mm)},
        {"tap drill", holes->tap_drill_mm ? context.shown(*holes->tap_drill_mm) : "–"}};
    if (holes->counterbore) {
        j["counterbore"] = {{"diameter", context.length(holes->counterbore->diameter_mm)},
                            {"depth", context.length(holes->counterbore->depth_mm)}};
        rows.emplace_back("counterbore",
                          fmt::format("ø{}, {} deep", context.shown(holes->counterbore->diameter_mm),
                                      context.shown(holes->counterbore->depth_mm)));
    }
    const auto add_countersink = [&](const char* key, const char* title, const auto& sink) {
        if (!sink) return;
        j[key] = {{"diameter", context.length(sink->diameter_mm)}, {"angle", sink->angle_deg}};
        rows.emplace_back(title,
                          fmt::format("ø{}, {}°", context.shown(sink->diameter_mm), plain(sink->angle_deg)));
    };
    add_countersink("countersink", "countersink, socket heads", holes->countersink);
    add_countersink("countersink_iso7721", "countersink, heads of ISO 7721", holes->countersink_iso7721);
    rows.emplace_back("source", holes->source);
    return Answer{j, pairs(rows)};
}

Answered hardware(const Context& context, const std::string& standard, const std::string& size) {
    const auto item = standards::hardware(standard, size);
    if (!item) return tl::unexpected(item.error());
    const auto lightest = piece::mass_kg(*item, first_or_none(item->lengths_mm));
    Json dimensions = Json::object(), lengths = Json::array();
    std::vector<std::pair<std::string, std::string>> rows{{item->standard + " " + item->size, item->title}};
    for (const auto& d : item->dimensions) {
        const bool has_limits = d.min_mm || d.max_mm;
        dimensions[d.symbol] = has_limits ? Json{{"nominal", context.length(d.nominal_mm)},
                                                 {"min", length_or_null(context, d.min_mm)},
                                                 {"max", length_or_null(context, d.max_mm)}}
                                          : Json(context.length(d.nominal_mm));
        rows.emplace_back(d.symbol,
                          exact_length(d.nominal_mm, context.unit) +
                              (has_limits ? fmt::format("  (min {}, max {})",
                                                        d.min_mm ? plain(context.length(*d.min_mm)) : "–",
                                                        d.max_mm ? plain(context.length(*d.max_mm)) : "–")
                                          : ""));
    }
    for (const double l : item->lengths_mm)
        lengths.push_back(context.length(l));
    Json grips = Json::array(), short_pieces = nullptr;
    for (const auto& grip : item->grips_mm)
        grips.push_back({context.length(grip.min_mm), context.length(grip.max_mm)});
    for (const auto& d : item->short_dimensions) {
        short_pieces = {{"up_to", context.length(item->short_up_to_mm)},
                        {"dimensions", {{d.symbol, context.length(d.nominal_mm)}}}};
        rows.emplace_back(fmt::format("{} to l = {}", d.symbol, plain(context.length(item->short_up_to_mm))),
                          exact_length(d.nominal_mm, context.unit));
    }
    std::vector<std::string> length_texts;
    for (const double l : item->lengths_mm)
        length_texts.push_back(plain(context.length(l)));
    if (!length_texts.empty()) rows.emplace_back("lengths", fmt::format("{}", fmt::join(length_texts, " ")));
    if (!item->grips_mm.empty()) {
        std::string text;
        for (const auto& grip : item->grips_mm)
            text += fmt::format("{}{} to {}", text.empty() ? "" : ", ", plain(context.length(grip.min_mm)),
                                plain(context.length(grip.max_mm)));
        rows.emplace_back("grips", text);
    }
    if (!item->note.empty()) rows.emplace_back("note", item->note);
    rows.emplace_back("source", item->source);
    Json masses = Json::array();
    for (const double l : item->lengths_mm)
        if (const auto mass = piece::mass_kg(*item, l)) masses.push_back(*mass);
    const Json j{{"standard", item->standard},
                 {"title", item->title},
                 {"size", item->size},
                 {"group", item->group},
                 {"unit", context.symbol()},
                 {"dimensions", dimensions},
                 {"lengths", lengths},
                 {"grips", grips},
                 {"short", short_pieces},
                 {"mass_kg", item->lengths_mm.empty() && lightest ? Json(*lightest) : masses},
                 {"note", item->note},
                 {"source", item->source}};
    return Answer{j, pairs(rows)};
}

Answered hardware_list() {
    Json all = Json::array();
    std::vector<Row> rows{{"standard", "title", "sizes"}};
    for (const auto& kind : standards::hardware_list()) {
        all.push_back({{"standard", kind.standard},
                       {"title", kind.title},
                       {"group", kind.group},
                       {"does", kind.does},
                       {"sizes", kind.sizes}});
        rows.push_back({kind.standard, kind.title, fmt::format("{}", fmt::join(kind.sizes, " "))});
    }
    return Answer{{{"hardware", all}}, table(rows)};
}

}
