#include "stack/float_law.hpp"
#include <algorithm>
#include <array>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <cmath>
#include <numbers>
#include <numeric>

namespace kollema::stack {
namespace {

using Complex = std::complex<double>;
using std::numbers::pi;

constexpr unsigned nodes = 40;
using Gauss = boost::math::quadrature::gauss<double, nodes>;

/// Density of the clearance about its middle, not normalised, and how far it reaches.
struct Made {
    double middle = 0, reach = 0;
    std::function<double(double)> density;
};

Made made(const Contributor& c) {
    const double half = half_width(c), sigma = half / (3 * c.cpk);
    const auto bell = [](double x) { return std::exp(-x * x / 2); };
    constexpr double end_of_bell = 8.5;
    switch (c.distribution) {
    case Distribution::normal:
        return {moments(c).mean, end_of_bell * sigma, [=](double x) { return bell(x / sigma); }};
    case Distribution::truncated:
        return {zone_middle(c), std::min(half, end_of_bell * sigma),
                [=](double x) { return bell(x / sigma); }};
    case Distribution::triangular:
        return {zone_middle(c), half, [=](double x) { return half - std::abs(x); }};
    case Distribution::uniform:
        return {zone_middle(c), half, [](double) { return 1.0; }};
    case Distribution::fixed:
        break;
    }
    return {zone_middle(c), 0, {}};
}

/// Gauss nodes of one piece, weighed by the density.
void add_piece(std::vector<FloatLaw::Radius>& all, const Made& m, double from, double to) {
    if (to <= from) return;
    const double middle = (from + to) / 2, half = (to - from) / 2;
    const auto add = [&](double x, double weight) {
        const double at = middle + half * x;
        all.push_back({weight * half * m.density(at - m.middle), radius_of(at)});
    };
    for (std::size_t i = 0; i < Gauss::abscissa().size(); ++i) {
        add(Gauss::abscissa()[i], Gauss::weights()[i]);
        if (Gauss::abscissa()[i] != 0) add(-Gauss::abscissa()[i], Gauss::weights()[i]);
    }
}

/// Scaled modified Bessel functions e^(−z)·I₀…I₂ for large |z|, Re z ≥ 0: DLMF 10.40.5, both exponentials.
Complex scaled_bessel_far(int order, Complex z) {
    const double mu = 4.0 * order * order;
    Complex near = 0, far = 0, term = 1;
    for (int k = 0; k < 24; ++k) {
        near += k % 2 == 0 ? term : -term;
        far += term;
        const double odd = 2 * k + 1;
        term *= (mu - odd * odd) / (8.0 * (k + 1)) / z;
    }
    const double sign = z.imag() >= 0 ? 1 : -1;
    const Complex turn = std::polar(1.0, sign * pi * (order + 0.5));
    return (near + turn * std::exp(-2.0 * z) * far) / std::sqrt(2 * pi * z);
}

/// Beyond this the asymptotic series is exact to rounding; within it a rule of |z|/2 + 15 nodes is.
constexpr double series_from = 25;

/// Gauss's rule for the half ellipse (Chebyshev, second kind), its weights those of a unit disc seen from the
/// side.
struct DiscNode {
    double y = 0, weight = 0;
};
const auto& disc_rule() {
    constexpr int count = 28;
    static const auto rule = [] {
        std::array<DiscNode, count> all{};
        for (int i = 0; i < count; ++i) {
            const double angle = pi * (i + 1) / (count + 1);
            all[static_cast<std::size_t>(i)] = {std::cos(angle),
                                                2 * std::sin(angle) * std::sin(angle) / (count + 1)};
        }
        return all;
    }();
    return rule;
}

/// Mean of e^(zy), y the place in a unit disc seen from the side; divided by e^(Re z).
Complex value_of_disc(Complex z) {
    if (std::abs(z) > series_from) return 2.0 * scaled_bessel_far(1, z) * std::polar(1.0, z.imag()) / z;
    Complex sum = 0;
    for (const auto& [y, weight] : disc_rule())
        sum += weight * std::polar(std::exp(z.real() * (y - 1)), z.imag() * y);
    return sum;
}

/// The same with its derivatives.
Generating of_disc(Complex z) {
    if (std::abs(z) > series_from) {
        const Complex turn = std::polar(1.0, z.imag()), i1 = scaled_bessel_far(1, z) * turn,
                      i2 = scaled_bessel_far(2, z) * turn;
        return {2.0 * i1 / z, 2.0 * i2 / z, 2.0 * i1 / z - 6.0 * i2 / (z * z)};
    }
    Generating g;
    for (const auto& [y, weight] : disc_rule()) {
        const Complex term = weight * std::polar(std::exp(z.real() * (y - 1)), z.imag() * y);
        g.value += term;
        g.first += y * term;
        g.second += y * y * term;
    }
    return g;
}

/// The same on the line from −1 to 1: sinh z / z.
Generating of_line(Complex z) {
    if (std::abs(z) < 0.1) {
        const Complex q = z * z;
        const double fade = std::exp(-z.real());
        return {fade * (1.0 + q / 6.0 + q * q / 120.0 + q * q * q / 5040.0),
                fade * z * (1.0 / 3 + q / 30.0 + q * q / 840.0 + q * q * q / 45360.0),
                fade * (1.0 / 3 + q / 10.0 + q * q / 168.0 + q * q * q / 6480.0)};
    }
    const Complex near = std::polar(1.0, z.imag()), far = std::polar(std::exp(-2 * z.real()), -z.imag());
    const Complex sinh = (near - far) / 2.0, cosh = (near + far) / 2.0;
    return {sinh / z, cosh / z - sinh / (z * z), sinh / z - 2.0 * cosh / (z * z) + 2.0 * sinh / (z * z * z)};
}

double tail_of_unit(bool disc, double x) {
    if (x >= 1) return 0;
    if (x <= -1) return 1;
    if (!disc) return (1 - x) / 2;
    return (std::acos(x) - x * std::sqrt(1 - x * x)) / pi;
}

}

double radius_of(double clearance) { return std::max(0.0, clearance) / 2; }
double greatest_radius(const Contributor& c) { return radius_of(zone_middle(c) + half_width(c)); }

bool always_open(const Contributor& c) {
    const Made m = made(c);
    return m.middle >= m.reach;
}

std::vector<FloatLaw::Radius> radii_as_made(const Contributor& clearance, int pieces) {
    const Made m = made(clearance);
    if (m.reach == 0) return {{1, radius_of(m.middle)}};
    const double from = m.middle - m.reach, to = m.middle + m.reach;
    std::vector<FloatLaw::Radius> below, all;
    add_piece(below, m, from, std::min(0.0, to));
    double lost = 0, kept = 0;
    for (const auto& r : below)
        lost += r.weight;
    std::vector<double> ends{std::max(0.0, from), to};
    if (clearance.distribution == Distribution::triangular && m.middle > ends[0])
        ends.insert(ends.begin() + 1, m.middle);
    for (std::size_t i = 1; i < ends.size(); ++i)
        for (int p = 0; p < pieces; ++p) {
            const double piece = (ends[i] - ends[i - 1]) / pieces;
            add_piece(all, m, ends[i - 1] + p * piece, ends[i - 1] + (p + 1) * piece);
        }
    if (lost > 0) all.push_back({lost, 0});
    for (const auto& r : all)
        kept += r.weight;
    for (auto& r : all)
        r.weight /= kept;
    return all;
}

double mean_square_radius(const Contributor& clearance) {
    double sum = 0;
    for (const auto& r : radii_as_made(clearance))
        sum += r.weight * r.radius * r.radius;
    return sum;
}

FloatLaw law_of(std::span<const Play> made_once, double unit) {
    const auto& first =
        *std::ranges::max_element(made_once, {}, [](const Play& p) { return std::abs(p.reach); });
    FloatLaw law{.disc = first.place == Play::Place::disc, .mix = radii_as_made(first.clearance)};
    for (auto& r : law.mix)
        r.radius *= std::abs(first.reach) / unit;
    for (const auto& play : made_once)
        if (&play != &first && play.reach != 0) law.also.push_back(std::abs(play.reach / first.reach));
    return law;
}

bool of_several(const FloatLaw& law) { return !law.also.empty(); }

std::vector<FloatLaw> at_radius(const FloatLaw& law, double radius) {
    std::vector<FloatLaw> all{{.disc = law.disc, .mix = {{1, radius}}}};
    for (const double ratio : law.also)
        all.push_back({.disc = law.disc, .mix = {{1, ratio * radius}}});
    return all;
}

double variance(const FloatLaw& law) {
    double squares = 0, places = 1;
    for (const auto& r : law.mix)
        squares += r.weight * r.radius * r.radius;
    for (const double ratio : law.also)
        places += ratio * ratio;
    return squares * places / (law.disc ? 4 : 3);
}

namespace {

/// All places together against the first.
double sum_of_places(const FloatLaw& law) { return std::reduce(law.also.begin(), law.also.end(), 1.0); }

}

double support(const FloatLaw& law) {
    return std::ranges::max_element(law.mix, {}, &FloatLaw::Radius::radius)->radius * sum_of_places(law);
}

Generating generating(const FloatLaw& law, Complex s) {
    const double edge = support(law), places = sum_of_places(law);
    const auto one_place = [&](Complex z) { return law.disc ? of_disc(z) : of_line(z); };
    Generating sum;
    for (const auto& [weight, radius] : law.mix) {
        const double fade = weight * std::exp(s.real() * (places * radius - edge));
        if (fade < 1e-22) continue;
        Generating g = one_place(s * radius);
        for (const double ratio : law.also) {
            const Generating h = one_place(s * radius * ratio);
            g = {g.value * h.value, g.first * h.value + ratio * g.value * h.first,
                 g.second * h.value + 2.0 * ratio * g.first * h.first + ratio * ratio * g.value * h.second};
        }
        sum.value += fade * g.value;
        sum.first += fade * radius * g.first;
        sum.second += fade * radius * radius * g.second;
    }
    return sum;
}

Complex generating_value(const FloatLaw& law, Complex s) {
    const double edge = support(law), places = sum_of_places(law);
    const auto one_place = [&](Complex z) { return law.disc ? value_of_disc(z) : of_line(z).value; };
    Complex sum = 0;
    for (const auto& [weight, radius] : law.mix) {
        const double fade = weight * std::exp(s.real() * (places * radius - edge));
        if (fade < 1e-22) continue;
        Complex value = one_place(s * radius);
        for (const double ratio : law.also)
            value *= one_place(s * radius * ratio);
        sum += fade * value;
    }
    return sum;
}

double tail(const FloatLaw& law, double x) {
    double sum = 0;
    for (const auto& [weight, radius] : law.mix)
        sum += weight * (radius > 0 ? tail_of_unit(law.disc, x / radius) : x < 0 ? 1.0 : 0.0);
    return sum;
}

double mean_over(const FloatLaw& law, const std::function<double(double)>& f) {
    using Rule = boost::math::quadrature::gauss_kronrod<double, 31>;
    constexpr unsigned most_halvings = 9;
    constexpr double tolerance = 1e-9;
    double sum = 0;
    for (const auto& [weight, radius] : law.mix) {
        if (radius == 0) {
            sum += weight * f(0);
            continue;
        }
        // y = sin u takes the roots out of the half ellipse's ends.
        const auto at = [&, r = radius](double u) {
            const double density = law.disc ? 2 / pi * std::cos(u) * std::cos(u) : std::cos(u) / 2;
            return density * f(r * std::sin(u));
        };
        sum += weight * Rule::integrate(at, -pi / 2, pi / 2, most_halvings, tolerance);
    }
    return sum;
}

}
