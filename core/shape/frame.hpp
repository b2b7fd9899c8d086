#pragma once
#include <Eigen/Core>
#include <Eigen/Geometry>

namespace kollema {

using Vector2 = Eigen::Vector2d;
using Vector3 = Eigen::Vector3d;

/// A right-handed frame: origin in mm, unit axes.  y follows from z and x.
struct Frame {
    Vector3 origin = Vector3::Zero();
    Vector3 x = Vector3::UnitX(), z = Vector3::UnitZ();

    Vector3 y() const { return z.cross(x); }
    Vector3 point(const Vector3& local) const { return origin + vector(local); }
    Vector3 vector(const Vector3& local) const { return local.x() * x + local.y() * y() + local.z() * z; }
    /// The coordinates of an outer point in this frame.
    Vector3 local(const Vector3& point) const { return local_vector(point - origin); }
    Vector3 local_vector(const Vector3& v) const { return {v.dot(x), v.dot(y()), v.dot(z)}; }

    bool operator==(const Frame&) const = default;
};

/// A frame given in the coordinates of `outer`, in outer's own surroundings.
inline Frame in(const Frame& outer, const Frame& inner) {
    return {outer.point(inner.origin), outer.vector(inner.x), outer.vector(inner.z)};
}

/// A frame of the surroundings as seen from `outer`: in(outer, frame_within(outer, f)) is f.
inline Frame frame_within(const Frame& outer, const Frame& f) {
    return {outer.local(f.origin), outer.local_vector(f.x), outer.local_vector(f.z)};
}

/// A frame reached by different sums of the same numbers is the same frame.
inline Frame rounded(Frame f) {
    const auto round = [](Vector3& v, double step) { v = (v / step).array().round().matrix() * step; };
    round(f.origin, 1e-7);
    round(f.x, 1e-10);
    round(f.z, 1e-10);
    return f;
}

/// The frame O for which in(O, inner) is `wanted`.
inline Frame outer_frame(const Frame& wanted, const Frame& inner) {
    // With inner's axes as seen from O known, O's axes in the surroundings are found by turning back.
    Eigen::Matrix3d a, b;
    a << wanted.x, wanted.y(), wanted.z;
    b << inner.x, inner.y(), inner.z;
    const Eigen::Matrix3d turn = a * b.transpose();
    return {wanted.origin - turn * inner.origin, turn.col(0), turn.col(2)};
}

}
