#include "pattern/fitting.hpp"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace kollema::pattern {
namespace {

using Eigen::MatrixXd, Eigen::VectorXd, Eigen::Vector2d;

/// Least greatest ½(|fᵢ − place of plate p's hole i|² − c²) over the fasteners' axes fᵢ and the places of all
/// plates but the first; misses are linear in shift and turn about the present angles.
class Several {
public:
    explicit Several(const Made& made)
        : made_(made),
          n_(made.holes),
          plates_(made.plates),
          angles_(plates_, 0.0),
          shifts_(plates_, Point::Zero()),
          middles_(plates_, Point::Zero()),
          base_(n_ * plates_),
          lever_(n_ * plates_),
          axes_(n_, Point::Zero()) {
        for (std::size_t p = 0; p < plates_; ++p) {
            for (std::size_t i = 0; i < n_; ++i)
                middles_[p] += made.centre(p, i) / static_cast<double>(n_);
            for (std::size_t i = 0; i < n_; ++i)
                radius_ = std::max(radius_, (made.centre(p, i) - middles_[p]).norm());
            shifts_[p] = middles_[0];
        }
        best_fit();
    }

    bool fits(std::span<double> blame) {
        if (works()) return true;
        for (int again = 0; again < 3; ++again) {
            straighten();
            double turned = 0;
            if (interior_point(turned)) return true;
            if (turned * turned < rounding) break;
        }
        for (std::size_t k = 0; k < weight_.size(); ++k)
            blame[k % n_] += weight_[k];
        return false;
    }

private:
    std::size_t at(std::size_t plate, std::size_t hole) const { return plate * n_ + hole; }

    Point placed(std::size_t p, std::size_t i) const {
        return shifts_[p] + Eigen::Rotation2Dd(angles_[p]) * (made_.centre(p, i) - middles_[p]);
    }

    /// Every plate on the first by least squares, the axes in the middle of their holes.
    void best_fit() {
        for (std::size_t p = 1; p < plates_; ++p) {
            double along = 0, across = 0;
            for (std::size_t i = 0; i < n_; ++i) {
                const Point from = made_.centre(0, i) - middles_[0], b = made_.centre(p, i) - middles_[p];
                along += b.dot(from);
                across += b.x() * from.y() - b.y() * from.x();
            }
            angles_[p] = std::atan2(across, along);
        }
        for (std::size_t i = 0; i < n_; ++i) {
            axes_[i] = Point::Zero();
            for (std::size_t p = 0; p < plates_; ++p)
                axes_[i] += placed(p, i) / static_cast<double>(plates_);
        }
    }

    bool works() const {
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                const double c = made_.clearance(p, i) + rounding * radius_;
                if ((placed(p, i) - axes_[i]).squaredNorm() > c * c) return false;
            }
        return true;
    }

    void straighten() {
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                const Point here = placed(p, i), arm = here - shifts_[p];
                base_[at(p, i)] = here;
                lever_[at(p, i)] = Point(-arm.y(), arm.x()) / radius_;
            }
    }

    Eigen::Index moves() const { return 3 * (static_cast<Eigen::Index>(plates_) - 1); }

    /// Misses with plate moves `m` (three a plate after the first) and axes `f`.
    Point miss(std::size_t p, std::size_t i, const VectorXd& m, const std::vector<Point>& f) const {
        Point v = f[i] - base_[at(p, i)];
        if (p > 0) {
            const auto k = 3 * (static_cast<Eigen::Index>(p) - 1);
            v -= m.segment<2>(k) + m[k + 2] * lever_[at(p, i)];
        }
        return v;
    }
    double beyond(std::size_t p, std::size_t i, const Point& v) const {
        const double c = made_.clearance(p, i);
        return (v.squaredNorm() - c * c) / 2;
    }

    void take(const VectorXd& m, const std::vector<Point>& f, double& turned) {
        turned = 0;
        for (std::size_t p = 1; p < plates_; ++p) {
            const auto k = 3 * (static_cast<Eigen::Index>(p) - 1);
            shifts_[p] += m.segment<2>(k);
            angles_[p] += m[k + 2] / radius_;
            turned = std::max(turned, std::abs(m[k + 2]) / radius_);
        }
        axes_ = f;
    }

    /// The derivative of a miss by the moves of its plate: 2 × 3.
    Eigen::Matrix<double, 2, 3> by_move(std::size_t p, std::size_t i) const {
        Eigen::Matrix<double, 2, 3> d;
        d << -1, 0, -lever_[at(p, i)].x(), 0, -1, -lever_[at(p, i)].y();
        return d;
    }

    /// Blocks of a symmetric system in which each axis meets only the moves and the bound: the axes are taken
    /// out, the rest (`core`) is small.
    struct System {
        MatrixXd core;
        VectorXd right;
        std::vector<Eigen::Matrix2d> own;
        std::vector<MatrixXd> with_core, of_core; ///< upper and lower coupling, 2 × core and core × 2
        std::vector<Vector2d> own_right;
        System(Eigen::Index size, std::size_t n)
            : core(MatrixXd::Zero(size, size)),
              right(VectorXd::Zero(size)),
              own(n, Eigen::Matrix2d::Zero()),
              with_core(n, MatrixXd::Zero(2, size)),
              of_core(n, MatrixXd::Zero(size, 2)),
              own_right(n, Vector2d::Zero()) {}
        VectorXd solve(std::vector<Point>& axes) {
            std::vector<Eigen::Matrix2d> inverse(own.size());
            for (std::size_t i = 0; i < own.size(); ++i) {
                inverse[i] = own[i].inverse();
                core -= of_core[i] * inverse[i] * with_core[i];
                right -= of_core[i] * inverse[i] * own_right[i];
            }
            VectorXd x = core.partialPivLu().solve(right);
            axes.resize(own.size());
            for (std::size_t i = 0; i < own.size(); ++i)
                axes[i] = inverse[i] * (own_right[i] - with_core[i] * x);
            return x;
        }
    };

    /// The least of the weighted misses over all places and axes; above 0 nothing goes together.
    bool weights_prove() const {
        System s(moves(), n_);
        double constant = 0;
        const VectorXd m = VectorXd::Zero(moves());
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                const double w = weight_[at(p, i)];
                const Point v = miss(p, i, m, axes_);
                constant += w * beyond(p, i, v);
                s.own[i] += w * Eigen::Matrix2d::Identity();
                s.own_right[i] -= w * v;
                if (p == 0) continue;
                const auto k = 3 * (static_cast<Eigen::Index>(p) - 1);
                const auto d = by_move(p, i);
                s.core.block<3, 3>(k, k) += w * d.transpose() * d;
                s.right.segment<3>(k) -= w * d.transpose() * v;
                s.with_core[i].middleCols<3>(k) += w * d;
                s.of_core[i].middleRows<3>(k) += w * d.transpose();
            }
        std::vector<Point> axes;
        const VectorXd right = s.right;
        const auto own_right = s.own_right;
        const VectorXd x = s.solve(axes);
        double least = constant - right.dot(x) / 2;
        for (std::size_t i = 0; i < n_; ++i)
            least -= own_right[i].dot(axes[i]) / 2;
        return std::isfinite(least) && least > 0;
    }

    bool interior_point(double& turned) {
        const std::size_t count = n_ * plates_;
        const auto each = static_cast<double>(count);
        VectorXd m = VectorXd::Zero(moves());
        std::vector<Point> f = axes_;
        const auto place = std::pair(shifts_, angles_);
        double top = 0, scale = 0;
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                top = std::max(top, beyond(p, i, miss(p, i, m, f)));
                scale = std::max(scale, made_.clearance(p, i) * made_.clearance(p, i));
            }
        scale = std::max(scale, top);
        double t = top + 0.1 * scale;
        std::vector<double> slack(count), weight(count, 1 / each);
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i)
                slack[at(p, i)] = t - beyond(p, i, miss(p, i, m, f));
        constexpr int most_steps = 80;
        for (int step = 0; step < most_steps; ++step) {
            double gap = 0, sum = 0;
            for (std::size_t k = 0; k < count; ++k)
                gap += slack[k] * weight[k];
            advance(m, f, t, slack, weight, 0.1 * gap / each);
            const auto axes_before = axes_;
            take(m, f, turned);
            if (works()) return true;
            std::tie(shifts_, angles_) = place;
            axes_ = axes_before;
            for (const double w : weight)
                sum += w;
            weight_ = weight;
            for (auto& w : weight_)
                w /= sum;
            if (weights_prove() || gap < 1e-15 * scale) break;
        }
        take(m, f, turned); // where the next look starts
        return false;
    }

    void advance(VectorXd& m, std::vector<Point>& f, double& t, std::vector<double>& slack,
                 std::vector<double>& weight, double mu) const {
        const Eigen::Index size = moves() + 1, bound = moves();
        System s(size, n_);
        const std::size_t count = n_ * plates_;
        std::vector<double> ratio(count), extra(count), off(count);
        double sum = 0;
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                const std::size_t c = at(p, i);
                const Point v = miss(p, i, m, f);
                ratio[c] = weight[c] / slack[c];
                off[c] = beyond(p, i, v) - t + slack[c];
                extra[c] = mu / slack[c] - weight[c] + ratio[c] * off[c];
                const double pull = weight[c] + extra[c];
                sum += pull;
                s.own[i] += weight[c] * Eigen::Matrix2d::Identity() + ratio[c] * v * v.transpose();
                s.own_right[i] -= pull * v;
                s.with_core[i].col(bound) -= ratio[c] * v;
                s.of_core[i].row(bound) += ratio[c] * v.transpose();
                s.core(bound, bound) -= ratio[c];
                if (p == 0) continue;
                const auto k = 3 * (static_cast<Eigen::Index>(p) - 1);
                const auto d = by_move(p, i);
                const Eigen::Vector3d slope = d.transpose() * v;
                s.core.block<3, 3>(k, k) +=
                    weight[c] * d.transpose() * d + ratio[c] * slope * slope.transpose();
                s.core.block<3, 1>(k, bound) -= ratio[c] * slope;
                s.core.block<1, 3>(bound, k) += ratio[c] * slope.transpose();
                s.right.segment<3>(k) -= pull * slope;
                s.with_core[i].middleCols<3>(k) += weight[c] * d + ratio[c] * v * slope.transpose();
                s.of_core[i].middleRows<3>(k) += weight[c] * d.transpose() + ratio[c] * slope * v.transpose();
            }
        s.right[bound] = 1 - sum;
        std::vector<Point> axes;
        const VectorXd x = s.solve(axes);
        std::vector<double> of_slack(count), of_weight(count);
        double share = 1;
        for (std::size_t p = 0; p < plates_; ++p)
            for (std::size_t i = 0; i < n_; ++i) {
                const std::size_t c = at(p, i);
                const Point v = miss(p, i, m, f);
                double change = v.dot(axes[i]) - x[bound];
                if (p > 0)
                    change += v.dot(by_move(p, i) * x.segment<3>(3 * (static_cast<Eigen::Index>(p) - 1)));
                of_slack[c] = -off[c] - change;
                of_weight[c] = extra[c] + ratio[c] * change;
                if (of_slack[c] < 0) share = std::min(share, -0.98 * slack[c] / of_slack[c]);
                if (of_weight[c] < 0) share = std::min(share, -0.98 * weight[c] / of_weight[c]);
            }
        m += share * x.head(moves());
        t += share * x[bound];
        for (std::size_t i = 0; i < n_; ++i)
            f[i] += share * axes[i];
        for (std::size_t c = 0; c < count; ++c) {
            slack[c] += share * of_slack[c];
            weight[c] += share * of_weight[c];
        }
    }

    const Made& made_;
    std::size_t n_, plates_;
    std::vector<double> angles_;
    std::vector<Point> shifts_, middles_, base_, lever_, axes_;
    std::vector<double> weight_;
    double radius_ = 1e-12;
};

}

bool fits_several(const Made& made, std::span<double> blame) { return Several(made).fits(blame); }

}
