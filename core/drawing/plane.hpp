#pragma once
#include "drawing/section.hpp"

namespace kollema::drawing {

/// The plane of a section in the assembly: origin on a fastener's axis at its head side, x along the section,
/// z down along the fastener.
struct Plane {
    Frame frame;

    Point project(const Vector3& point) const {
        const Vector3 local = frame.local(point);
        return {local.x(), -local.z()};
    }
    /// The same plane as the viewer sees it: x to the right, y upward, z towards the viewer.
    Frame seen() const { return {frame.origin, frame.x, frame.y()}; }
    /// True when an axis along z through this point lies in the plane.
    bool contains(const Vector3& point) const { return std::abs(frame.local(point).y()) < 1e-6; }
};

/// The pieces of a design at one place, their drawing lines included; `entry` is its axis at the head-side
/// face.
/// `across`: of the joint's x along the picture's.
void draw_hardware(const JointId& joint, const kind::Design& design, Point entry, double across,
                   Section& section);

/// The lines of the thread of a hole whose axis lies in the plane, by drawing convention.
void draw_thread(const Hole& hole, Point entry, double thickness, bool upside_down, Section& section);

/// A lens for every contact that locates: the limits of hole and fastener there.
void draw_lenses(const Project& project, const Joint& joint, const kind::Design& design, Section& section);

}
