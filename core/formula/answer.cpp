#include "formula/answer.hpp"
#include "formula/middle.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::formula {
namespace {

using Eigen::VectorXd;

Failure no_slope(const std::string& gap) {
    return {.what = fmt::format("requirement \"{}\"", gap),
            .why = "it has no finite value or slope there",
            .remedy = "Check for divisions by nothing and roots of what is below zero"};
}

/// The gap as a linear chain about the middle of the zones, with one fixed size more that brings it to the
/// true value there.
std::vector<stack::Contributor> linearised(const Model& model, const VectorXd& slopes, double at_middle) {
    std::vector<stack::Contributor> chain = model.sizes;
    double rest = at_middle;
    for (std::size_t i = 0; i < chain.size(); ++i) {
        chain[i].sensitivity = slopes[static_cast<Eigen::Index>(i)];
        rest -= chain[i].sensitivity * stack::zone_middle(chain[i]);
    }
    chain.push_back({.name = "", .nominal = rest, .distribution = Distribution::fixed});
    return chain;
}

/// A slope that moves the gap by less than its last digit is none.
void drop_rounding(VectorXd& slopes, const Middle& middle, double value) {
    if (slopes.size() == 0) return;
    const double last_digit = 1e-15 * (middle.middle.sizes.cwiseAbs().maxCoeff() + std::abs(value));
    for (Eigen::Index i = 0; i < slopes.size(); ++i)
        if (std::abs(slopes[i]) * std::max(middle.half[i], 1e-3 * std::abs(middle.middle.sizes[i])) <
            last_digit)
            slopes[i] = 0;
}

/// What the linear chain misses at its two outer corners and along each size, of its spread; 1 where there
/// is none to compare with.
double nonlinearity(Closing& closing, const Middle& middle, Tape::At of, const VectorXd& slopes) {
    const double spread = slopes.cwiseAbs().dot(middle.half), at_middle = middle.middle.values[of];
    if (!(spread > 0)) return 1;
    const auto value_at = [&](const VectorXd& sizes) -> std::optional<double> {
        const auto closed = closing.follow(middle.middle, sizes);
        if (!closed || !std::isfinite(closed->values[of])) return std::nullopt;
        return closed->values[of];
    };
    double most = 0, bent = 0;
    for (const double side : {1.0, -1.0}) {
        const VectorXd away = side * slopes.cwiseSign().cwiseProduct(middle.half);
        const auto value = value_at(middle.middle.sizes + away);
        if (!value) return 1;
        most = std::max(most, std::abs(*value - (at_middle + slopes.dot(away))));
    }
    for (Eigen::Index i = 0; i < middle.half.size(); ++i) {
        if (middle.half[i] == 0) continue;
        const VectorXd away = VectorXd::Unit(middle.half.size(), i) * middle.half[i];
        const auto up = value_at(middle.middle.sizes + away), down = value_at(middle.middle.sizes - away);
        if (!up || !down) return 1;
        bent += std::abs(*up + *down - 2 * at_middle) / 2;
    }
    return std::max(most, bent) / spread;
}

Result<GapAnswer> answer_of(const Model& model, Closing& closing, const Middle& middle,
                            const Model::Gap& gap) {
    const double at_middle = middle.middle.values[gap.value];
    GapAnswer a{
        .id = gap.id, .name = gap.name, .limits = gap.limits, .nominal = middle.nominal.values[gap.value]};
    VectorXd slopes = closing.slopes(middle.middle, gap.value);
    const VectorXd at_nominal = closing.slopes(middle.nominal, gap.value);
    if (!std::isfinite(a.nominal) || !std::isfinite(at_middle) || !slopes.allFinite() ||
        !at_nominal.allFinite())
        return fail(no_slope(gap.id));
    drop_rounding(slopes, middle, at_middle);
    const auto chain = linearised(model, slopes, at_middle);
    if (const auto sound = stack::validate(chain, gap.limits); !sound) {
        Failure failure = sound.error();
        failure.kind = FailureKind::not_held;
        return fail(failure);
    }
    if (const auto all = extremes(model, closing, middle, gap.value)) {
        a.worst_case = all->found;
        a.worst_case_bound = all->bound;
        a.worst_case_proven = all->proven;
    }
    a.rss = stack::root_sum_square(chain);
    a.distribution = stack::gap_probabilities(chain, gap.limits);
    a.nonlinearity = nonlinearity(closing, middle, gap.value, slopes);
    a.exact = a.nonlinearity <= linear_to_rounding;
    a.linear_enough = a.nonlinearity <= linear_enough;
    a.contributions = stack::contributions(chain);
    a.contributions.pop_back();
    return a;
}

}

Result<Middle> middle_of(const Model& model, Closing& closing) {
    const auto count = static_cast<Eigen::Index>(model.sizes.size());
    VectorXd nominal(count), middle(count);
    Middle all;
    all.half.resize(count);
    for (Eigen::Index i = 0; i < count; ++i) {
        const auto& size = model.sizes[static_cast<std::size_t>(i)];
        nominal[i] = size.nominal;
        middle[i] = stack::zone_middle(size);
        all.half[i] = stack::half_width(size);
    }
    auto at_nominal = closing.from_guess(nominal);
    if (!at_nominal) return tl::unexpected(at_nominal.error());
    all.nominal = std::move(*at_nominal);
    auto at_middle = closing.follow(all.nominal, middle);
    if (!at_middle)
        return fail({.what = "the loops",
                     .why = "they close at nominal sizes, but not in the middle of the limits",
                     .remedy = "Check the limits"});
    all.middle = std::move(*at_middle);
    return all;
}

Result<Answer> answer(const Model& model) {
    Closing closing(model);
    const auto middle = middle_of(model, closing);
    if (!middle) return tl::unexpected(middle.error());
    Answer all;
    for (std::size_t i = 0; i < model.unknowns.size(); ++i)
        all.unknowns.emplace_back(model.unknowns[i].name,
                                  middle->nominal.unknowns[static_cast<Eigen::Index>(i)]);
    for (const auto& gap : model.gaps) {
        auto one = answer_of(model, closing, *middle, gap);
        if (!one) return tl::unexpected(one.error());
        all.gaps.push_back(std::move(*one));
    }
    return all;
}

}
