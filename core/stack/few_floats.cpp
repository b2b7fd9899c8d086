#include "stack/scatter.hpp"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kollema::stack {

bool ends_soon(const Scatter& s) {
    constexpr double most_steps = 20'000, log_of_end = 39; // −ln(1e-17)
    // The step is a fraction of the whole reach; the integrand ends by the normal part's decay, or by the
    // power that boxes, cut normals (1 each) and floats (3/2, 1 on a line) give it.
    const double sigma = std::sqrt(variance(s)), step = 2 * std::numbers::pi / (10 * sigma);
    const double normal_end = std::sqrt(2 * log_of_end / std::max(s.normal_variance, 1e-300));
    double power = 1 + static_cast<double>(s.boxes.size() + s.cut.size()), smallest = sigma;
    for (const double a : s.boxes)
        smallest = std::min(smallest, a);
    for (const auto& c : s.cut)
        smallest = std::min(smallest, c.k * c.sigma);
    for (const auto& law : s.floats) {
        power += law.disc ? 1.5 : 1;
        smallest = std::min(smallest, std::sqrt(variance(law)));
    }
    const double power_end = std::exp(log_of_end / power) / smallest;
    return std::min(normal_end, power_end) < most_steps * step;
}

double tail_over_greatest_float(const Scatter& s, double x) {
    const auto greatest =
        std::ranges::max_element(s.floats, {}, [](const FloatLaw& l) { return variance(l); });
    Scatter rest = s;
    rest.floats.erase(rest.floats.begin() + (greatest - s.floats.begin()));
    if (rest.parts() == 0) return tail(*greatest, x);
    return mean_over(*greatest, [&](double y) { return tail(rest, x - y); });
}

}
