#include "fit/family.hpp"
#include <algorithm>
#include <cctype>
#include <cmath>

namespace kollema::fit {
namespace {

using standards::Side;
using standards::Zone;

std::string as_written(std::string letters, Side side) {
    if (side == Side::hole)
        for (char& c : letters)
            c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return letters;
}

Family of_inch_class(double diameter_mm, const std::string& text) {
    Family f;
    for (const auto& name : standards::inch_fit_classes()) {
        if (name.substr(0, 2) != text.substr(0, 2)) continue;
        if (const auto fit = standards::fit(diameter_mm, name))
            f.members.push_back({name, fit->shaft_zone, fit->shaft});
    }
    // RC9 and LC11 are the loosest of their families; LT, LN and FN grow tighter with the number.
    if (text.starts_with("RC") || text.starts_with("LC")) std::ranges::reverse(f.members);
    const auto at = std::ranges::find(f.members, text, &FamilyMember::fit);
    f.current = static_cast<std::size_t>(at - f.members.begin());
    return f;
}

}

standards::Side moving_side(const standards::Fit& fit) {
    return fit.basis == standards::Basis::shaft ? Side::hole : Side::shaft;
}

Result<Family> family(double diameter_mm, const std::string& text, Side side) {
    const auto fit = standards::fit(diameter_mm, text);
    if (!fit) return tl::unexpected(fit.error());
    const auto slash = text.find('/');
    if (slash == std::string::npos) return of_inch_class(diameter_mm, text);
    const Zone hole = *standards::parse_zone(fit->hole_zone), shaft = *standards::parse_zone(fit->shaft_zone);
    const Zone& moving = side == Side::hole ? hole : shaft;
    const auto joined = [&](const Zone& zone) {
        return side == Side::hole ? zone.text() + "/" + shaft.text() : hole.text() + "/" + zone.text();
    };
    Family f;
    for (const auto& letters : standards::shaft_letters()) {
        Zone zone = moving;
        zone.letters = as_written(letters, side);
        if (const auto limits = standards::limit_deviations(diameter_mm, zone))
            f.members.push_back({joined(zone), zone.text(), *limits});
    }
    const auto at = std::ranges::find(f.members, moving.text(), &FamilyMember::zone);
    f.current = static_cast<std::size_t>(at - f.members.begin());
    for (const int step : {-1, 1}) {
        Zone zone = moving;
        zone.grade += step;
        if (standards::limit_deviations(diameter_mm, zone)) (step < 0 ? f.finer : f.coarser) = joined(zone);
    }
    return f;
}

const FamilyMember& nearest(const Family& family, double middle_um) {
    return *std::ranges::min_element(family.members, {}, [&](const FamilyMember& m) {
        return std::abs((m.limits.upper_um + m.limits.lower_um) / 2 - middle_um);
    });
}

}
