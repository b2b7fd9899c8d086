#pragma once
#include "fit/size_tolerance.hpp"
#include "shape/hole.hpp"
#include <optional>
#include <string>
#include <variant>

namespace kollema {

/// A plane face; the feature's frame has its origin in the middle of the face and z outward.
struct PlaneFace {
    double stands_back_mm = 0; ///< on purpose, from what faces it: so far the two stay open, drawn together
    bool operator==(const PlaneFace&) const = default;
};

/// A plane midway between two faces: what is placed from it stays centred.  z is its normal.
struct MidPlane {
    bool operator==(const MidPlane&) const = default;
};

/// What a cylinder ends in.
struct RoundEnd {
    double shoulder_diameter_mm = 0; ///< of the step it meets; 0: it ends free
    double fillet_mm = 0;            ///< at the foot of the shoulder
    double chamfer_mm = 0;           ///< at a free edge
    std::string face = {};           ///< the plane face at that end, by its id
    bool operator==(const RoundEnd&) const = default;
};

/// A cylinder of the body: the outside of a step, or a bore.  The frame's origin is on the axis at its first
/// end, z along it to the last.
struct Round {
    bool inside = false;
    double diameter_mm = 0;
    SizeTolerance tolerance = {}; ///< no zone and no deviations: by the process
    double length_mm = 0;
    RoundEnd first = {}, last = {};
    double wall_diameter_mm = 0;              ///< what surrounds a bore, or the bore within a shaft; 0: none
    std::string size_key = {}, zone_key = {}; ///< the body's sizes that decide it
    bool operator==(const Round&) const = default;
};

/// A groove round a shaft or in a bore; the frame's origin is on the axis at its first wall, z along the
/// axis.
struct Groove {
    bool inside = false;
    double diameter_mm = 0; ///< of its floor
    SizeTolerance tolerance = {};
    double width_mm = 0;
    SizeTolerance width_tolerance = {};
    double from_diameter_mm = 0; ///< of the cylinder that it is cut into
    bool operator==(const Groove&) const = default;
};

/// A keyway in a shaft or through a hub; the frame's origin is on the axis at its first end, z along the
/// axis, x to its middle.
struct Keyway {
    bool inside = false;
    double width_mm = 0;
    SizeTolerance tolerance = {};
    double depth_mm = 0, length_mm = 0; ///< depth from the cylinder's surface
    double diameter_mm = 0;             ///< of that cylinder
    bool round_ends = false;
    bool operator==(const Keyway&) const = default;
};

/// A straight slot with round ends in a face; the frame's origin is its middle, x along it, z into the
/// material.
struct Slot {
    double length_mm = 0, width_mm = 0; ///< length between the ends' centres
    SizeTolerance tolerance = {};       ///< of the width
    double depth_mm = 0;
    bool operator==(const Slot&) const = default;
};

/// A flat on a cylinder; the frame's origin is on the axis at its first end, z along the axis, x square to
/// the flat.
struct Flat {
    double height_mm = 0; ///< from the axis
    double length_mm = 0, diameter_mm = 0;
    bool operator==(const Flat&) const = default;
};

/// A cone at the end of a shaft or in the mouth of a bore; the frame's origin is on the axis at the end of
/// the shaft or at the mouth, z along the axis into the part.  A shaft is narrowest at its end, a bore widest
/// at its mouth.
struct Cone {
    bool inside = false;
    double end_diameter_mm = 0, diameter_mm = 0; ///< at its end, and of the cylinder that it runs into
    double length_mm = 0;
    bool operator==(const Cone&) const = default;
};

/// An external thread: data, drawn by its convention; what it cuts is its run-out groove, where it has one.
/// The frame's origin is on the axis where the thread begins, z along it.
struct ExternalThread {
    std::string name; ///< "M12"
    std::string tolerance_class = "6g";
    double length_mm = 0;
    double undercut_mm = 0; ///< width of the groove at its end; 0: it runs out
    bool operator==(const ExternalThread&) const = default;
};

/// What a feature is; the first two are places, a round belongs to the body, the rest is cut into it.
using Shape =
    std::variant<PlaneFace, MidPlane, Round, Hole, Groove, Keyway, Slot, Flat, Cone, ExternalThread>;

/// What a feature takes away; `through_mm` is how far a hole without a depth reaches.
shape::Recipe steps_of(const Shape& shape, const Frame& frame, double through_mm, const std::string& name);

}
