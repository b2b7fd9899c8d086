#include "presenter/bench.hpp"
#include "edit/bench_edits.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "stack/typed_size.hpp"
#include "standards/materials.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::desktop {
namespace {

/// Fields of a pair are told from those of a joint by their names.
const QString pair_prefix = QStringLiteral("pair_");

fit::SizeLimits sizes(double nominal_mm, const standards::LimitDeviations& d) {
    return {nominal_mm + d.upper_um / 1000, nominal_mm + d.lower_um / 1000};
}

std::vector<CurvePoint> curve_of(const stack::ExactDistribution& clearance, const fit::Clearance& limits) {
    std::vector<CurvePoint> curve;
    const double from =
                     std::max(clearance.mean() - 4.5 * clearance.sigma(), limits.min_mm - clearance.sigma()),
                 to = std::min(clearance.mean() + 4.5 * clearance.sigma(), limits.max_mm + clearance.sigma());
    constexpr int steps = 160;
    for (int i = 0; i <= steps; ++i) {
        const double x = from + (to - from) * i / steps;
        curve.push_back({x, clearance.density(x)});
    }
    return curve;
}

Working working_of(const FitPair& p, const BenchResult& r) {
    const auto um = [](double mm) { return fmt::format("{:.1f}", mm * 1000); };
    Working steps{
        {"limits of the hole", r.fit.hole_zone,
         fmt::format("{} {:+g} {:+g} µm", plain(p.nominal_mm), r.fit.hole.upper_um, r.fit.hole.lower_um),
         p.nominal_mm, "mm", r.fit.source},
        {"limits of the shaft", r.fit.shaft_zone,
         fmt::format("{} {:+g} {:+g} µm", plain(p.nominal_mm), r.fit.shaft.upper_um, r.fit.shaft.lower_um),
         p.nominal_mm, "mm", r.fit.source},
        {"greatest clearance", "ES − ei",
         fmt::format("{:g} − ({:g}) µm", r.fit.hole.upper_um, r.fit.shaft.lower_um), r.clearance.max_mm, "mm",
         r.fit.source},
        {"smallest clearance", "EI − es",
         fmt::format("{:g} − ({:g}) µm", r.fit.hole.lower_um, r.fit.shaft.upper_um), r.clearance.min_mm, "mm",
         r.fit.source},
        {"spread of the clearance", "√(σH² + σS²), σ = width/(6·Cpk)", fmt::format("Cpk = {}", plain(p.cpk)),
         r.sigma_mm, "mm", "normal sizes, assumed"},
        {"share asked for", "P(clearance ≥ x)", fmt::format("x = {} µm", um(p.asked_mm)),
         100 * r.shares.at_least, "%", "exact distribution of the difference"}};
    if (r.clearance.max_mm > 0) {
        steps.push_back({"tilt", "atan(c/L)",
                         fmt::format("{} µm / {} mm", um(r.clearance.max_mm), plain(p.length_mm)),
                         r.play.tilt_rad * 180 / std::numbers::pi, "°", "geometry"});
        steps.push_back({"movement at the reach", "2·(L/2 + reach)·c/L",
                         fmt::format("2·({}/2 + {})·{} µm / {}", plain(p.length_mm), plain(p.reach_mm),
                                     um(r.clearance.max_mm), plain(p.length_mm)),
                         r.play.at_reach_mm, "mm", "geometry"});
    }
    if (r.axial) {
        const auto limits = [](const TolerancedLength& l) {
            return fmt::format("{} {:+g} {:+g}", plain(l.nominal_mm), l.plus_mm, l.minus_mm);
        };
        const std::string figures = limits(p.axial_room) + " − " + limits(p.axial_part);
        steps.push_back({"greatest play along the axis", "room max − part min", figures, r.axial->max_mm,
                         "mm", "geometry"});
        steps.push_back({"smallest play along the axis", "room min − part max", figures, r.axial->min_mm,
                         "mm", "geometry"});
    }
    if (r.press && *r.press)
        steps.insert(steps.end(), (**r.press).working.begin(), (**r.press).working.end());
    return steps;
}

QStringList material_titles() {
    QStringList all;
    for (const auto& m : standards::materials())
        all << qt(m.title);
    return all;
}

QString material_title(const std::string& id) {
    const auto m = standards::material(id);
    return m ? qt(m->title) : qt(id);
}

std::string material_id(const QString& title) {
    for (const auto& m : standards::materials())
        if (qt(m.title) == title) return m.id;
    return title.toStdString();
}

/// A figure that is a length, and the member it changes.
struct LengthFigure {
    const char *key, *label, *meaning;
    double FitPair::*member;
};
constexpr LengthFigure lengths[] = {
    {"size", "Nominal size", "Common to hole and shaft; an expression such as 25, 1 in or 3/4 in",
     &FitPair::nominal_mm},
    {"length", "Guided length", "Length of contact; the span where two short bearings guide",
     &FitPair::length_mm},
    {"reach", "Reach", "How far beyond the guide's end movement is asked for", &FitPair::reach_mm},
    {"hub_outer", "Hub outside", "Outside diameter of the part with the hole", &FitPair::hub_outer_mm},
    {"shaft_bore", "Shaft bore", "Bore of a hollow shaft or a bush; 0 for a solid one",
     &FitPair::shaft_bore_mm},
};
constexpr LengthFigure seat_lengths[] = {
    {"seat_length", "Seat length", "Length of the step on which the bearing sits", &FitPair::seat_length_mm},
    {"shoulder", "Shaft shoulder", "Diameter of the shoulder behind the bearing; 0 if not given",
     &FitPair::shoulder_mm},
    {"fillet", "Fillet", "Radius between seat and shoulder", &FitPair::fillet_mm},
    {"chamfer", "Lead-in chamfer", "Length of the chamfer at the seat's start", &FitPair::chamfer_mm},
};
struct NumberFigure {
    const char *key, *label, *meaning;
    double FitPair::*member;
};
constexpr NumberFigure numbers[] = {
    {"working", "Works at, °C", "Working temperature; figures on the sheets begin at −40 °C",
     &FitPair::working_C},
    {"cpk", "Capability Cpk",
     "How well both sizes are held: 1 means six standard deviations in the tolerance", &FitPair::cpk},
    {"friction", "Friction", "Coefficient of friction in a press fit", &FitPair::friction},
    {"rz_hub", "Rz hub, µm", "Roughness of the bore; pressing flattens 0.8 of it", &FitPair::rz_hub_um},
    {"rz_shaft", "Rz shaft, µm", "Roughness of the shaft", &FitPair::rz_shaft_um},
};

/// A bearing's ring is made to its own limits (ISO 492), not to a zone of ISO 286.
void take_ring(standards::Fit& f, const FitPair& p, const standards::HardwareItem& bearing,
               const fit::SeatFit& seat) {
    if (p.nominal_mm == bearing["d"]) {
        f.hole = seat.bore_um;
        f.hole_zone = "ring";
    } else if (p.nominal_mm == bearing["D"]) {
        f.shaft = seat.outside_um;
        f.shaft_zone = "ring";
    } else
        return;
    f.kind = standards::kind_of(f.clearance_min_um(), f.clearance_max_um());
    f.source += "; ring: ISO 492";
}

}

fit::PressPair press_pair(const FitPair& p, const standards::Fit& f) {
    return {.diameter_mm = p.nominal_mm,
            .hole = sizes(p.nominal_mm, f.hole),
            .shaft = sizes(p.nominal_mm, f.shaft),
            .length_mm = p.length_mm,
            .hub_outer_mm = p.hub_outer_mm,
            .shaft_bore_mm = p.shaft_bore_mm,
            .hub = *standards::material(p.hub_material),
            .shaft_material = *standards::material(p.shaft_material),
            .friction = p.friction,
            .rz_hub_um = p.rz_hub_um,
            .rz_shaft_um = p.rz_shaft_um,
            .temperature_C = p.working_C};
}

Result<BenchResult> bench_result(const FitPair& p, const fit::SeatTask& seat_task) {
    auto f = standards::fit(p.nominal_mm, p.fit);
    if (!f) return tl::unexpected(f.error());
    BenchResult r;
    if (!p.bearing.empty()) {
        if (const auto bearing = standards::hardware("ISO 15", p.bearing)) {
            r.seat = fit::seat_fit(*bearing, seat_task);
            if (*r.seat) take_ring(*f, p, *bearing, **r.seat);
            fit::SeatGeometry geometry{
                .length_mm = p.seat_length_mm, .fillet_mm = p.fillet_mm, .chamfer_mm = p.chamfer_mm};
            if (p.shoulder_mm > 0) geometry.shoulder_mm = p.shoulder_mm;
            r.seat_remarks = fit::seat_remarks(*bearing, geometry);
        }
    }
    r.fit = *f;
    const auto hole = sizes(p.nominal_mm, f->hole), shaft = sizes(p.nominal_mm, f->shaft);
    r.clearance = fit::clearance(hole, shaft);
    const auto chain = stack::pair_chain(hole, shaft, p.cpk);
    const stack::ExactDistribution distribution(chain);
    r.sigma_mm = distribution.sigma();
    r.curve = curve_of(distribution, r.clearance);
    r.shares = stack::pair_shares(hole, shaft, p.cpk, p.asked_mm);
    r.share_with_play = distribution.above(0);
    if (p.axial_room.nominal_mm > 0 && p.axial_part.nominal_mm > 0)
        r.axial = fit::clearance(
            {p.axial_room.nominal_mm + p.axial_room.plus_mm, p.axial_room.nominal_mm + p.axial_room.minus_mm},
            {p.axial_part.nominal_mm + p.axial_part.plus_mm,
             p.axial_part.nominal_mm + p.axial_part.minus_mm});
    r.play = fit::play(r.clearance.max_mm, p.length_mm, p.reach_mm);
    const auto hub = *standards::material(p.hub_material),
               shaft_material = *standards::material(p.shaft_material);
    const double from = std::min(coldest_C, p.working_C), to = std::max(p.working_C, 40.0);
    constexpr int steps = 40;
    for (int i = 0; i <= steps; ++i) {
        const double t = from + (to - from) * i / steps;
        const auto c = fit::clearance_at(r.clearance, p.nominal_mm, hub, shaft_material, t);
        r.temperatures.push_back({t, c.min_mm, c.max_mm});
    }
    r.seizes_C = fit::seizing_temperature_C(r.clearance, p.nominal_mm, hub, shaft_material, from, to);
    if (r.clearance.min_mm < 0) {
        const auto pair = press_pair(p, *f);
        r.press = fit::press_fit(pair);
        if (*r.press) r.walls = fit::wall_stresses(pair, (**r.press).pressure_MPa.max, 41);
    }
    r.working = working_of(p, r);
    return r;
}

std::vector<Figure> figures_of(const FitPair& p, LengthUnit unit) {
    using Kind = Figure::Kind;
    const auto length = [&](const LengthFigure& f) {
        return Figure{f.key, f.label, Kind::typed, qt(shown_length(p.*f.member, unit)), {}, f.meaning};
    };
    std::vector<Figure> all{
        length(lengths[0]),
        {"fit", "Fit", Kind::typed, qt(p.fit), {}, "Such as H7/g6, or a class of ASME B4.1 such as RC4"},
        {"hub_material", "Hub", Kind::choice, material_title(p.hub_material), material_titles(),
         "Material of the part with the hole"},
        {"shaft_material", "Shaft", Kind::choice, material_title(p.shaft_material), material_titles(),
         "Material of the shaft"}};
    for (std::size_t i = 1; i < std::size(lengths); ++i)
        all.push_back(length(lengths[i]));
    for (const auto& f : numbers)
        all.push_back({f.key, f.label, Kind::typed, qt(plain(p.*f.member, 6)), {}, f.meaning});
    all.push_back({"axial_room",
                   "Room along axis",
                   Kind::typed,
                   toleranced_text(p.axial_room, unit),
                   {},
                   "Between the shoulders, with its limits: 20 ±0.05 or 20 +0.1 0; empty if axial play is no "
                   "question"});
    all.push_back({"axial_part",
                   "Part along axis",
                   Kind::typed,
                   toleranced_text(p.axial_part, unit),
                   {},
                   "What stands in that room, with its limits: 20 -0.02 -0.07"});
    all.push_back(
        {"bearing",
         "Bearing",
         Kind::typed,
         qt(p.bearing),
         {},
         "Size of a ball bearing of ISO 15 when the pair is its seat, such as 6204; empty for none"});
    if (!p.bearing.empty())
        for (const auto& f : seat_lengths)
            all.push_back(length(f));
    for (auto& figure : all)
        figure.key.prepend(pair_prefix);
    return all;
}

Result<Project> with_pair_figure(const Project& project, const PairId& id, const QString& field,
                                 const QString& value, LengthUnit unit) {
    const FitPair* old = find(project, id);
    if (!old)
        return fail({.what = id.text,
                     .why = "there is no such pair",
                     .remedy = "Choose a pair",
                     .kind = FailureKind::argument});
    const QString key = field.startsWith(pair_prefix) ? field.mid(pair_prefix.size()) : field;
    FitPair p = *old;
    const std::string text = value.trimmed().toStdString();
    if (key == "name")
        p.name = text;
    else if (key == "fit")
        p.fit = text;
    else if (key == "hub_material")
        p.hub_material = material_id(value);
    else if (key == "shaft_material")
        p.shaft_material = material_id(value);
    else if (key == "bearing")
        p.bearing = text;
    else if (key == "axial_room" || key == "axial_part") {
        const auto length = parse_toleranced(value, unit);
        if (!length) return tl::unexpected(length.error());
        (key == "axial_room" ? p.axial_room : p.axial_part) = *length;
    } else if (key == "asked") {
        const auto length = parse_length_mm(text, unit);
        if (!length) return tl::unexpected(length.error());
        p.asked_mm = as_shown_of(p.asked_mm, *length);
    }
    const auto set_length = [&](const LengthFigure& f) -> Result<void> {
        if (key != f.key) return {};
        const auto length = parse_length_mm(text, unit);
        if (!length) return tl::unexpected(length.error());
        p.*f.member = as_shown_of(p.*f.member, *length);
        return {};
    };
    for (const auto& f : lengths)
        if (auto done = set_length(f); !done) return tl::unexpected(done.error());
    for (const auto& f : seat_lengths)
        if (auto done = set_length(f); !done) return tl::unexpected(done.error());
    for (const auto& f : numbers)
        if (key == f.key) {
            const auto number = parse_number(text);
            if (!number) return tl::unexpected(number.error());
            p.*f.member = *number;
        }
    return edit::change_pair(project, p);
}

QString toleranced_text(const TolerancedLength& l, LengthUnit unit) {
    if (l.nominal_mm == 0) return {};
    const auto shown = [&](double mm) { return plain(from_mm(mm, unit), 6); };
    const auto deviation = [&](double mm) { return (mm > 0 ? "+" : "") + shown(mm); };
    if (l.plus_mm == -l.minus_mm) return qt(fmt::format("{} ±{}", shown(l.nominal_mm), shown(l.plus_mm)));
    return qt(fmt::format("{} {} {}", shown(l.nominal_mm), deviation(l.plus_mm), deviation(l.minus_mm)));
}

Result<TolerancedLength> parse_toleranced(const QString& text, LengthUnit unit) {
    if (text.trimmed().isEmpty()) return TolerancedLength{};
    const auto read = stack::read_toleranced(text.toStdString(), {.bare = unit});
    if (!read) return tl::unexpected(read.error());
    return TolerancedLength{read->nominal_mm, read->limits.plus_mm, read->limits.minus_mm};
}

namespace {

/// Micrometres to a tenth, thousandths of an inch to a hundredth; without needless zeros.
std::string small_number(double mm, LengthUnit unit) {
    if (unit == LengthUnit::inch) return plain(std::round(mm / mm_per_inch * 1e5) / 100, 6);
    return plain(std::round(mm * 1e4) / 10, 6);
}

const char* small_unit(LengthUnit unit) { return unit == LengthUnit::mm ? "µm" : "thou"; }

}

QString small_length(double mm, LengthUnit unit) {
    return qt(fmt::format("{} {}", small_number(mm, unit), small_unit(unit)));
}

QString clearance_words(const fit::Clearance& c, LengthUnit unit) {
    const auto range = [&](const char* noun, double from, double to) {
        return qt(fmt::format("{} {} to {} {}", noun, small_number(from, unit), small_number(to, unit),
                              small_unit(unit)));
    };
    if (c.min_mm >= 0) return range("clearance", c.min_mm, c.max_mm);
    if (c.max_mm <= 0) return range("interference", -c.max_mm, -c.min_mm);
    return small_length(-c.min_mm, unit) + " tight to " + small_length(c.max_mm, unit) + " loose";
}

}
