#include "stack/matching.hpp"
#include "stack/exact.hpp"
#include <algorithm>
#include <array>
#include <boost/math/quadrature/gauss.hpp>
#include <cmath>

namespace kollema::stack {
namespace {

constexpr std::size_t most_classes = 20;
using Rule = boost::math::quadrature::gauss<double, 16>;

tl::unexpected<Failure> refuse(std::string why, std::string remedy) {
    return fail({"the classes", std::move(why), std::move(remedy), FailureKind::argument});
}

/// A class of one size: points in it, with the share of all parts that each stands for.
struct Class {
    double from = 0, to = 0;
    std::vector<std::array<double, 2>> points; ///< value, share
    double share = 0;
};

/// One size on its own.
class Size {
public:
    explicit Size(const Contributor& c) : alone_(c), law_((alone_.sensitivity = 1, std::span(&alone_, 1))) {}

    double density(double at) const { return law_.density(at); }
    double middle() const { return zone_middle(alone_); }
    double sigma() const { return law_.sigma(); }
    double mean() const { return law_.mean(); }

    /// The outermost have the tails too, as far as anything is left.
    std::vector<Class> classes(std::size_t count) const {
        const double middle = zone_middle(alone_), half = half_width(alone_), tail = 6 * law_.sigma();
        const bool has_tails = alone_.distribution == Distribution::normal;
        const auto border = [&](std::size_t k) {
            return middle + half * (2 * static_cast<double>(k) / static_cast<double>(count) - 1);
        };
        std::vector<Class> all;
        for (std::size_t k = 0; k < count; ++k) {
            Class one{.from = border(k), .to = border(k + 1)};
            if (has_tails && k == 0) one.from = std::min(one.from, law_.mean() - tail);
            if (has_tails && k + 1 == count) one.to = std::max(one.to, law_.mean() + tail);
            fill(one);
            all.push_back(std::move(one));
        }
        return all;
    }
    double between(double from, double to) const {
        if (to <= from) return 0;
        return from > law_.mean() ? law_.above(from) - law_.above(to) : law_.below(to) - law_.below(from);
    }

private:
    /// Pieces of half a σ: the density bends no more than the rule takes in; a triangle's peak is a border.
    /// As far as anything lies, for a zone may be very many σ wide.
    void fill(Class& one) const {
        const double most = 9 * law_.sigma();
        const double from = std::max(one.from, law_.mean() - most), to = std::min(one.to, law_.mean() + most);
        if (to <= from) return;
        std::vector<double> borders{from, to};
        const auto pieces = static_cast<int>(std::ceil(2 * (to - from) / law_.sigma()));
        for (int i = 1; i < pieces; ++i)
            borders.push_back(from + (to - from) * i / pieces);
        const double peak = zone_middle(alone_);
        if (peak > from && peak < to) borders.push_back(peak);
        std::ranges::sort(borders);
        for (std::size_t i = 0; i + 1 < borders.size(); ++i) {
            const double at = (borders[i] + borders[i + 1]) / 2, reach = (borders[i + 1] - borders[i]) / 2;
            for (std::size_t n = 0; n < Rule::abscissa().size(); ++n)
                for (const double side : {-1.0, 1.0}) {
                    const double x = at + side * reach * Rule::abscissa()[n];
                    const double share = reach * Rule::weights()[n] * law_.density(x);
                    one.points.push_back({x, share});
                    one.share += share;
                }
        }
    }

    Contributor alone_;
    ExactDistribution law_;
};

/// What all else makes of a shift by the two: the share of assemblies within the limits, as a table, for it
/// is asked for very often.
class Rest {
public:
    Rest(const std::vector<Contributor>& rest, const Limits& limits, double from, double to) : from_(from) {
        const ExactDistribution gap(rest);
        constexpr double by_sigma = 12;
        const auto cells =
            static_cast<std::size_t>(std::clamp((to - from) / gap.sigma() * by_sigma, 100.0, 20'000.0));
        step_ = (to - from) / static_cast<double>(cells);
        for (std::size_t i = 0; i < cells + 4; ++i) {
            const double shift = from + (static_cast<double>(i) - 1) * step_;
            Limits left;
            if (limits.lower) left.lower = *limits.lower - shift;
            if (limits.upper) left.upper = *limits.upper - shift;
            shares_.push_back(gap.yield(left));
        }
    }
    /// By a cubic through the four nearest.
    double share(double shift) const {
        const double at = (shift - from_) / step_ + 1;
        const auto i = static_cast<std::size_t>(
            std::clamp(std::floor(at), 1.0, static_cast<double>(shares_.size()) - 3));
        const double t = at - static_cast<double>(i);
        const double a = shares_[i - 1], b = shares_[i], c = shares_[i + 1], d = shares_[i + 2];
        return b + t / 2 * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
    }

private:
    double from_, step_ = 1;
    std::vector<double> shares_;
};

/// All else where it scatters much less than a class is wide: points of its law with their shares.  What lies
/// between the limits is a step then, and is cut at its steps.
std::vector<std::array<double, 2>> points_of(const std::vector<Contributor>& rest) {
    const ExactDistribution law(rest);
    constexpr double reach = 8; // σ
    constexpr int pieces = 8;
    std::vector<std::array<double, 2>> points;
    double whole = 0;
    double half = 0; // of what all of them reach: of one alone its law may end there in a step
    for (const auto& c : rest)
        half += std::abs(c.sensitivity) * half_width(c);
    std::vector<double> borders{law.mean() - half, law.mean() + half};
    for (int i = 0; i <= pieces; ++i)
        borders.push_back(law.mean() + reach * law.sigma() * (2.0 * i / pieces - 1));
    std::ranges::sort(borders);
    for (std::size_t i = 0; i + 1 < borders.size(); ++i) {
        const double at = (borders[i] + borders[i + 1]) / 2, width = borders[i + 1] - borders[i];
        for (std::size_t n = 0; n < Rule::abscissa().size(); ++n)
            for (const double side : {-1.0, 1.0}) {
                const double z = at + side * width / 2 * Rule::abscissa()[n];
                points.push_back({z, width / 2 * Rule::weights()[n] * law.density(z)});
                whole += points.back()[1];
            }
    }
    for (auto& [z, share] : points)
        share /= whole;
    return points;
}

double reach_of(const std::vector<Class>& classes, double by, bool greatest) {
    const double a = by * classes.front().from, b = by * classes.back().to;
    return greatest ? std::max(a, b) : std::min(a, b);
}

/// Of two classes the share of pairs that lie between the limits with all else at z: of every x the other's
/// share as its law says, and the x from one of its steps to the next by a rule.
double share_between_steps(const Size& size_a, const Contributor& a, const Class& x_class, const Size& size_b,
                           const Contributor& b, const Class& y_class, const Limits& limits, double z) {
    constexpr double far = 1e300;
    const double most = 9 * size_a.sigma(), first = std::max(x_class.from, size_a.mean() - most),
                 last = std::min(x_class.to, size_a.mean() + most);
    if (last <= first) return 0;
    std::vector<double> borders{first, last, size_a.middle()};
    for (const auto& limit : {limits.lower, limits.upper})
        for (const double y : {y_class.from, y_class.to, size_b.middle()})
            if (limit) borders.push_back((*limit - z - b.sensitivity * y) / a.sensitivity);
    const auto pieces = static_cast<int>(std::ceil(2 * (last - first) / size_a.sigma()));
    for (int i = 1; i < pieces; ++i)
        borders.push_back(first + (last - first) * i / pieces);
    std::erase_if(borders, [&](double x) { return x < first || x > last; });
    std::ranges::sort(borders);
    double sum = 0;
    for (std::size_t i = 0; i + 1 < borders.size(); ++i) {
        const double at = (borders[i] + borders[i + 1]) / 2, reach = (borders[i + 1] - borders[i]) / 2;
        if (reach <= 0) continue;
        for (std::size_t n = 0; n < Rule::abscissa().size(); ++n)
            for (const double side : {-1.0, 1.0}) {
                const double x = at + side * reach * Rule::abscissa()[n], gap = z + a.sensitivity * x;
                double from = limits.lower ? (*limits.lower - gap) / b.sensitivity : -far * b.sensitivity,
                       to = limits.upper ? (*limits.upper - gap) / b.sensitivity : far * b.sensitivity;
                if (from > to) std::swap(from, to);
                sum += reach * Rule::weights()[n] * size_a.density(x) *
                       size_b.between(std::max(from, y_class.from), std::min(to, y_class.to));
            }
    }
    return sum;
}

}

Result<Matched> match_classes(Chain chain, const Limits& limits, std::size_t first, std::size_t second,
                              std::size_t classes) {
    if (!limits.lower && !limits.upper) return refuse("the gap has no limit", "Give one");
    if (classes < 2 || classes > most_classes) return refuse("there must be 2 to 20", "Give for example 3");
    if (first == second || std::max(first, second) >= chain.size())
        return refuse("two sizes are needed", "Name two rows");
    const Contributor &a = chain[first], &b = chain[second];
    for (const auto* c : {&a, &b})
        if (half_width(*c) == 0 || c->sensitivity == 0)
            return refuse(c->name + " does not scatter", "Choose two sizes that do");
    const Size size_a(a), size_b(b);
    const auto of_a = size_a.classes(classes), of_b = size_b.classes(classes);
    std::vector<Contributor> others;
    double fixed = 0;
    bool scatters = false;
    for (std::size_t i = 0; i < chain.size(); ++i) {
        if (i == first || i == second) continue;
        others.push_back(chain[i]);
        fixed += chain[i].sensitivity * moments(chain[i]).mean; // a fixed one may stand off its nominal
        scatters = scatters || (half_width(chain[i]) > 0 && chain[i].sensitivity != 0);
    }
    const double narrowest =
        2 * std::min(half_width(a) * std::abs(a.sensitivity), half_width(b) * std::abs(b.sensitivity)) /
        static_cast<double>(classes);
    constexpr double much_less = 0.2;
    const bool steps = !scatters || moments(Chain(others)).sigma < much_less * narrowest;
    const auto others_at =
        scatters && steps ? points_of(others) : std::vector<std::array<double, 2>>{{fixed, 1}};
    std::optional<Rest> rest;
    if (!steps)
        rest.emplace(others, limits,
                     reach_of(of_a, a.sensitivity, false) + reach_of(of_b, b.sensitivity, false),
                     reach_of(of_a, a.sensitivity, true) + reach_of(of_b, b.sensitivity, true));
    const auto yield_of = [&](const Class& x_class, const Class& y_class) {
        double sum = 0;
        if (rest)
            for (const auto& [x, of_x] : x_class.points)
                for (const auto& [y, of_y] : y_class.points)
                    sum += of_x * of_y * rest->share(a.sensitivity * x + b.sensitivity * y);
        else
            for (const auto& [z, of_z] : others_at)
                sum += of_z * share_between_steps(size_a, a, x_class, size_b, b, y_class, limits, z);
        return sum / (x_class.share * y_class.share);
    };
    // Where both widen the gap, the largest of one goes to the smallest of the other.
    const bool like_to_like = a.sensitivity * b.sensitivity < 0;
    Matched matched;
    double made = 0, right = 0;
    for (std::size_t k = 0; k < classes; ++k) {
        matched.of_first.push_back(of_a[k].share);
        matched.of_second.push_back(of_b[k].share);
        const Class& partner = of_b[like_to_like ? k : classes - 1 - k];
        const double pairs = std::min(of_a[k].share, partner.share);
        made += pairs;
        if (pairs > 1e-12) right += pairs * yield_of(of_a[k], partner);
    }
    matched.left_over = std::max(0.0, 1 - made);
    matched.yield = made > 0 ? std::clamp(right / made, 0.0, 1.0) : 0; // perhaps nobody finds a partner
    return matched;
}

double drifted_yield(Chain chain, const Limits& limits, double sigmas) {
    const ExactDistribution gap(chain);
    double least = 1;
    for (const double side : {-1.0, 1.0}) {
        const double by = side * sigmas * gap.sigma();
        Limits moved;
        if (limits.lower) moved.lower = *limits.lower - by;
        if (limits.upper) moved.upper = *limits.upper - by;
        least = std::min(least, gap.yield(moved));
    }
    return least;
}

}
