#include "model/fit_pair.hpp"
#include "quantity/format.hpp"
#include "standards/catalogue.hpp"
#include "standards/fits.hpp"
#include "standards/materials.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema {
namespace {

Failure cannot_be(const FitPair& pair, std::string why, std::string remedy) {
    return {.what = pair.name.empty() ? "the pair" : pair.name,
            .why = std::move(why),
            .remedy = std::move(remedy),
            .kind = FailureKind::argument};
}

struct Bound {
    const char* name;
    double value, least, most;
};

}

std::optional<Failure> defect_of(const FitPair& p) {
    constexpr double tiny = 1e-6, huge = 1e5;
    for (const auto& b :
         {Bound{"size", p.nominal_mm, tiny, 3150}, Bound{"guided length", p.length_mm, tiny, huge},
          Bound{"reach", p.reach_mm, 0, huge}, Bound{"hub's outside", p.hub_outer_mm, tiny, huge},
          Bound{"shaft's bore", p.shaft_bore_mm, 0, huge}, Bound{"friction", p.friction, 0.001, 1},
          Bound{"hub's roughness Rz", p.rz_hub_um, 0, 1000},
          Bound{"shaft's roughness Rz", p.rz_shaft_um, 0, 1000},
          Bound{"working temperature", p.working_C, -273, 1000}, Bound{"capability Cpk", p.cpk, 0.1, 10},
          Bound{"clearance asked for", p.asked_mm, -huge, huge},
          Bound{"seat length", p.seat_length_mm, tiny, huge}, Bound{"shoulder", p.shoulder_mm, 0, huge},
          Bound{"fillet", p.fillet_mm, 0, huge}, Bound{"chamfer", p.chamfer_mm, 0, huge}})
        if (!std::isfinite(b.value) || b.value < b.least || b.value > b.most)
            return cannot_be(p,
                             fmt::format("its {} of {} lies outside {} to {}", b.name, plain(b.value),
                                         plain(b.least), plain(b.most)),
                             "Give a figure within them");
    if (p.hub_outer_mm <= p.nominal_mm)
        return cannot_be(p, "the hub must be larger than the fit's size", "Give a larger outside diameter");
    if (p.shaft_bore_mm >= p.nominal_mm)
        return cannot_be(p, "the shaft's bore must be smaller than the fit's size",
                         "Give a smaller bore, or 0 for none");
    for (const auto& length : {p.axial_room, p.axial_part}) {
        const bool numbers = std::isfinite(length.nominal_mm) && std::isfinite(length.plus_mm) &&
                             std::isfinite(length.minus_mm);
        if (!numbers || length.nominal_mm < 0 || length.nominal_mm > huge ||
            length.plus_mm < length.minus_mm || length.nominal_mm + length.minus_mm < 0)
            return cannot_be(p, "a length along the axis or its limits cannot be",
                             "Write for example 20 ±0.05 or 20 -0.02 -0.07");
    }
    for (const auto& id : {p.hub_material, p.shaft_material})
        if (const auto held = standards::material(id); !held) return held.error();
    if (const auto held = standards::fit(p.nominal_mm, p.fit); !held) return held.error();
    if (!p.bearing.empty())
        if (const auto held = standards::hardware("ISO 15", p.bearing); !held) return held.error();
    return std::nullopt;
}

}
