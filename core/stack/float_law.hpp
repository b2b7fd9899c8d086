#pragma once
#include "stack/chain.hpp"
#include <complex>
#include <functional>
#include <optional>
#include <span>
#include <vector>

/// What a clearance gives a gap: the place that a pin takes in its hole, or a tab in its slot, by chance.
namespace kollema::stack {

/// A clearance as it is made and the share of its place that reaches the gap.
struct Play {
    Contributor clearance; ///< hole minus pin; what is made below 0 leaves no place
    double reach = 1;      ///< how far the gap moves for a move of the pin in the direction that matters
    enum class Place {
        line,   ///< any place from one side of the slot to the other is as likely
        disc,   ///< any place in the round hole
        pushed, ///< at one side: the gap moves by reach × radius, its sign kept
    } place = Place::line;
    std::optional<std::size_t> made_once = {}; ///< plays of one number are of one hole and one pin
};

/// Half the clearance, the radius within which the pin has its place: at the limits and over all that are
/// made.
double radius_of(double clearance);
double greatest_radius(const Contributor& clearance);
double mean_square_radius(const Contributor& clearance); ///< E ρ²
bool always_open(const Contributor& clearance);          ///< nothing, or nothing that counts, is made below 0

/// Internal to the exact distribution.  A symmetric law of the gap: the place in a disc seen from the side
/// (its density a half ellipse) or on a line, mixed over the radii that are made.  Of a pin that stands in
/// its hole at several places the radius is the same at each, the place another.
struct FloatLaw {
    bool disc = false;
    struct Radius {
        double weight = 0, radius = 0;
    };
    std::vector<Radius> mix;       ///< weights sum to 1
    std::vector<double> also = {}; ///< radii of the further places, to the first one's
};
/// Of plays that are made once, of one sort and not pushed.
FloatLaw law_of(std::span<const Play> made_once, double unit);
bool of_several(const FloatLaw& law);
/// What it is where the radius is that: each place by itself.
std::vector<FloatLaw> at_radius(const FloatLaw& law, double radius);

double variance(const FloatLaw& law);
double support(const FloatLaw& law);
/// Generating function E e^(sX) with its first two derivatives, divided by e^(support·Re s).  Re s ≥ 0.
struct Generating {
    std::complex<double> value, first, second;
};
Generating generating(const FloatLaw& law, std::complex<double> s);
std::complex<double> generating_value(const FloatLaw& law, std::complex<double> s); ///< its value alone
/// P(X > x) of this law alone.  Precondition: not of several, as below.
double tail(const FloatLaw& law, double x);
/// E f(X): the mean of a function over the law, to about 1e-9 of the greatest value.
double mean_over(const FloatLaw& law, const std::function<double(double)>& f);

/// Clearances as made, for any mean over them: nodes with weights that sum to 1, those below 0 as 0.
/// More pieces put them closer together.
std::vector<FloatLaw::Radius> radii_as_made(const Contributor& clearance, int pieces = 1);

}
