#include "formula/closing.hpp"
#include "quantity/format.hpp"
#include <Eigen/LU>
#include <Eigen/SVD>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::formula {
namespace {

constexpr double converged = 1e-9;   ///< of a step; the next one squares it
constexpr double least_ratio = 1e-6; ///< of singular values, below which a loop does not hold its unknowns
constexpr int most_halvings = 12;

/// Smallest over greatest singular value, rows scaled to length 1, then columns.
double singular_ratio(Eigen::MatrixXd j) {
    if (j.rows() == 0) return 1;
    for (auto row : j.rowwise())
        if (const double n = row.norm(); n > 0) row /= n;
    for (auto column : j.colwise())
        if (const double n = column.norm(); n > 0) column /= n;
    const Eigen::VectorXd values = Eigen::JacobiSVD<Eigen::MatrixXd>(j).singularValues();
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

bool Closing::within(const Eigen::VectorXd& unknowns) const {
    for (Eigen::Index i = 0; i < unknowns_; ++i) {
        const auto& unknown = model_.unknowns[static_cast<std::size_t>(i)];
        if (unknowns[i] < unknown.min || unknowns[i] > unknown.max) return false;
    }
    return true;
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

Result<Closed> Closing::from_guess(const Eigen::VectorXd& sizes) {
    Eigen::VectorXd x(unknowns_);
    for (Eigen::Index i = 0; i < unknowns_; ++i)
        x[i] = model_.unknowns[static_cast<std::size_t>(i)].guess;
    const auto not_finite = [] {
        return fail({.what = "the formula",
                     .why = "it has no finite value or slope there",
                     .remedy = "Check for divisions by nothing and roots of what is below zero"});
    };
    const auto singular = [&] {
        return fail({.what = "the loops",
                     .why = "they are singular where they close: some unknowns are not held there",
                     .remedy = "Look for vectors in one line, or two that turn together"});
    };
    constexpr int most_steps = 200;
    bool closes = unknowns_ == 0;
    for (int i = 0; i < most_steps && !closes; ++i) {
        if (!evaluate(sizes, x) || !equations()) return not_finite();
        if (residuals_.isZero(0)) break;
        const Eigen::FullPivLU<Eigen::MatrixXd> lu(jacobian_);
        if (!lu.isInvertible() && singular_ratio(jacobian_) <= least_ratio) {
            // In a guess that happens to be singular a small push helps; where it closes nothing does.
            if (i > 0)
                return residuals_.norm() > 1e-6 * measure_.norm() ? Result<Closed>(fail(misses()))
                                                                  : singular();
            for (Eigen::Index u = 0; u < unknowns_; ++u)
                x[u] += 1e-3 * measure_[u] * (u % 2 ? -1 : 1);
            continue;
        }
        const Eigen::VectorXd step = lu.solve(residuals_);
        const double length = step_length(step, x);
        const Eigen::VectorXd here = residuals_;
        double share = 1;
        bool shorter = false;
        for (int halving = 0; halving <= most_halvings && !shorter; ++halving, share /= 2) {
            if (!evaluate(sizes, x - share * step)) continue;
            for (Eigen::Index e = 0; e < unknowns_; ++e)
                residuals_[e] = values_[model_.equations[static_cast<std::size_t>(e)].value];
            const double next = step_length(lu.solve(residuals_), x);
            shorter = next <= (1 - share / 4) * length || (share == 1 && length < converged);
            if (shorter) break;
        }
        if (!shorter) {
            residuals_ = here;
            return fail(misses());
        }
        x -= share * step;
        closes = share == 1 && length < converged;
    }
    if (!closes && unknowns_ > 0 && !residuals_.isZero(0)) return fail(misses());
    auto closed = finished(sizes, x);
    if (unknowns_ > 0 && (closed || residuals_.allFinite())) {
        const double ratio = singular_ratio(jacobian_);
        if (!(ratio > least_ratio)) return singular();
        if (closed) closed->singular_ratio = ratio;
    }
    if (!closed) return not_finite();
    for (Eigen::Index i = 0; i < unknowns_; ++i) {
        const auto& unknown = model_.unknowns[static_cast<std::size_t>(i)];
        if (x[i] >= unknown.min && x[i] <= unknown.max) continue;
        return fail({.what = fmt::format("unknown \"{}\"", unknown.name),
                     .why = fmt::format("it comes out at {}, {} is {}", plain(x[i], 6),
                                        x[i] < unknown.min ? "its min" : "its max",
                                        plain(x[i] < unknown.min ? unknown.min : unknown.max, 6)),
                     .remedy = "Give a guess on the branch that is meant"});
    }
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
    if (!within(at.unknowns)) return std::nullopt;
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
        closed = within(x);
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
