#include "fit/press_fit.hpp"
#include "quantity/format.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::fit {
namespace {

constexpr double smoothing = 0.8;            // share of Rz that is pressed flat, DIN 7190-1
constexpr double assembly_clearance = 0.001; // of the diameter, DIN 7190-1
constexpr double absolute_zero_C = -273.15, liquid_nitrogen_C = -196;
constexpr double tempering_starts_C = 150; // hardened steel loses hardness beyond (common practice)
constexpr const char* source = "DIN 7190-1:2017, Lamé";

tl::unexpected<Failure> refused(std::string what, std::string why, std::string remedy,
                                FailureKind kind = FailureKind::argument) {
    return fail({.what = std::move(what), .why = std::move(why), .remedy = std::move(remedy), .kind = kind});
}

/// A figure that is no positive number is the caller's slip; one that makes no press fit is not held.
FailureKind kind_of(double value, double least = 0) {
    return std::isfinite(value) && value >= least ? FailureKind::not_held : FailureKind::argument;
}

Result<void> checked(const PressPair& p) {
    if (!(p.length_mm > 0) || !std::isfinite(p.length_mm))
        return refused("length", "the joint needs a length above zero", "Give the length of contact");
    if (!(p.hub_outer_mm > p.diameter_mm) || !std::isfinite(p.hub_outer_mm))
        return refused(fmt::format("hub diameter {} mm", plain(p.hub_outer_mm)),
                       "the hub must be larger than the joint",
                       "Give an outside diameter above the fit's size", kind_of(p.hub_outer_mm));
    if (!(p.shaft_bore_mm >= 0 && p.shaft_bore_mm < p.diameter_mm))
        return refused(fmt::format("shaft bore {} mm", plain(p.shaft_bore_mm)),
                       "the bore must be smaller than the joint", "Give a bore below the fit's size, or none",
                       kind_of(p.shaft_bore_mm));
    if (!(p.friction > 0 && p.friction <= 1))
        return refused(fmt::format("friction {}", plain(p.friction)), "a coefficient lies between 0 and 1",
                       "Give for example 0.12 for oiled steel", kind_of(p.friction, 1));
    for (const double rz : {p.rz_hub_um, p.rz_shaft_um})
        if (!(rz >= 0 && rz <= 1000))
            return refused(fmt::format("roughness {} µm", plain(rz)), "Rz lies between 0 and 1000 µm",
                           "Give Rz in micrometres", kind_of(rz));
    constexpr double longest_mm = 1e6,
                     thinnest_wall = 1e-9; // as a share of the diameter; else nothing divides
    for (const double size : {p.length_mm, p.hub_outer_mm})
        if (size > longest_mm)
            return refused(fmt::format("{} mm", plain(size)), "this is longer than a kilometre",
                           "Check the unit", FailureKind::not_held);
    if (p.hub_outer_mm - p.diameter_mm < thinnest_wall * p.diameter_mm ||
        p.diameter_mm - p.shaft_bore_mm < thinnest_wall * p.diameter_mm)
        return refused("the wall", "it is thinner than an atom", "Give a wall", FailureKind::not_held);
    if (!(p.temperature_C > absolute_zero_C && p.temperature_C <= 1000))
        return refused(fmt::format("temperature {} °C", plain(p.temperature_C)),
                       "it lies outside what materials bear", "Give a temperature between -273 and 1000 °C",
                       kind_of(p.temperature_C, -1e300));
    return {};
}

/// Radial compliance of a member at the joint, per unit of pressure and diameter.
double hub_compliance(const PressPair& p) {
    const double q2 = std::pow(p.diameter_mm / p.hub_outer_mm, 2);
    return ((1 + q2) / (1 - q2) + p.hub.poisson) / p.hub.modulus_MPa;
}
double shaft_compliance(const PressPair& p) {
    const double q2 = std::pow(p.shaft_bore_mm / p.diameter_mm, 2);
    return ((1 + q2) / (1 - q2) - p.shaft_material.poisson) / p.shaft_material.modulus_MPa;
}

double mises(double radial, double tangential) {
    return std::sqrt(radial * radial + tangential * tangential - radial * tangential);
}

void add_cautions(const PressPair& p, PressFit& r, double greatest_unsmoothed) {
    if (r.hub_safety < 1)
        r.cautions.push_back(
            fmt::format("The hub yields at its bore ({:.0f} MPa of {:.0f}): the elastic figures do "
                        "not hold there; take less interference, a larger hub or a stronger material.",
                        r.hub_stress_MPa, p.hub.yield_MPa));
    if (r.shaft_safety < 1)
        r.cautions.push_back(
            fmt::format("The shaft yields ({:.0f} MPa of {:.0f}): the elastic figures do not hold.",
                        r.shaft_stress_MPa, p.shaft_material.yield_MPa));
    r.cautions.emplace_back(
        "Heated and deep-cold parts burn the skin: gloves, tongs, eye protection; deep-cold media "
        "also displace the air to breathe.");
    r.cautions.emplace_back("Pressing in stores energy and can throw fragments: guard and eye protection.");
    if (r.heat_hub_to_C > tempering_starts_C)
        r.cautions.push_back(
            fmt::format("{:.0f} °C is above {:.0f} °C: hardened or precipitation-hardened hubs lose "
                        "strength (common practice); heat less and cool the shaft as well.",
                        r.heat_hub_to_C, tempering_starts_C));
    if (!r.cool_shaft_to_C)
        r.cautions.push_back(fmt::format("No cold is enough: liquid nitrogen shrinks the shaft by {:.0f} of "
                                         "the {:.0f} µm needed, and it would seize "
                                         "half way; heat the hub, or both.",
                                         p.shaft_material.contraction_per_K *
                                             (room_temperature_C - liquid_nitrogen_C) * p.diameter_mm * 1000,
                                         (greatest_unsmoothed + assembly_clearance * p.diameter_mm) * 1000));
    if (p.shaft_material.expansion_per_K != p.hub.expansion_per_K && p.temperature_C == room_temperature_C)
        r.cautions.push_back(fmt::format(
            "Hub and shaft expand differently: every 10 K warmer changes the interference "
            "by {:+.1f} µm of at most {:.1f}.",
            (p.shaft_material.expansion_per_K - p.hub.expansion_per_K) * 10 * p.diameter_mm * 1000,
            greatest_unsmoothed * 1000));
}

}

Result<PressFit> press_fit(const PressPair& p) {
    if (auto good = checked(p); !good) return tl::unexpected(good.error());
    const double d = p.diameter_mm;
    const Range measured{p.shaft.min_mm - p.hole.max_mm, p.shaft.max_mm - p.hole.min_mm};
    const double smoothed = smoothing * (p.rz_hub_um + p.rz_shaft_um) / 1000;
    const double warmed = (p.shaft_material.expansion_per_K - p.hub.expansion_per_K) *
                          (p.temperature_C - room_temperature_C) * d;
    PressFit r;
    r.interference_mm = {measured.min - smoothed + warmed, measured.max - smoothed + warmed};
    if (!(r.interference_mm.min > 0))
        return refused(fmt::format("interference {:.1f} to {:.1f} µm", r.interference_mm.min * 1000,
                                   r.interference_mm.max * 1000),
                       "at its minimum nothing is left to hold", "Choose a tighter fit or a smoother surface",
                       FailureKind::not_held);
    const double compliance = hub_compliance(p) + shaft_compliance(p);
    const auto pressure = [&](double interference) { return interference / (d * compliance); };
    r.pressure_MPa = {pressure(r.interference_mm.min), pressure(r.interference_mm.max)};
    const double area = std::numbers::pi * d * p.length_mm;
    r.axial_force_N = {r.pressure_MPa.min * area * p.friction, r.pressure_MPa.max * area * p.friction};
    r.torque_Nm = {r.axial_force_N.min * d / 2000, r.axial_force_N.max * d / 2000};
    r.press_in_force_N = r.axial_force_N.max;

    const double q_hub2 = std::pow(d / p.hub_outer_mm, 2), q_shaft2 = std::pow(p.shaft_bore_mm / d, 2);
    const double p_max = r.pressure_MPa.max;
    r.hub_stress_MPa = mises(-p_max, p_max * (1 + q_hub2) / (1 - q_hub2));
    r.shaft_stress_MPa = p.shaft_bore_mm > 0 ? 2 * p_max / (1 - q_shaft2) : p_max;
    r.hub_safety = p.hub.yield_MPa / r.hub_stress_MPa;
    r.shaft_safety = p.shaft_material.yield_MPa / r.shaft_stress_MPa;
    if (p.shaft_bore_mm > 0) {
        const double per_MPa = -2 * p.shaft_bore_mm / (p.shaft_material.modulus_MPa * (1 - q_shaft2));
        r.bore_change_mm = Range{per_MPa * r.pressure_MPa.max, per_MPa * r.pressure_MPa.min};
    }
    const double to_overcome = measured.max + assembly_clearance * d;
    r.heat_hub_to_C = room_temperature_C + to_overcome / (p.hub.expansion_per_K * d);
    const double cold = room_temperature_C - to_overcome / (p.shaft_material.contraction_per_K * d);
    if (cold >= liquid_nitrogen_C) r.cool_shaft_to_C = cold;

    const auto um = [](double mm) { return fmt::format("{:.1f}", mm * 1000); };
    r.working = {{"effective interference, greatest", "Z − 0.8·(RzH + RzS) + (αS − αH)·(T − 20)·D",
                  fmt::format("{} − {} + {} µm", um(measured.max), um(smoothed), um(warmed)),
                  r.interference_mm.max, "mm", source},
                 {"effective interference, smallest", "the same with the smallest Z",
                  fmt::format("{} − {} + {} µm", um(measured.min), um(smoothed), um(warmed)),
                  r.interference_mm.min, "mm", source},
                 {"compliance of the hub", "((1 + Q²)/(1 − Q²) + ν)/E, Q = D/DH",
                  fmt::format("Q = {:.4f}, ν = {}, E = {}", std::sqrt(q_hub2), plain(p.hub.poisson),
                              plain(p.hub.modulus_MPa)),
                  hub_compliance(p) * 1e6, "1e-6/MPa", source},
                 {"compliance of the shaft", "((1 + q²)/(1 − q²) − ν)/E, q = d/D",
                  fmt::format("q = {:.4f}, ν = {}, E = {}", std::sqrt(q_shaft2),
                              plain(p.shaft_material.poisson), plain(p.shaft_material.modulus_MPa)),
                  shaft_compliance(p) * 1e6, "1e-6/MPa", source},
                 {"pressure, greatest", "Z / (D·(KH + KS))",
                  fmt::format("{} µm / ({}·{:.4g})", um(r.interference_mm.max), plain(d), compliance),
                  r.pressure_MPa.max, "MPa", source},
                 {"pressure, smallest", "the same with the smallest Z", um(r.interference_mm.min) + " µm",
                  r.pressure_MPa.min, "MPa", source},
                 {"axial force held", "p·π·D·L·µ",
                  fmt::format("{:.2f}·π·{}·{}·{}", r.pressure_MPa.min, plain(d), plain(p.length_mm),
                              plain(p.friction)),
                  r.axial_force_N.min, "N", source},
                 {"torque held", "F·D/2", fmt::format("{:.0f}·{}/2", r.axial_force_N.min, plain(d)),
                  r.torque_Nm.min, "N·m", source},
                 {"stress at the hub's bore", "p·√(3 + Q⁴)/(1 − Q²)",
                  fmt::format("{:.2f}, Q = {:.4f}", p_max, std::sqrt(q_hub2)), r.hub_stress_MPa, "MPa",
                  source},
                 {"stress in the shaft", p.shaft_bore_mm > 0 ? "2·p/(1 − q²)" : "p",
                  fmt::format("{:.2f}", p_max), r.shaft_stress_MPa, "MPa", source},
                 {"heat the hub to", "20 + (Zmax + 0.001·D)/(αH·D)",
                  fmt::format("20 + ({} µm + {})/({:.3g}·{})", um(measured.max),
                              plain(assembly_clearance * d), p.hub.expansion_per_K, plain(d)),
                  r.heat_hub_to_C, "°C", source}};
    add_cautions(p, r, measured.max);
    return r;
}

WallStresses wall_stresses(const PressPair& p, double pressure_MPa, int points) {
    WallStresses all;
    const double b = p.diameter_mm / 2, a = p.shaft_bore_mm / 2, c = p.hub_outer_mm / 2;
    for (int i = 0; i < points; ++i) {
        const double share = points > 1 ? static_cast<double>(i) / (points - 1) : 0;
        const double r_shaft = a + share * (b - a), r_hub = b + share * (c - b);
        // Lamé: pressure from outside on the shaft, from inside on the hub.
        const double outside = -pressure_MPa * b * b / (b * b - a * a);
        const double hollow = a > 0 ? a * a / (r_shaft * r_shaft) : 0;
        const double inside = pressure_MPa * b * b / (c * c - b * b), hub = c * c / (r_hub * r_hub);
        WallStress shaft_at{r_shaft, outside * (1 - hollow), outside * (1 + hollow)};
        WallStress hub_at{r_hub, inside * (1 - hub), inside * (1 + hub)};
        shaft_at.mises_MPa = mises(shaft_at.radial_MPa, shaft_at.tangential_MPa);
        hub_at.mises_MPa = mises(hub_at.radial_MPa, hub_at.tangential_MPa);
        all.shaft.push_back(shaft_at);
        all.hub.push_back(hub_at);
    }
    return all;
}

double bore_before_pressing_mm(double wanted_mm, const PressFit& fit) {
    if (!fit.bore_change_mm) return wanted_mm;
    return wanted_mm - (fit.bore_change_mm->min + fit.bore_change_mm->max) / 2;
}

}
