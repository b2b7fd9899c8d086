#include "presenter/hardware_search.hpp"
#include "fastening/engagement.hpp"
#include "fastening/tightening.hpp"
#include "standards/holes.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

QString text_of(const standards::HardwareKind& kind) {
    QStringList words{qt(kind.standard), qt(kind.standard).remove(' '), qt(kind.title), qt(kind.group)};
    for (const auto& duty : kind.does)
        words << qt(duty);
    return words.join(' ').toLower();
}

bool is_threaded(const standards::HardwareItem& item) {
    return item.group == "Screws and bolts" || item.group == "Studs" || item.group == "Nuts";
}

/// The thread that holes and tightening are asked for: M8 itself, the coarse one of an inch size.
std::string thread_of(const standards::HardwareItem& item) {
    if (!item.inch) return item.size;
    for (const auto& name : standards::thread_names(standards::ThreadSystem::unified))
        if (const auto t = standards::thread(name); t && t->size == item.size) return name;
    return item.size;
}

}

std::vector<std::pair<QString, QString>> duties() {
    return {{"clamp", "clamp parts together"},
            {"spread", "spread a head's pressure"},
            {"lock", "keep from coming loose"},
            {"locate", "locate parts"},
            {"pivot", "let a part pivot"},
            {"retain", "keep a part from escaping"},
            {"drive", "drive a hub"},
            {"turn", "let a shaft turn"},
            {"adjust", "adjust a position"},
            {"seal", "keep a fluid in, dirt out"},
            {"relieve", "let a shaft be turned or ground"}};
}

std::vector<HardwareHit> search(const HardwareQuery& query, const Workshop& workshop,
                                const QSet<QString>& favourites) {
    std::vector<HardwareHit> hits;
    const QStringList words = query.words.toLower().split(' ', Qt::SkipEmptyParts);
    for (const auto& kind : standards::hardware_list()) {
        if (kind.inch ? !query.inch : !query.metric) continue;
        if (!query.duty.isEmpty() &&
            std::ranges::find(kind.does, query.duty.toStdString()) == kind.does.end())
            continue;
        HardwareHit hit{.kind = &kind};
        const QString all = text_of(kind);
        const bool found = std::ranges::all_of(words, [&](const QString& word) {
            for (const auto& size : kind.sizes)
                if (qt(size).toLower() == word) {
                    hit.size = size;
                    return true;
                }
            return all.contains(word);
        });
        if (!found) continue;
        hit.stocked = std::ranges::any_of(workshop.stock, [&](const StockItem& item) {
            return item.standard == kind.standard && (hit.size.empty() || item.size == hit.size);
        });
        hit.favourite = favourites.contains(qt(kind.standard));
        if ((query.only_stocked && !hit.stocked) || (query.only_favourites && !hit.favourite)) continue;
        hits.push_back(hit);
    }
    std::ranges::stable_sort(hits, std::greater{},
                             [](const HardwareHit& h) { return 2 * h.stocked + h.favourite; });
    return hits;
}

QString meaning_of(const std::string& symbol, const std::string& shape) {
    static const std::map<std::string, const char*> meanings{{"d", "nominal diameter"},
                                                             {"P", "pitch of the thread"},
                                                             {"dk", "diameter of the head"},
                                                             {"k", "height of the head"},
                                                             {"s", "width across flats"},
                                                             {"e", "width across corners, at least"},
                                                             {"b", "length of thread"},
                                                             {"t", "depth of the socket"},
                                                             {"l", "nominal length"},
                                                             {"dw", "bearing face under the head"},
                                                             {"m", "height of the nut"},
                                                             {"h", "height or thickness"},
                                                             {"d1", "inner or nominal diameter"},
                                                             {"d2", "outer diameter"},
                                                             {"d3", "free diameter"},
                                                             {"c", "chamfer"},
                                                             {"n", "width of the slot"},
                                                             {"w", "height below the slots"},
                                                             {"dp", "diameter of the point"},
                                                             {"dt", "diameter of the cone's tip"},
                                                             {"dz", "diameter of the cup"},
                                                             {"z", "length of the point"},
                                                             {"b1", "screwed-in end"},
                                                             {"b2", "nut end"},
                                                             {"D", "outside diameter"},
                                                             {"B", "width"},
                                                             {"r", "corner radius of the rings, at least"},
                                                             {"da", "shoulder of the shaft, at least"},
                                                             {"Da", "shoulder of the housing, at most"},
                                                             {"ra", "fillet, at most"},
                                                             {"a", "height of the lugs or of the ends"},
                                                             {"d5", "hole for the pliers"},
                                                             {"t1", "shaft keyway, depth"},
                                                             {"t2", "hub keyway, depth"},
                                                             {"d_above", "for shafts above"},
                                                             {"d_upto", "for shafts to (incl.)"},
                                                             {"le", "hole from the end, at least"},
                                                             {"dk_act", "real head diameter"},
                                                             {"ds", "shoulder or collar"},
                                                             {"dc", "diameter of the flange"},
                                                             {"T", "height"},
                                                             {"socket", "number of the six-lobed socket"},
                                                             {"hole", "diameter of the hole"},
                                                             {"pilot", "diameter of the pilot hole"},
                                                             {"shaft_from", "for shafts from"},
                                                             {"shaft_to", "for shafts up to"}};
    // Letters that mean something else on some shapes.
    static const std::map<std::string, std::map<std::string, const char*>> own{
        {"e_ring",
         {{"d2", "diameter of the groove"},
          {"d3", "outside of the mounted ring"},
          {"m", "width of the groove, at least"},
          {"n", "groove from the end, at least"},
          {"a", "width of the mouth"}}},
        {"shoulder_screw", {{"d", "thread"}, {"l", "length of the shoulder"}}},
        {"slotted_round_nut",
         {{"d1", "diameter of the pressing face"}, {"b", "width of the slots"}, {"t", "depth of the slots"}}},
        {"tab_washer", {{"d2", "diameter over the tabs"}, {"s", "thickness"}}},
        {"knurled_nut",
         {{"dk", "diameter of the knurling"}, {"k", "height of the knurled head"}, {"h", "height"}}},
        {"t_slot_nut",
         {{"d", "thread"},
          {"a", "width of the slot"},
          {"e", "width of the foot"},
          {"k", "height of the foot"},
          {"h", "height"}}},
        {"thread_insert",
         {{"D", "major diameter of the tapped hole"}, {"D1", "minor diameter of the tapped hole, at least"}}},
        {"shim", {{"l", "thickness"}}},
        {"o_ring",
         {{"d1", "inside diameter"},
          {"d2", "diameter of the section"},
          {"t", "depth of a groove at rest"},
          {"b", "width of the groove"}}},
        {"shaft_seal",
         {{"d1", "shaft"},
          {"D", "housing"},
          {"b", "width"},
          {"shaft", "shaft, h11"},
          {"housing", "bore of the housing, H8"}}},
        {"undercut",
         {{"r", "radius"},
          {"t1", "depth below the shaft"},
          {"f", "width"},
          {"t2", "depth behind the face, form F"}}},
        {"centre_hole",
         {{"d1", "pilot"},
          {"d2", "mouth of the 60° cone"},
          {"t", "depth of the cone"},
          {"d3", "mouth of the protecting cone, form B"}}},
        {"threaded_centre_hole",
         {{"d3", "relief"},
          {"d4", "mouth of the 60° cone"},
          {"t1", "depth of thread"},
          {"t2", "depth of the drilled hole"},
          {"t3", "depth of the relief"}}}};
    if (const auto shape_own = own.find(shape); shape_own != own.end())
        if (const auto found = shape_own->second.find(symbol); found != shape_own->second.end())
            return found->second;
    const bool ring = shape.starts_with("ring");
    if (ring && symbol == "d1") return "diameter of the shaft or bore";
    if (ring && symbol == "a") return "height of the ears";
    if (ring && symbol == "s") return "thickness";
    if (ring && symbol == "d2") return "diameter of the groove";
    if (ring && symbol == "m") return "width of the groove";
    if (ring && symbol == "n") return "groove from the end, at least";
    if (ring && symbol == "b") return "width of the ring";
    if (symbol == "s" && (shape.ends_with("washer") || shape == "spring_pin" || shape == "e_ring"))
        return "thickness";
    if (symbol == "b" && shape.ends_with("key")) return "width";
    if (shape.ends_with("key") && symbol == "b1") return "shaft keyway, width";
    if (shape.ends_with("key") && symbol == "b2") return "hub keyway, width";
    const auto found = meanings.find(symbol);
    return found == meanings.end() ? QString() : QString(found->second);
}

std::vector<Companion> companions(const standards::HardwareItem& item, const std::string& grade,
                                  double friction, const std::string& material, LengthUnit unit,
                                  QString* caution, Working* working) {
    std::vector<Companion> all;
    if (!is_threaded(item)) return all;
    const std::string name = thread_of(item);
    const auto thread = standards::thread(name);
    if (!thread) return all;
    const auto mm = [&](double value) { return qt(plain(from_mm(value, unit), 5)); };
    using standards::ClearanceClass;
    const auto medium = standards::holes_for(name, ClearanceClass::medium);
    if (medium) {
        const auto fine = standards::clearance_hole_mm(thread->size, ClearanceClass::fine),
                   coarse = standards::clearance_hole_mm(thread->size, ClearanceClass::coarse);
        if (fine && coarse)
            all.push_back({"Clearance hole, fine / medium / coarse",
                           QString("ø%1 / ø%2 / ø%3").arg(mm(*fine), mm(medium->clearance_mm), mm(*coarse)),
                           item.inch ? "ASME B18.2.8" : "ISO 273"});
        if (medium->counterbore && (item.standard == "ISO 4762" || item.standard == "ASME B18.3"))
            all.push_back({"Counterbore",
                           QString("ø%1, %2 deep")
                               .arg(mm(medium->counterbore->diameter_mm), mm(medium->counterbore->depth_mm)),
                           item.inch ? "ASME B18.3" : "DIN 974-1, series 1"});
        if (item.shape == "countersunk_screw") {
            const bool own_head = item.inch || item.standard == "ISO 10642";
            const auto& sink = own_head ? medium->countersink : medium->countersink_iso7721;
            if (sink)
                all.push_back(
                    {"Countersink",
                     QString("ø%1, %2°").arg(mm(sink->diameter_mm), QString::number(sink->angle_deg)),
                     item.inch  ? "ASME B18.3, its sharp head"
                     : own_head ? "DIN 74-1, form F"
                                : "ISO 15065"});
        }
    }
    if (thread->tap_drill_mm)
        all.push_back({"Tap drill for " + qt(name), "ø" + mm(*thread->tap_drill_mm),
                       item.inch ? "common practice" : "ISO 2306"});
    if (const auto ends = standards::run_outs(thread->pitch_mm); ends && !item.inch)
        all.push_back({"Thread ends: run-out / undercut / blind hole",
                       QString("%1 / %2 wide, ø%3 / %4")
                           .arg(mm(ends->external_mm), mm(ends->undercut_width_max_mm),
                                mm(thread->major_mm - ends->undercut_depth_mm), mm(ends->blind_hole_mm)),
                       "DIN 76-1, regular"});
    const auto tight = fastening::tighten(name, grade, friction, material);
    if (tight) {
        all.push_back({"Preload", qt(fmt::format("{} kN", fixed(tight->preload_N / 1000, 1))), "VDI 2230-1"});
        all.push_back(
            {"Tightening torque", qt(fmt::format("{} N·m", plain(tight->torque_Nm, 3))), "VDI 2230-1"});
        all.push_back(
            {"Pressure under a hexagon head",
             qt(tight->pressure_limit_MPa ? fmt::format("{:.0f} of {:.0f} MPa", tight->head_pressure_MPa,
                                                        *tight->pressure_limit_MPa)
                                          : fmt::format("{:.0f} MPa", tight->head_pressure_MPa)),
             "VDI 2230-1"});
        if (caution) *caution = qt(tight->caution);
        if (working) *working = tight->working;
    } else if (caution)
        *caution = message(tight.error());
    if (const auto length = fastening::engagement(name, grade, material, working))
        all.push_back(
            {"Engagement, at least", qt(plain(from_mm(length->minimum_mm, unit), 3)), "VDI 2230-1"});
    return all;
}

}
