#include "joint/tightening.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include "standards/holes.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::joint {
namespace {

using std::numbers::pi;

Result<standards::Thread> fastening_thread(const std::string& name) {
    auto t = standards::thread(name);
    if (t &&
        (t->system == standards::ThreadSystem::acme || t->system == standards::ThreadSystem::trapezoidal))
        return fail({.what = name,
                     .why = "this is a power thread, not one of a screw that is tightened",
                     .remedy = "Use a metric or unified thread"});
    return t;
}

/// Under the head: outer diameter of the bearing face and diameter of the hole.
struct HeadContact {
    double face_mm = 0, hole_mm = 0;
    double mean_mm() const { return (face_mm + hole_mm) / 2; }
    double area_mm2() const { return pi / 4 * (face_mm * face_mm - hole_mm * hole_mm); }
};

Result<HeadContact> head_contact(const standards::Thread& t) {
    const auto face = standards::hexagon_bearing_face_mm(t.size);
    if (!face) return tl::unexpected(face.error());
    const auto hole = standards::clearance_hole_mm(t.size, standards::ClearanceClass::medium);
    if (!hole) return tl::unexpected(hole.error());
    return HeadContact{*face, *hole};
}

constexpr double share_of_yield = 0.9;
constexpr const char* source = "VDI 2230-1:2015";

void add_head_pressure(Tightening& result, const HeadContact& head, const standards::Material* under) {
    result.head_pressure_MPa = result.preload_N / head.area_mm2();
    result.working.push_back({"pressure under the head", "F / (π/4·(dw² − dh²))",
                              fmt::format("{:.0f} / (π/4·({}² − {}²))", result.preload_N,
                                          plain(head.face_mm, 5), plain(head.hole_mm, 5)),
                              result.head_pressure_MPa, "MPa", source});
    if (!under) return;
    result.pressure_limit_MPa = under->surface_pressure_MPa;
    if (result.head_pressure_MPa > under->surface_pressure_MPa)
        result.caution +=
            fmt::format(" The head presses {:.0f} MPa on {}, which bears {:.0f} MPa: it sinks in and "
                        "the preload is lost; take a washer or a flange head.",
                        result.head_pressure_MPa, under->title, under->surface_pressure_MPa);
}

}

Result<Tightening> tighten(const std::string& thread_name, const std::string& grade, double friction,
                           const std::string& material_id) {
    if (!(friction >= 0.01 && friction <= 0.5))
        return fail({.what = fmt::format("friction {}", plain(friction)),
                     .why = "a coefficient of friction of a screw lies between 0.01 and 0.5",
                     .remedy = "Give for example 0.12 for a lightly oiled screw",
                     .kind = friction > 0 && std::isfinite(friction) ? FailureKind::not_held
                                                                     : FailureKind::argument});
    const auto t = fastening_thread(thread_name);
    if (!t) return tl::unexpected(t.error());
    const auto strength = standards::property_class(grade, t->major_mm);
    if (!strength) return tl::unexpected(strength.error());
    const auto head = head_contact(*t);
    if (!head) return tl::unexpected(head.error());
    std::optional<standards::Material> under;
    if (!material_id.empty()) {
        const auto known = standards::material(material_id);
        if (!known) return tl::unexpected(known.error());
        under = *known;
    }

    const double p = t->pitch_mm, d2 = t->pitch_diameter_mm, area = t->stress_area_mm2;
    const double d0 = std::sqrt(4 * area / pi); // diameter of the stress area
    const double twist = 1.5 * d2 / d0 * (p / (pi * d2) + 1.155 * friction);
    const double yield_MPa = strength->loadability * strength->yield_MPa;
    const double preload = area * share_of_yield * yield_MPa / std::sqrt(1 + 3 * twist * twist);
    const double arm = 0.16 * p + 0.58 * d2 * friction + head->mean_mm() / 2 * friction;

    Tightening result{.preload_N = preload,
                      .torque_Nm = preload * arm / 1000,
                      .proof_load_N = strength->loadability * strength->proof_MPa * area,
                      .stress_area_mm2 = area};
    result.caution =
        fmt::format("The torque holds for friction {} in the thread and under the head; oil, coating and "
                    "reuse change it, and a torque wrench scatters the preload by a quarter or so.",
                    plain(friction));
    if (strength->loadability < 1)
        result.caution += fmt::format(" The head of a screw of class {} is weaker than its thread: all loads "
                                      "are taken at {:.0f} %.",
                                      strength->name, 100 * strength->loadability);
    result.working = {
        {"yield strength",
         strength->loadability < 1 ? "0.8·Rp0.2 of the grade (reduced loadability)" : "Rp0.2 of the grade",
         strength->name, yield_MPa, "MPa", strength->source},
        {"stress area",
         t->system == standards::ThreadSystem::unified ? "π/4·(d − 0.9743·P)²" : "π/4·((d2 + d3)/2)²",
         fmt::format("d = {}, P = {}", plain(t->major_mm, 6), plain(p, 6)), area, "mm²", t->source},
        {"proof load", strength->loadability < 1 ? "0.8·Sp·As" : "Sp·As",
         fmt::format("{}{:.0f}·{:.2f}", strength->loadability < 1 ? "0.8·" : "", strength->proof_MPa, area),
         result.proof_load_N, "N", strength->source},
        {"assembly preload", "As·0.9·Rp0.2 / √(1 + 3·(3/2·d2/d0·(P/(π·d2) + 1.155·µ))²)",
         fmt::format("{:.2f}·0.9·{:.0f} / √(1 + 3·{:.4f}²)", area, yield_MPa, twist), preload, "N", source},
        {"tightening torque", "F·(0.16·P + 0.58·d2·µ + DKm/2·µ)",
         fmt::format("{:.0f}·(0.16·{} + 0.58·{:.3f}·{} + {:.3f}/2·{}) / 1000", preload, plain(p, 6), d2,
                     plain(friction), head->mean_mm(), plain(friction)),
         result.torque_Nm, "N·m", source}};
    add_head_pressure(result, *head, under ? &*under : nullptr);
    return result;
}

Result<double> minimum_engagement_mm(const std::string& thread_name, const std::string& grade,
                                     const std::string& material_id, Working* working) {
    const auto t = fastening_thread(thread_name);
    if (!t) return tl::unexpected(t.error());
    const auto strength = standards::property_class(grade, t->major_mm);
    if (!strength) return tl::unexpected(strength.error());
    const auto material = standards::material(material_id);
    if (!material) return tl::unexpected(material.error());
    const bool unified = t->system == standards::ThreadSystem::unified;
    const auto screw_limits = standards::thread_limits(*t, unified ? "2A" : "6g");
    if (!screw_limits) return tl::unexpected(screw_limits.error());
    const auto nut_limits = standards::thread_limits(*t, unified ? "2B" : "6H");
    if (!nut_limits) return tl::unexpected(nut_limits.error());
    constexpr double c1 = 1, c3 = 0.897;
    const double d_min = *screw_limits->major.min_mm, pitch_diameter_max = *nut_limits->pitch_diameter.max_mm;
    const double shear_MPa = material->shear_share * material->tensile_MPa;
    const double ring_mm2_per_mm =
        pi * d_min / t->pitch_mm * (t->pitch_mm / 2 + (d_min - pitch_diameter_max) * std::numbers::inv_sqrt3);
    const double length =
        strength->tensile_MPa * t->stress_area_mm2 / (c1 * c3 * shear_MPa * ring_mm2_per_mm) +
        0.8 * t->pitch_mm;
    if (working)
        working->push_back(
            {"minimum engagement", "Rm·As·P / (C1·C3·τB·π·d·(P/2 + (d − D2)/√3)) + 0.8·P",
             fmt::format(
                 "{:.0f}·{:.2f}·{} / (1·0.897·{:.0f}·π·{:.3f}·({}/2 + ({:.3f} − {:.3f})/√3)) + 0.8·{}",
                 strength->tensile_MPa, t->stress_area_mm2, plain(t->pitch_mm, 6), shear_MPa, d_min,
                 plain(t->pitch_mm, 6), d_min, pitch_diameter_max, plain(t->pitch_mm, 6)),
             length, "mm",
             fmt::format("{}; strengths: {} and minimum of {}", source, strength->source, material->title)});
    return length;
}

}
