#pragma once
#include "shape/frame.hpp"
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>

/// Internal to the folder: our vectors and frames as the kernel's.
namespace kollema::geometry {

inline gp_Pnt point(const Vector3& v) { return {v.x(), v.y(), v.z()}; }
inline gp_Vec vec(const Vector3& v) { return {v.x(), v.y(), v.z()}; }
inline gp_Dir direction(const Vector3& v) { return {v.x(), v.y(), v.z()}; }
inline Vector3 vector(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }
inline gp_Ax3 axes(const Frame& f) { return {point(f.origin), direction(f.z), direction(f.x)}; }
/// From the frame's own coordinates to its surroundings.
inline gp_Trsf transformation(const Frame& f) {
    gp_Trsf t;
    t.SetTransformation(axes(f), gp_Ax3());
    return t;
}

}
