#pragma once
#include "stack/chain.hpp"
#include "stack/scatter.hpp"

namespace kollema::stack {

/// The exact distribution of the gap of a linear chain, ready for any number of questions.
///
/// Method: the tail is the inverse Laplace integral of the moment generating function along a vertical line
/// through (or near) its saddle point, by the trapezoidal rule, which converges geometrically (Lugannani &
/// Rice 1980 for the saddle point; Trefethen & Weideman 2014 for the rule); closed forms where few
/// contributors make the integrand decay slowly; contributors far smaller than a few large ones are taken in
/// by their moments (scatter.hpp).  Relative accuracy of a tail about 1e-10 or better down to 1e-300; about
/// 1e-9 of the small ones' own share where a limit lies on a corner of the large ones.
class ExactDistribution {
public:
    /// Precondition: validate() passed.
    explicit ExactDistribution(Chain chain);

    double mean() const { return mean_; }
    double sigma() const { return sigma_; }

    double above(double gap) const;   ///< P(gap > x)
    double below(double gap) const;   ///< P(gap < x)
    double density(double gap) const; ///< for pictures; 1/mm.  Zero where nothing scatters.
    double yield(const Limits& limits) const;

private:
    double beyond(double x) const; ///< P(S − mean > x)

    double mean_ = 0, sigma_ = 0;
    double rounding_ = 0; ///< of the mean
    double unit_ = 1;     ///< the largest σ, in which the scatter is measured
    Scatter scatter_;
};

struct GapProbabilities {
    double mean = 0, sigma = 0;
    double yield = 0, below = 0, above = 0; ///< below and above are 0 where there is no limit
};
GapProbabilities gap_probabilities(Chain chain, const Limits& limits);

}
