#include "pattern/fitting.hpp"
#include <Eigen/Dense>
#include <algorithm>
#include <boost/container/small_vector.hpp>
#include <cmath>

namespace kollema::pattern {
namespace {

using Eigen::Matrix3d, Eigen::Matrix4d, Eigen::Vector3d, Eigen::Vector4d;

/// By hole: there are millions of assemblies, and few have more.
template <class T>
using ByHole = boost::container::small_vector<T, 16>;

Point turned(const Point& p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {c * p.x() - s * p.y(), s * p.x() + c * p.y()};
}

/// Where b may be put: shifted by `shift` after it was turned about the middle of its holes.
class Pair {
public:
    Pair(std::span<const Point> a, std::span<const Point> b, std::span<const double> reach)
        : a_(a),
          reach_(reach),
          count_(static_cast<double>(a.size())),
          b_(b.begin(), b.end()) {
        for (std::size_t i = 0; i < a.size(); ++i) {
            middle_a_ += a[i] / count_;
            middle_b_ += b[i] / count_;
        }
        for (auto& p : b_) {
            p -= middle_b_;
            radius_ = std::max(radius_, p.norm());
        }
    }

    /// Where the place of least squares did not work.
    bool fits(std::span<double> blame) {
        best_fit();
        // About the best fit the turn that is left is small; what its square is worth is seen from there.
        for (int again = 0; again < 3; ++again) {
            straighten();
            if (again == 0 && mean_is_outside()) break;
            const auto verdict = interior_point();
            if (verdict == Verdict::fits) return true;
            const double left = std::abs(turn_);
            angle_ += turn_;
            if (left * left < rounding) break;
        }
        for (std::size_t i = 0; i < a_.size(); ++i)
            blame[i] += weight_[i];
        return false;
    }

private:
    enum class Verdict { fits, outside };

    /// The turn and shift of least squares: in the plane a closed form.
    void best_fit() {
        double along = 0, across = 0;
        for (std::size_t i = 0; i < a_.size(); ++i) {
            const Point from = a_[i] - middle_a_;
            along += b_[i].dot(from);
            across += b_[i].x() * from.y() - b_[i].y() * from.x();
        }
        angle_ = std::atan2(across, along);
        shift_ = middle_a_;
    }

    bool works(const Point& shift, double angle) const {
        const double c = std::cos(angle), s = std::sin(angle);
        for (std::size_t i = 0; i < a_.size(); ++i) {
            const Point at(c * b_[i].x() - s * b_[i].y(), s * b_[i].x() + c * b_[i].y());
            const double reach = reach_[i] + rounding * radius_;
            if ((a_[i] - at - shift).squaredNorm() > reach * reach) return false;
        }
        return true;
    }

    /// The misses as a linear function of shift and turn about the present angle.
    void straighten() {
        miss_.resize(a_.size());
        lever_.resize(a_.size());
        for (std::size_t i = 0; i < a_.size(); ++i) {
            const Point at = turned(b_[i], angle_);
            miss_[i] = a_[i] - middle_a_ - at;
            lever_[i] = Point(-at.y(), at.x()) / radius_;
        }
        weight_.assign(a_.size(), 1 / count_);
    }

    Point miss(std::size_t i, const Vector3d& p) const { return miss_[i] - p.head<2>() - p[2] * lever_[i]; }
    double beyond(std::size_t i, const Vector3d& p) const {
        return (miss(i, p).squaredNorm() - reach_[i] * reach_[i]) / 2;
    }

    bool mean_is_outside() const {
        double sum = 0;
        for (std::size_t i = 0; i < a_.size(); ++i)
            sum += beyond(i, Vector3d::Zero());
        return sum > 0; // the best fit has the least mean
    }

    /// The least of the weighted misses over all places; above 0 no place is within all.
    bool weights_prove(const ByHole<double>& weights) const {
        Matrix3d h = Matrix3d::Zero();
        Vector3d g = Vector3d::Zero();
        double constant = 0;
        for (std::size_t i = 0; i < a_.size(); ++i) {
            Eigen::Matrix<double, 2, 3> m;
            m << 1, 0, lever_[i].x(), 0, 1, lever_[i].y();
            h += weights[i] * m.transpose() * m;
            g += weights[i] * m.transpose() * miss_[i];
            constant += weights[i] * beyond(i, Vector3d::Zero());
        }
        const Eigen::LDLT<Matrix3d> solver(h);
        return solver.info() == Eigen::Success && constant - g.dot(solver.solve(g)) / 2 > 0;
    }

    Verdict interior_point() {
        const std::size_t n = a_.size();
        Vector3d p = Vector3d::Zero();
        double top = 0, scale = 0;
        for (std::size_t i = 0; i < n; ++i) {
            top = std::max(top, beyond(i, p));
            scale = std::max(scale, reach_[i] * reach_[i]);
        }
        scale = std::max(scale, top);
        double t = top + 0.1 * scale;
        ByHole<double> slack(n), weight(n, 1 / count_);
        for (std::size_t i = 0; i < n; ++i)
            slack[i] = t - beyond(i, p);
        constexpr int most_steps = 60;
        for (int step = 0; step < most_steps; ++step) {
            double gap = 0;
            for (std::size_t i = 0; i < n; ++i)
                gap += slack[i] * weight[i];
            const double mu = 0.1 * gap / count_;
            advance(p, t, slack, weight, mu);
            turn_ = p[2] / radius_;
            if (works(middle_a_ + p.head<2>(), angle_ + turn_)) return Verdict::fits;
            double sum = 0;
            for (const double w : weight)
                sum += w;
            for (std::size_t i = 0; i < n; ++i)
                weight_[i] = weight[i] / sum;
            if (weights_prove(weight_)) return Verdict::outside;
            if (gap < 1e-15 * scale) break; // touching within rounding: counted as outside
        }
        return Verdict::outside;
    }

    void advance(Vector3d& p, double& t, ByHole<double>& slack, ByHole<double>& weight, double mu) const {
        const std::size_t n = a_.size();
        Matrix4d system = Matrix4d::Zero();
        Vector4d right = Vector4d::Zero();
        ByHole<Vector3d> slope(n);
        ByHole<double> ratio(n), extra(n), off(n);
        double sum = 0;
        for (std::size_t i = 0; i < n; ++i) {
            Eigen::Matrix<double, 2, 3> m;
            m << 1, 0, lever_[i].x(), 0, 1, lever_[i].y();
            slope[i] = -m.transpose() * miss(i, p);
            ratio[i] = weight[i] / slack[i];
            off[i] = beyond(i, p) - t + slack[i];
            extra[i] = mu / slack[i] - weight[i] + ratio[i] * off[i];
            system.topLeftCorner<3, 3>() +=
                weight[i] * m.transpose() * m + ratio[i] * slope[i] * slope[i].transpose();
            system.topRightCorner<3, 1>() -= ratio[i] * slope[i];
            system.bottomLeftCorner<1, 3>() += ratio[i] * slope[i].transpose();
            system(3, 3) -= ratio[i];
            right.head<3>() -= (weight[i] + extra[i]) * slope[i];
            sum += weight[i] + extra[i];
        }
        right[3] = 1 - sum;
        const Vector4d d = system.partialPivLu().solve(right);
        ByHole<double> of_slack(n), of_weight(n);
        double share = 1;
        for (std::size_t i = 0; i < n; ++i) {
            const double change = slope[i].dot(d.head<3>()) - d[3];
            of_slack[i] = -off[i] - change;
            of_weight[i] = extra[i] + ratio[i] * change;
            if (of_slack[i] < 0) share = std::min(share, -0.98 * slack[i] / of_slack[i]);
            if (of_weight[i] < 0) share = std::min(share, -0.98 * weight[i] / of_weight[i]);
        }
        p += share * d.head<3>();
        t += share * d[3];
        for (std::size_t i = 0; i < n; ++i) {
            slack[i] += share * of_slack[i];
            weight[i] += share * of_weight[i];
        }
    }

    std::span<const Point> a_;
    std::span<const double> reach_;
    double count_;
    ByHole<Point> b_; ///< about their middle
    Point middle_a_ = Point::Zero(), middle_b_ = Point::Zero(), shift_ = Point::Zero();
    double radius_ = 1e-12, angle_ = 0, turn_ = 0;
    ByHole<Point> miss_, lever_;
    ByHole<double> weight_;
};

}

namespace {

/// Whether the place of least squares works: most assemblies are decided by it, so nothing is kept for more.
bool best_fit_works(std::span<const Point> a, std::span<const Point> b, std::span<const double> reach) {
    Point middle_a = Point::Zero(), middle_b = Point::Zero();
    for (std::size_t i = 0; i < a.size(); ++i) {
        middle_a += a[i];
        middle_b += b[i];
    }
    middle_a /= static_cast<double>(a.size());
    middle_b /= static_cast<double>(a.size());
    double along = 0, across = 0, widest = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        const Point from = a[i] - middle_a, to = b[i] - middle_b;
        along += to.dot(from);
        across += to.x() * from.y() - to.y() * from.x();
        widest = std::max(widest, to.squaredNorm());
    }
    const double both = std::sqrt(along * along + across * across);
    if (both == 0) return false;
    const double c = along / both, s = across / both, equal = rounding * std::sqrt(widest);
    for (std::size_t i = 0; i < a.size(); ++i) {
        const Point from = a[i] - middle_a, to = b[i] - middle_b;
        const Point miss(from.x() - (c * to.x() - s * to.y()), from.y() - (s * to.x() + c * to.y()));
        const double most = reach[i] + equal;
        if (miss.squaredNorm() > most * most) return false;
    }
    return true;
}

}

bool fits_pair(std::span<const Point> a, std::span<const Point> b, std::span<const double> reach,
               std::span<double> blame) {
    const auto tight = std::ranges::find_if(reach, [](double r) { return r < 0; });
    if (tight != reach.end()) {
        blame[static_cast<std::size_t>(tight - reach.begin())] += 1;
        return false;
    }
    if (a.size() == 1 || best_fit_works(a, b, reach)) return true;
    return Pair(a, b, reach).fits(blame);
}

}
