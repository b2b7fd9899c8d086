#pragma once
#include "stack/float_law.hpp"
#include <vector>

/// Internal to the exact distribution: what scatters in a chain, about its mean, and the tail of it.
namespace kollema::stack {

struct CutNormal {
    double sigma = 0, k = 0; ///< cut at ±k·σ
};

/// A sum of independent parts, each symmetric about zero.
struct Scatter {
    double normal_variance = 0;
    std::vector<double>
        boxes; ///< half widths of uniform parts, largest first; a triangle is two of half its width
    std::vector<CutNormal> cut;
    std::vector<FloatLaw> floats;

    std::size_t parts() const {
        return boxes.size() + cut.size() + floats.size() + (normal_variance > 0 ? 1 : 0);
    }
};

double variance(const Scatter& s);
double support(const Scatter& s); ///< half width of everything but the normal part

/// The 32 largest boxes and cut normals and all floats as they are and one normal for the others, where there
/// are more than 64: the sum of n
/// alike differs from it by about (x/σ)⁴/(20·n) of its tail.
inline constexpr std::size_t kept_apart = 64;
Scatter merged(const Scatter& s);

/// What one tail may still cost, in factors of uniform parts: a second or two.
struct Work {
    double left = 8e7;
};

/// P(S > x); no number where the work was not enough for it to converge.  Precondition: something scatters.
double tail(const Scatter& s, double x, Work& work);

/// Few boxes and cut normals without a normal: their closed forms and piecewise Gauss rules hold.
bool has_closed_form(const Scatter& s);
double closed_form_tail(const Scatter& s, double x);
double closed_form_density(const Scatter& s, double x);

/// The inverse Laplace integral; exact.cpp tells more.
double contour_tail(const Scatter& s, double x, Work& work);

/// Floats beside so little else that the contour would never end: the greatest of them is taken out, and the
/// tail of the others averaged over its law.
inline constexpr double float_end = 1e-13; ///< of the sum, where a contour with floats ends
bool ends_soon(const Scatter& s);
bool are_two_floats(
    const Scatter& s); ///< and nothing else, each of one radius: one integral of a closed form
double tail_over_greatest_float(const Scatter& s, double x, Work& work);

/// Parts far smaller than a few large ones, which the contour would have to follow for millions of steps.
struct Scales {
    Scatter large, small;
    bool apart = false; ///< else everything is in `large`
};
Scales split_by_scale(const Scatter& s);

/// P(large + small > x) where the scales are apart.  Between the corners of the large parts' density: a rule
/// that keeps the first five moments of the small ones, error below (small/large)^6; at a corner: the
/// integral over the small ones' own distribution.
double tail_of_scales(const Scales& scales, double x, Work& work);

}
