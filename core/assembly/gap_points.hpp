#pragma once
#include "assembly/placement.hpp"

namespace kollema::assembly {

/// Where a gap is measured: a direction and the points on the `from` face, in the assembly.
struct GapPlace {
    Vector3 along = Vector3::UnitX(); ///< from `from` to `to`; positive where there is a gap
    double nominal_mm = 0;
    std::vector<Vector3> at;
    std::string remark; ///< empty, or what a reader should know
};

/// Whether two unit vectors point along one line, either way round.
inline bool along_one_line(const Vector3& a, const Vector3& b) { return std::abs(a.dot(b)) > 1 - 1e-9; }

/// At the point that the requirement states, else at the ends of what the two faces have in common.  Faces
/// that look away from each other give their distance.  Errors: an end that is joined to nothing, faces that
/// are not parallel.
Result<GapPlace> gap_place(const Project& project, const Placement& placement,
                           const Requirement& requirement);

}
