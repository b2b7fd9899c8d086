#include "quantity/expression.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <cmath>
#include <numbers>

namespace kollema::standards {
namespace {

constexpr double steel_kg_mm3 = 7.85e-6, copper_alloy_kg_mm3 = 8.8e-6;
constexpr double hexagon = 0.8660254; // area of a regular hexagon = 0.866·s²

double disc(double diameter) { return std::numbers::pi / 4 * diameter * diameter; }
double ring(double outer, double inner) { return disc(outer) - disc(inner); }

/// Volume of a cone's frustum between two diameters.
double frustum(double a, double b, double height) {
    return std::numbers::pi / 12 * height * (a * a + a * b + b * b);
}

/// Cross-section of a threaded shank: at the pitch diameter.
double shank_area(const HardwareItem& item, double d) {
    const auto t = thread(item.size);
    return disc(t ? t->pitch_diameter_mm : item["P"] ? d - 0.65 * *item["P"] : 0.93 * d);
}

}

std::optional<double> mass_kg(const HardwareItem& piece, std::optional<double> length_mm) {
    const HardwareItem item = at_length(piece, length_mm.value_or(0));
    const auto of = [&](std::string_view symbol) { return item[symbol].value_or(0); };
    const double d = of("d"), l = length_mm.value_or(0);
    const std::string& shape = item.shape;
    if (!item.lengths_mm.empty() && !length_mm) return std::nullopt;
    const auto steel = [](double volume) { return volume * steel_kg_mm3; };
    if (shape == "hex_screw") return steel(hexagon * of("s") * of("s") * of("k") + shank_area(item, d) * l);
    if (shape == "cap_screw")
        return steel(disc(of("dk")) * of("k") - hexagon * of("s") * of("s") * of("t") +
                     shank_area(item, d) * l);
    if (shape == "button_screw") return steel(0.65 * disc(of("dk")) * of("k") + shank_area(item, d) * l);
    if (shape == "countersunk_screw")
        return steel(frustum(of("dk"), d, of("k")) + shank_area(item, d) * std::max(0.0, l - of("k")));
    if (shape == "wood_screw")
        return steel(frustum(of("dk"), d, of("k")) + 0.6 * disc(d) * std::max(0.0, l - of("k")));
    if (shape.starts_with("set_screw"))
        return steel(shank_area(item, d) * l - hexagon * of("s") * of("s") * std::min(of("t"), l));
    if (shape == "stud") return steel(shank_area(item, d) * (l + of("b1")));
    if (shape == "hex_nut" || shape == "lock_nut" || shape == "castle_nut" || shape == "cap_nut") {
        const double m = item["m"] ? of("m") : of("h");
        return steel((hexagon * of("s") * of("s") - shank_area(item, d)) * m);
    }
    if (shape == "shoulder_screw")
        return steel(disc(of("dk")) * of("k") - hexagon * of("s") * of("s") * of("k") / 2 +
                     disc(of("ds")) * l + disc(d - 0.65 * of("P")) * of("b"));
    if (shape == "flange_screw")
        return steel(hexagon * of("s") * of("s") * (of("k") - of("c")) + disc(of("dc")) * 1.5 * of("c") +
                     shank_area(item, d) * l);
    if (shape == "flange_nut")
        return steel((hexagon * of("s") * of("s") - shank_area(item, d)) * (of("m") - of("c")) +
                     ring(of("dc"), d) * 1.5 * of("c"));
    if (shape == "tapping_screw") return steel(0.7 * disc(of("dk")) * of("k") + 0.65 * disc(d) * l);
    if (shape == "slotted_round_nut")
        return steel(ring(of("d2"), d - 0.65 * of("P")) * of("m") - 4 * of("b") * of("t") * of("m"));
    if (shape == "knurled_nut") {
        const double k = item["k"] ? of("k") : of("h"), collar = item["ds"] ? of("ds") : 0;
        return steel(disc(of("dk")) * k + disc(collar) * (of("h") - k) - shank_area(item, d) * of("h"));
    }
    if (shape == "t_slot_nut")
        return steel(of("e") * of("e") * of("k") + of("a") * of("e") * (of("h") - of("k")) -
                     disc(0.92 * d) * of("h"));
    if (shape == "shim") return steel(ring(of("d2"), of("d1")) * l);
    if (shape == "washer") return steel(ring(of("d2"), of("d1")) * of("h"));
    if (shape == "spring_washer" || shape == "cone_washer") return steel(ring(of("d2"), of("d1")) * of("s"));
    if (shape == "pin" || shape == "clevis_pin_plain") return steel(disc(d) * l);
    if (shape == "clevis_pin") return steel(disc(d) * l + disc(of("dk")) * of("k"));
    if (shape == "taper_pin") return steel(frustum(d, d + l / 50, l));
    if (shape == "spring_pin") return steel(ring(of("d1"), of("d1") - 2 * of("s")) * l);
    if (shape == "parallel_key" || shape == "taper_key") {
        if (item.lengths_mm.empty()) return std::nullopt;
        return steel(of("b") * of("h") * l);
    }
    if (shape == "woodruff_key") { // a circular segment of height h
        const double r = of("d2") / 2, h = of("h");
        return steel(of("b") * (r * r * std::acos((r - h) / r) -
                                (r - h) * std::sqrt(std::max(0.0, 2 * r * h - h * h))));
    }
    if (shape == "bush") return ring(of("d2"), of("d1")) * l * copper_alloy_kg_mm3;
    if (shape == "flanged_bush")
        return (ring(of("d2"), of("d1")) * l + ring(of("d3"), of("d2")) * of("b2")) * copper_alloy_kg_mm3;
    if (shape == "bearing") { // rings, balls and cage fill about this share of the solid ring
        constexpr double filled = 0.68;
        return steel(filled * ring(of("D"), d) * of("B"));
    }
    if (shape == "rivet") return steel(disc(of("d1")) * l + 0.7 * disc(of("d2")) * of("k"));
    return std::nullopt;
}

}
