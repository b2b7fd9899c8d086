#include "shape/revolved.hpp"
#include "algebra/dense.hpp"
#include <array>
#include <cmath>

namespace kollema::shape {
namespace {

/// a·t² + 2·b·t + c = 0
void add_roots(double a, double b, double c, std::vector<double>& at) {
    if (std::abs(a) < 1e-14) {
        if (std::abs(b) > 1e-14) at.push_back(-c / (2 * b));
        return;
    }
    const double square = b * b - a * c;
    if (square < 0) return;
    const double root = std::sqrt(square), q = b < 0 ? -b + root : -b - root; // no cancellation
    at.push_back(q / a);
    if (q != 0) at.push_back(c / q);
}

/// The cone, cylinder or plane of a straight edge.
void add_straight(const Vector2& p, const Vector2& q, const Vector3& from, const Vector3& along,
                  std::vector<double>& at) {
    const double height = q.y() - p.y();
    if (std::abs(height) < 1e-12) {
        if (std::abs(along.z()) > 1e-12) at.push_back((p.y() - from.z()) / along.z());
        return;
    }
    // x² + y² = (r + k·(z − z₀))²
    const double k = (q.x() - p.x()) / height, r = p.x() + k * (from.z() - p.y()), rate = k * along.z();
    add_roots(along.x() * along.x() + along.y() * along.y() - rate * rate,
              from.x() * along.x() + from.y() * along.y() - r * rate,
              from.x() * from.x() + from.y() * from.y() - r * r, at);
}

/// The torus of an arc, or the sphere where its centre stands on the axis.
void add_round(const Arc& a, const Vector3& from, const Vector3& along, std::vector<double>& at) {
    const double big = a.centre.x();
    const Vector3 centre(0, 0, a.centre.y());
    // Counted from the line's point nearest to the centre, so that the coefficients stay small.
    const double shift = (centre - from).dot(along);
    const Vector3 p = from + shift * along - centre;
    const double k = p.squaredNorm() + big * big - a.radius_mm * a.radius_mm;
    if (big < 1e-12) {
        if (const double square = -k; square >= 0)
            for (const double side : {-1.0, 1.0})
                at.push_back(shift + side * std::sqrt(square));
        return;
    }
    // (t² + k)² = 4·R²·(x² + y²) on the line: t⁴ + 2k·t² + k² − 4R²·(A·t² + 2B·t + C) = 0
    const double A = along.x() * along.x() + along.y() * along.y(), B = p.x() * along.x() + p.y() * along.y(),
                 C = p.x() * p.x() + p.y() * p.y(), four = 4 * big * big;
    const double scale = big + a.radius_mm; // t in units of the torus' size
    const std::array<double, 4> c{(k * k - four * C) / std::pow(scale, 4), -2 * four * B / std::pow(scale, 3),
                                  (2 * k - four * A) / (scale * scale), 0};
    Eigen::MatrixXd companion = Eigen::MatrixXd::Zero(4, 4);
    for (int i = 0; i < 4; ++i) {
        companion(i, 3) = -c[static_cast<std::size_t>(i)];
        if (i > 0) companion(i, i - 1) = 1;
    }
    for (const auto& root : algebra::eigenvalues(companion)) {
        if (std::abs(root.imag()) > 1e-5) continue;
        double t = root.real();
        for (int i = 0; i < 3; ++i) { // what the eigenvalues leave of rounding
            const double value = ((t * t + c[2]) * t + c[1]) * t + c[0],
                         slope = (4 * t * t + 2 * c[2]) * t + c[1];
            if (std::abs(slope) > 1e-9) t -= value / slope;
        }
        at.push_back(shift + scale * t);
    }
}

}

void add_crossings_of_revolved(const Outline& half, const Vector3& from, const Vector3& along,
                               std::vector<double>& at) {
    for (std::size_t i = 0; i < half.size(); ++i) {
        const Vector2& to = half[(i + 1) % half.size()].at;
        if (half[i].bulge != 0)
            add_round(arc(half[i], to), from, along, at);
        else
            add_straight(half[i].at, to, from, along, at);
    }
}

}
