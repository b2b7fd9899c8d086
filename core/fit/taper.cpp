#include "fit/taper.hpp"
#include "quantity/expression.hpp"
#include "quantity/format.hpp"
#include "quantity/text.hpp"
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::fit {
namespace {

constexpr double degrees_per_radian = 180 / std::numbers::pi;

tl::unexpected<Failure> unreadable(std::string_view text, std::string why) {
    return fail({.what = fmt::format("\"{}\"", text),
                 .why = std::move(why),
                 .remedy = "Write for example 1:100 or 0.573deg",
                 .kind = FailureKind::argument});
}

/// Beyond this a taper or an angle is a slip of the pen, and its other figures are no numbers.
constexpr double largest_ratio = 1e9;

Result<Taper> within_bounds(const Taper& t, std::string_view text) {
    if (t.ratio <= largest_ratio && t.ratio >= 1 / largest_ratio) return t;
    return fail({.what = fmt::format("\"{}\"", text),
                 .why = "a taper is held from 1e9:1 to 1:1e9",
                 .remedy = "Write for example 1:100 or 0.573deg"});
}

Result<Taper> read_ratio(std::string_view text) {
    const auto colon = text.find(':');
    const auto one = parse_number(trimmed(text.substr(0, colon)));
    const auto x = parse_number(trimmed(text.substr(colon + 1)));
    if (!one || !x) return unreadable(text, "a taper is written 1:x");
    if (!(*one > 0 && *x > 0)) return unreadable(text, "both figures of a taper are greater than zero");
    return within_bounds(taper_of_ratio(*x / *one), text);
}

Result<Taper> read_angle(std::string_view text) {
    std::string plain_text(text);
    for (const std::string_view sign : {"°", "º"})
        if (const auto at = plain_text.find(sign); at != std::string::npos)
            plain_text.replace(at, sign.size(), "deg");
    const auto degrees = parse_angle_deg(plain_text);
    if (!degrees) return unreadable(text, "this is neither a ratio nor an angle");
    if (!(*degrees > 0 && *degrees < 180))
        return unreadable(text, "an included angle lies between 0° and 180°");
    return within_bounds(taper_of_included_angle(*degrees), text);
}

/// Half of the last digit written: 0.57 stands for 0.565 to 0.575.
double half_last_digit(std::string_view figure) {
    const auto point = figure.find('.');
    if (point == std::string_view::npos) return 0.5;
    double step = 0.5;
    for (std::size_t i = point + 1; i < figure.size() && figure[i] >= '0' && figure[i] <= '9'; ++i)
        step /= 10;
    return step;
}

std::string both_named(const Taper& ratio, double written_angle, std::string_view text) {
    const auto names = [&](const Taper& t) {
        return fmt::format("1:{} is {:.3f}° included, {:.3f}° on each side; a slope of it {:.3f}°",
                           plain(t.ratio, 5), t.included_angle_deg, t.half_angle_deg, t.slope_angle_deg);
    };
    return fmt::format("\"{}\" contradicts itself: {}. {:.3f}° included belongs to 1:{}", text, names(ratio),
                       written_angle, plain(taper_of_included_angle(written_angle).ratio, 5));
}

}

Taper taper_of_ratio(double x) {
    const double half = std::atan(1 / (2 * x)) * degrees_per_radian;
    return {.ratio = x,
            .included_angle_deg = 2 * half,
            .half_angle_deg = half,
            .slope_angle_deg = std::atan(1 / x) * degrees_per_radian};
}

Taper taper_of_included_angle(double degrees) {
    Taper t = taper_of_ratio(1 / (2 * std::tan(degrees / 2 / degrees_per_radian)));
    t.included_angle_deg = degrees; // as typed, not by way of the ratio
    t.half_angle_deg = degrees / 2;
    return t;
}

Result<Taper> parse_taper(std::string_view text) {
    const auto equals = text.find('=');
    if (equals == std::string_view::npos)
        return text.find(':') != std::string_view::npos ? read_ratio(trimmed(text))
                                                        : read_angle(trimmed(text));
    std::string_view ratio_text = trimmed(text.substr(0, equals)),
                     angle_text = trimmed(text.substr(equals + 1));
    if (ratio_text.find(':') == std::string_view::npos) std::swap(ratio_text, angle_text);
    if (ratio_text.find(':') == std::string_view::npos || angle_text.find(':') != std::string_view::npos)
        return unreadable(text, "a ratio and an angle are compared, not two of the same");
    auto ratio = read_ratio(ratio_text);
    if (!ratio) return ratio;
    const auto angle = read_angle(angle_text);
    if (!angle) return tl::unexpected(angle.error());
    if (std::abs(angle->included_angle_deg - ratio->included_angle_deg) >
        half_last_digit(angle_text) * 1.0001)
        ratio->contradiction = both_named(*ratio, angle->included_angle_deg, text);
    return ratio;
}

}
