#pragma once
#include "stack/chain.hpp"

namespace kollema::stack {

/// The exact distribution of the gap of a linear chain, ready for any number of questions.
///
/// Method: the tail is the inverse Laplace integral of the moment generating function along a vertical line
/// through (or near) its saddle point, by the trapezoidal rule, which converges geometrically (Lugannani &
/// Rice 1980 for the saddle point; Trefethen & Weideman 2014 for the rule); closed forms where few
/// contributors make the integrand decay slowly.  Relative accuracy of a tail about 1e-10 or better down to
/// 1e-300.
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
    struct CutNormal {
        double sigma, k; ///< cut at ±k·σ
    };
    double beyond(double x) const; ///< P(S − mean > x)
    double tail(double x) const;   ///< the same for x ≥ 0 and a gap that scatters
    double closed_form_of_boxes(double x) const;
    double few_parts(double x,
                     std::size_t first_cut) const; ///< any x; boxes and the cut normals from `first_cut` on
    double contour(double x) const;

    double mean_ = 0, sigma_ = 0;
    double rounding_ = 0; ///< of the mean
    double normal_variance_ = 0;
    std::vector<double> boxes_; ///< half widths of uniform parts; a triangle is two boxes of half its width
    std::vector<CutNormal> cut_;
    double support_ = 0; ///< half width of everything but the normal part
};

struct GapProbabilities {
    double mean = 0, sigma = 0;
    double yield = 0, below = 0, above = 0; ///< below and above are 0 where there is no limit
};
GapProbabilities gap_probabilities(Chain chain, const Limits& limits);

}
