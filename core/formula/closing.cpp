#include "formula/closing.hpp"
#include "algebra/dense.hpp"
#include "quantity/format.hpp"
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::formula {
namespace {

constexpr double converged = 1e-9;   ///< of a step; the next one squares it
constexpr double least_ratio = 1e-6; ///< of singular values, below which a loop does not hold its unknowns
constexpr int most_halvings = 12;

const Failure no_value{.what = "the formula",
                       .why = "it has no finite value or slope there",
                       .remedy = "Check for divisions by nothing and roots of what is below zero"};
const Failure not_held{.what = "the loops",
                       .why = "they are singular where they close: some unknowns are not held there",
                       .remedy = "Look for vectors in one line, or two that turn together"};

/// Smallest over greatest singular value, rows scaled to length 1, then columns.
double singular_ratio(Eigen::MatrixXd j) {
    if (j.rows() == 0) return 1;
    for (auto row : j.rowwise())
        if (const double n = row.norm(); n > 0) row /= n;
    for (auto column : j.colwise())
        if (const double n = column.norm(); n > 0) column /= n;
    const Eigen::VectorXd values = algebra::svd(j, algebra::Vectors::none).values;
    return values[0] > 0 ? values[values.size() - 1] / values[0] : 0;
}

bool all_finite(const std::vector<double>& values, const std::vector<Equation>& of) {
    return std::ranges::all_of(of, [&](const Equation& e) { return std::isfinite(values[e.value]); });
}

}

Closing::Closing(const Model& model)
    : model_(model),
      sizes_(static_cast<Eigen::Index>(model.sizes.size())),
      unknowns_(static_cast<Eigen::Index>(model.unknowns.size())),
      measure_(unknowns_),
      inputs_(model.inputs()),
      values_(model.tape.size()),
      work_(model.tape.size()),
      by_input_(model.inputs()),
      residuals_(unknowns_),
      jacobian_(unknowns_, unknowns_),
      by_sizes_(unknowns_, sizes_) {
    double longest = 0;
    for (const auto& size : model.sizes)
        longest = std::max(longest, std::abs(size.nominal));
    for (Eigen::Index i = 0; i < unknowns_; ++i) {
        const auto& unknown = model.unknowns[static_cast<std::size_t>(i)];
        measure_[i] = unknown.is_angle ? 1 : std::max({longest, std::abs(unknown.guess), 1e-12});
    }
}

bool Closing::evaluate(const Eigen::VectorXd& sizes, const Eigen::VectorXd& unknowns) {
    std::copy_n(sizes.data(), sizes_, inputs_.data());
    std::copy_n(unknowns.data(), unknowns_, inputs_.data() + sizes_);
    model_.tape.evaluate(inputs_, values_);
    return all_finite(values_, model_.equations);
}

bool Closing::equations() {
    for (Eigen::Index e = 0; e < unknowns_; ++e) {
        const auto value = model_.equations[static_cast<std::size_t>(e)].value;
        residuals_[e] = values_[value];
        model_.tape.gradient(values_, value, by_input_, work_);
        for (Eigen::Index i = 0; i < sizes_; ++i)
            by_sizes_(e, i) = by_input_[static_cast<std::size_t>(i)];
        for (Eigen::Index i = 0; i < unknowns_; ++i)
            jacobian_(e, i) = by_input_[static_cast<std::size_t>(sizes_ + i)];
    }
    return residuals_.allFinite() && jacobian_.allFinite();
}

double Closing::step_length(const Eigen::VectorXd& step, const Eigen::VectorXd& unknowns) const {
    return unknowns_ == 0 ? 0 : (step.array().abs() / (unknowns.array().abs() + measure_.array())).maxCoeff();
}

/// Plain Newton steps, which must shrink.
bool Closing::polish(const Eigen::VectorXd& sizes, Eigen::VectorXd& unknowns, int most_steps) {
    if (unknowns_ == 0) return evaluate(sizes, unknowns);
    double before = std::numeric_limits<double>::infinity();
    for (int i = 0; i < most_steps; ++i) {
        if (!evaluate(sizes, unknowns) || !equations()) return false;
        const Eigen::VectorXd step = jacobian_.partialPivLu().solve(residuals_);
        const double length = step_length(step, unknowns);
        if (!std::isfinite(length) || length > before / 2) return false;
        unknowns -= step;
        if (length < converged) return true;
        before = length;
    }
    return false;
}

std::optional<Closed> Closing::finished(const Eigen::VectorXd& sizes, const Eigen::VectorXd& unknowns) {
    if (!evaluate(sizes, unknowns) || !equations() || !by_sizes_.allFinite()) return std::nullopt;
    Closed closed{.sizes = sizes, .unknowns = unknowns, .by_size = {}, .values = values_};
    closed.by_size = Eigen::MatrixXd::Zero(unknowns_, sizes_);
    if (unknowns_ == 0) return closed;
    const Eigen::PartialPivLU<Eigen::MatrixXd> lu(jacobian_);
    closed.by_size = -lu.solve(by_sizes_);
    // Its sign alone: a product of many slopes could be too small or too large for a number.
    int sign = lu.permutationP().determinant() < 0 ? -1 : 1;
    for (Eigen::Index i = 0; i < unknowns_; ++i)
        sign *= lu.matrixLU()(i, i) < 0 ? -1 : 1;
    closed.side = sign;
    return closed;
}

Failure Closing::misses() const {
    Eigen::Index worst = 0;
    residuals_.cwiseAbs().maxCoeff(&worst);
    return {.what = "the loops",
            .why = fmt::format("nothing closes near the guesses; {} still misses by {}",
                               model_.equations[static_cast<std::size_t>(worst)].from,
                               plain(residuals_[worst], 6)),
            .remedy = "Check the sizes, or give guesses nearer to what is meant"};
}

std::optional<Failure> Closing::outside(const Eigen::VectorXd& unknowns) const {
    for (Eigen::Index i = 0; i < unknowns_; ++i) {
        const auto& unknown = model_.unknowns[static_cast<std::size_t>(i)];
        const bool below = unknowns[i] < unknown.min;
        if (!below && unknowns[i] <= unknown.max) continue;
        return Failure{.what = fmt::format("unknown \"{}\"", unknown.name),
                       .why = fmt::format("it comes out at {}, {} is {}", plain(unknowns[i], 6),
                                          below ? "its min" : "its max",
                                          plain(below ? unknown.min : unknown.max, 6)),
                       .remedy = "Give a guess on the branch that is meant"};
    }
    return std::nullopt;
}

/// The largest share of the Newton step that leads nearer, seen through the same slopes; 0 where none does.
double Closing::share_of_step(const Eigen::FullPivLU<Eigen::MatrixXd>& slopes, const Eigen::VectorXd& sizes,
                              const Eigen::VectorXd& unknowns, const Eigen::VectorXd& step) {
    const double length = step_length(step, unknowns);
    double share = 1;
    for (int halving = 0; halving <= most_halvings; ++halving, share /= 2) {
        if (!evaluate(sizes, unknowns - share * step)) continue;
        Eigen::VectorXd left(unknowns_);
        for (Eigen::Index e = 0; e < unknowns_; ++e)
            left[e] = values_[model_.equations[static_cast<std::size_t>(e)].value];
        if (step_length(slopes.solve(left), unknowns) <= (1 - share / 4) * length) return share;
        if (length < converged) return share; // what is left is rounding
    }
    return 0;
}

std::optional<Failure> Closing::newton(const Eigen::VectorXd& sizes, Eigen::VectorXd& unknowns) {
    constexpr int most_steps = 200;
    for (int i = 0; i < most_steps; ++i) {
        if (!evaluate(sizes, unknowns) || !equations()) return no_value;
        if (residuals_.isZero(0)) return std::nullopt;
        const Eigen::FullPivLU<Eigen::MatrixXd> slopes(jacobian_);
        if (!slopes.isInvertible() && singular_ratio(jacobian_) <= least_ratio) {
            // In a guess that happens to be singular a small push helps; where it closes nothing does.
            if (i > 0) return residuals_.norm() > 1e-6 * measure_.norm() ? misses() : not_held;
            for (Eigen::Index u = 0; u < unknowns_; ++u)
                unknowns[u] += 1e-3 * measure_[u] * (u % 2 ? -1 : 1);
            continue;
        }
        const Eigen::VectorXd step = slopes.solve(residuals_);
        const double share = share_of_step(slopes, sizes, unknowns, step),
                     length = step_length(step, unknowns);
        if (share == 0) break;
        unknowns -= share * step;
        if (share == 1 && length < converged) return std::nullopt;
    }
    return misses();
}

Result<Closed> Closing::from_guess(const Eigen::VectorXd& sizes) {
    Eigen::VectorXd x(unknowns_);
    for (Eigen::Index i = 0; i < unknowns_; ++i)
        x[i] = model_.unknowns[static_cast<std::size_t>(i)].guess;
    if (unknowns_ > 0)
        if (auto failure = newton(sizes, x)) return fail(*failure);
    auto closed = finished(sizes, x);
    if (jacobian_.allFinite() && !(singular_ratio(jacobian_) > least_ratio)) return fail(not_held);
    if (!closed) return fail(no_value);
    if (auto failure = outside(x)) return fail(*failure);
    return *closed;
}

std::optional<Closed> Closing::follow(const Closed& from, const Eigen::VectorXd& sizes) {
    constexpr double least_step = 1.0 / 4096;
    Closed at = from;
    const Eigen::VectorXd start = from.sizes;
    double done = 0, step = 1;
    while (done < 1) {
        step = std::min(step, 1 - done);
        const Eigen::VectorXd next =
            done + step >= 1 ? sizes : Eigen::VectorXd(start + (done + step) * (sizes - start));
        const Eigen::VectorXd change = at.by_size * (next - at.sizes);
        Eigen::VectorXd x = at.unknowns + change;
        const Eigen::VectorXd foreseen = x;
        std::optional<Closed> there;
        if (polish(next, x, 8)) there = finished(next, x);
        // Away from a fold what the slopes miss is a part of the change only.
        const bool same_branch = there && there->side == at.side &&
                                 step_length(x - foreseen, x) <= 0.5 * step_length(change, x) + 1e-3;
        if (same_branch) {
            at = std::move(*there);
            done += step;
            step *= 2;
        } else if ((step /= 2) < least_step)
            return std::nullopt;
    }
    if (outside(at.unknowns)) return std::nullopt;
    return at;
}

bool Closing::close(const Closed& from, std::span<const double> sizes, std::span<double> inputs) {
    const Eigen::VectorXd there = Eigen::Map<const Eigen::VectorXd>(sizes.data(), sizes_);
    std::copy(sizes.begin(), sizes.end(), inputs.begin());
    if (unknowns_ == 0) return true;
    const Eigen::VectorXd change = from.by_size * (there - from.sizes);
    Eigen::VectorXd x = from.unknowns + change;
    const Eigen::VectorXd foreseen = x;
    bool closed = polish(there, x, 6) && step_length(x - foreseen, x) <= 0.1 * step_length(change, x) + 1e-6;
    if (closed)
        closed = !outside(x);
    else if (const auto followed = follow(from, there)) {
        x = followed->unknowns;
        closed = true;
    }
    std::copy_n(x.data(), unknowns_, inputs.data() + sizes_);
    return closed;
}

Eigen::VectorXd Closing::slopes(const Closed& at, Tape::At of) {
    model_.tape.gradient(at.values, of, by_input_, work_);
    const Eigen::Map<const Eigen::VectorXd> direct(by_input_.data(), sizes_),
        by_way(by_input_.data() + sizes_, unknowns_);
    return direct + at.by_size.transpose() * by_way;
}

}
