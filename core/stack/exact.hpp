#pragma once
#include "stack/chain.hpp"
#include "stack/float_law.hpp"
#include "stack/scatter.hpp"

namespace kollema::stack {

/// The exact distribution of the gap of a linear chain, ready for any number of questions.
///
/// Method: the tail is the inverse Laplace integral of the moment generating function along a vertical line
/// through (or near) its saddle point, by the trapezoidal rule, which converges geometrically (Lugannani &
/// Rice 1980 for the saddle point; Trefethen & Weideman 2014 for the rule); closed forms where few
/// contributors make the integrand decay slowly; contributors far smaller than a few large ones are taken in
/// by their moments (scatter.hpp).  A float's generating function is a Bessel function (disc) or a hyperbolic
/// sine (line), mixed over the clearances as made.  Relative accuracy of a tail about 1e-10 or better down to
/// 1e-300; about 1e-9 of the small ones' own share where a limit lies on a corner of the large ones.  What
/// does not converge with the work of some seconds (floats in the widest and the narrowest holes at once) is
/// no number: nothing stands for it.
class ExactDistribution {
public:
    /// Precondition: validate() passed.  The plays are independent of the chain and, but for what is made
    /// once, of each other.
    explicit ExactDistribution(Chain chain, std::span<const Play> plays = {});

    double mean() const { return mean_; }
    double sigma() const { return sigma_; }

    double above(double gap) const;   ///< P(gap > x)
    double below(double gap) const;   ///< P(gap < x)
    double density(double gap) const; ///< for pictures; 1/mm.  Zero where nothing scatters or converges.
    double yield(const Limits& limits) const;

private:
    struct Offset {
        double weight = 1, by = 0;
    };
    double add_size(const Contributor& c, double sensitivity); ///< these answer the variance, in units
    double add_floats(std::span<const Play> made_once);
    double add_pushed(const Play& play);
    void spread_pushed();
    static std::vector<Offset> sums(const std::vector<Offset>& a, const std::vector<Offset>& b);
    double beyond(double gap, double side) const; ///< P(side·(S − gap) > 0)
    double beyond_last(double x, double side) const;

    double mean_ = 0, sigma_ = 0;
    double middle_ = 0;   ///< the mean without what is pushed
    double rounding_ = 0; ///< of the mean
    double unit_ = 1;     ///< the largest σ, in which the scatter is measured
    Scatter scatter_;
    std::vector<Play> pushed_;
    std::optional<Play> last_pushed_;       ///< where nothing else scatters
    std::vector<Offset> offsets_{Offset{}}; ///< of what is pushed
};

struct GapProbabilities {
    double mean = 0, sigma = 0;
    double yield = 0, below = 0, above = 0;           ///< below and above are 0 where there is no limit
    bool converged() const { return yield == yield; } ///< else they are no numbers
};
GapProbabilities gap_probabilities(Chain chain, const Limits& limits, std::span<const Play> plays = {});

}
