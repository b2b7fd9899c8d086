#include "fastening/tightening.hpp"
#include "fastening/screw_thread.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include "standards/hardware.hpp"
#include "standards/holes.hpp"
#include "standards/materials.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::fastening {
namespace {

using std::numbers::pi;

/// The hexagon head that is meant where no head is named.
Result<BearingFace> usual_face(const standards::Thread& t) {
    const bool metric = t.system == standards::ThreadSystem::metric;
    const auto bolt = standards::hardware(metric ? "ISO 4014" : "ASME B18.2.1", t.size);
    if (!bolt) return tl::unexpected(bolt.error());
    const auto hole = standards::clearance_hole_mm(t.size, standards::ClearanceClass::medium);
    if (!hole) return tl::unexpected(hole.error());
    return bearing_face(*bolt, *hole);
}

constexpr double share_of_yield = 0.9;
constexpr const char* tightening_source = "VDI 2230-1:2015";

void add_head_pressure(Tightening& result, const BearingFace& head, const standards::Material* under) {
    result.head_pressure_MPa = result.preload_N / head.area_mm2();
    result.working.push_back({"pressure under the head", "F / (π/4·(dw² − dh²))",
                              fmt::format("{:.0f} / (π/4·({}² − {}²))", result.preload_N,
                                          plain(head.outer_mm, 5), plain(head.hole_mm, 5)),
                              result.head_pressure_MPa, "MPa", tightening_source});
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
                           const std::string& material_id, const std::optional<BearingFace>& face) {
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
    const auto head = face ? Result<BearingFace>(*face) : usual_face(*t);
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
         fmt::format("{:.2f}·0.9·{:.0f} / √(1 + 3·{:.4f}²)", area, yield_MPa, twist), preload, "N",
         tightening_source},
        {"tightening torque", "F·(0.16·P + 0.58·d2·µ + DKm/2·µ)",
         fmt::format("{:.0f}·(0.16·{} + 0.58·{:.3f}·{} + {:.3f}/2·{}) / 1000", preload, plain(p, 6), d2,
                     plain(friction), head->mean_mm(), plain(friction)),
         result.torque_Nm, "N·m", tightening_source}};
    add_head_pressure(result, *head, under ? &*under : nullptr);
    return result;
}

}
