#include "fastening/engagement.hpp"
#include "fastening/screw_thread.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <fmt/format.h>
#include <numbers>

namespace kollema::fastening {
namespace {

using std::numbers::inv_sqrt3;
using std::numbers::pi;

constexpr const char* source = "VDI 2230-1:2015";
constexpr double equal_strength_factor = 0.897;
constexpr double screw_shear_share = 0.6;
constexpr double greatest_over_least_rm = 1.2;
constexpr double incomplete_turns = 0.8;

/// Sheared area of the two threads for every mm of engagement.
struct Rings {
    double inner_mm = 0, outer_mm = 0;
};

double needed_mm(double rm_MPa, double area_mm2, double factor, double shear_MPa, double ring_mm,
                 double pitch) {
    return rm_MPa * area_mm2 / (factor * shear_MPa * ring_mm) + incomplete_turns * pitch;
}

struct Case {
    double rm_MPa = 0, area_mm2 = 0, pitch_mm = 0, inner_shear_MPa = 0;
    Rings rings;
    double ratio() const {
        return inner_shear_MPa * rings.inner_mm / (screw_shear_share * rm_MPa * rings.outer_mm);
    }
    double inner_mm() const {
        return needed_mm(rm_MPa, area_mm2, inner_thread_factor(ratio()), inner_shear_MPa, rings.inner_mm,
                         pitch_mm);
    }
    double outer_mm() const {
        return needed_mm(rm_MPa, area_mm2, outer_thread_factor(ratio()), screw_shear_share * rm_MPa,
                         rings.outer_mm, pitch_mm);
    }
    double minimum_mm() const { return std::max(inner_mm(), outer_mm()); }
};

}

double outer_thread_factor(double strength_ratio) {
    const double r = std::min(strength_ratio, 2.2);
    if (r <= 1) return equal_strength_factor;
    return 5.594 - r * (13.682 - r * (14.107 - r * (6.057 - 0.9353 * r)));
}

double inner_thread_factor(double strength_ratio) {
    const double r = std::max(strength_ratio, 0.4);
    if (r >= 1) return equal_strength_factor;
    return 0.728 + r * (1.769 - r * (2.896 - 1.296 * r));
}

Result<Engagement> engagement(const std::string& thread_name, const std::string& grade,
                              const std::string& material_id, Working* working) {
    const auto t = fastening_thread(thread_name);
    if (!t) return tl::unexpected(t.error());
    const auto strength = standards::property_class(grade, t->major_mm);
    if (!strength) return tl::unexpected(strength.error());
    const auto material = standards::material(material_id);
    if (!material) return tl::unexpected(material.error());
    const bool unified = t->system == standards::ThreadSystem::unified;
    const auto screw = standards::thread_limits(*t, unified ? "2A" : "6g");
    if (!screw) return tl::unexpected(screw.error());
    const auto nut = standards::thread_limits(*t, unified ? "2B" : "6H");
    if (!nut) return tl::unexpected(nut.error());

    const double p = t->pitch_mm, d_min = *screw->major.min_mm, d2_min = *screw->pitch_diameter.min_mm,
                 inner_d2_max = *nut->pitch_diameter.max_mm, inner_d1_max = *nut->minor.max_mm;
    const Case c{.rm_MPa = strength->tensile_MPa,
                 .area_mm2 = t->stress_area_mm2,
                 .pitch_mm = p,
                 .inner_shear_MPa = material->shear_share * material->tensile_MPa,
                 .rings = {pi * d_min / p * (p / 2 + (d_min - inner_d2_max) * inv_sqrt3),
                           pi * inner_d1_max / p * (p / 2 + (d2_min - inner_d1_max) * inv_sqrt3)}};
    Case strongest = c;
    strongest.rm_MPa *= greatest_over_least_rm;
    const Engagement result{c.minimum_mm(), c.inner_mm(), c.outer_mm(), strongest.minimum_mm()};
    if (!working) return result;
    working->push_back({"strength ratio of the threads", "τB·A(inner) / (0.6·Rm·A(screw))",
                        fmt::format("{:.0f}·{:.2f} / (0.6·{:.0f}·{:.2f})", c.inner_shear_MPa,
                                    c.rings.inner_mm, c.rm_MPa, c.rings.outer_mm),
                        c.ratio(), "", source});
    const std::string strengths = fmt::format("{}, factors from memory; Rm {:.0f} MPa of {}, minimum of {}",
                                              source, c.rm_MPa, strength->source, material->title);
    working->push_back(
        {"inner thread holds from", "Rm·As / (C1·C3·τB·A(inner)) + 0.8·P",
         fmt::format("{:.0f}·{:.2f} / (1·{:.3f}·{:.0f}·{:.2f}) + 0.8·{}", c.rm_MPa, c.area_mm2,
                     inner_thread_factor(c.ratio()), c.inner_shear_MPa, c.rings.inner_mm, plain(p, 6)),
         result.inner_strips_mm, "mm", strengths});
    working->push_back({"screw's thread holds from", "Rm·As / (C1·C2·0.6·Rm·A(screw)) + 0.8·P",
                        fmt::format("{:.2f} / (1·{:.3f}·0.6·{:.2f}) + 0.8·{}", c.area_mm2,
                                    outer_thread_factor(c.ratio()), c.rings.outer_mm, plain(p, 6)),
                        result.outer_strips_mm, "mm", strengths});
    working->push_back({"for the strongest screw of its class", "the same with 1.2·Rm",
                        fmt::format("Rm {:.0f} MPa", strongest.rm_MPa), result.at_greatest_rm_mm, "mm",
                        "greatest Rm assumed"});
    working->push_back({"minimum engagement", "the longer of the two",
                        fmt::format("max({:.2f}, {:.2f})", result.inner_strips_mm, result.outer_strips_mm),
                        result.minimum_mm, "mm", source});
    return result;
}

}
