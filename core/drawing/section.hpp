#pragma once
#include "assembly/placement.hpp"
#include "model/project.hpp"
#include "quantity/format.hpp"
#include "shape/plane.hpp"
#include <functional>
#include <limits>
#include <string>
#include <vector>

namespace kollema::drawing {

/// A face that the plane cuts out of a part: the first polygon is its outside, the others holes in it.
using CutFace = std::vector<Polygon>;

/// What a plane makes of a part.
struct Cut {
    std::vector<CutFace> faces;
    std::vector<Line> behind; ///< edges that stand behind the plane and are seen
};

/// The piece of a plane that is shown, along its x; what lies beside it need not be cut.
struct Strip {
    double left = -std::numeric_limits<double>::infinity(), right = std::numeric_limits<double>::infinity();
};

/// Cuts a part, placed in the assembly, by the plane x, y of a frame whose z looks at the viewer; answers in
/// that frame's x and y.  The core has no solids: geometry/ cuts them.
using Cutter =
    std::function<Cut(const Part& part, const Frame& placed, const Frame& plane, const Strip& strip)>;

/// A part cut by the plane, hatched.
struct CutPart {
    PartId part;
    std::string name;
    Box bounds;
    Cut cut;
    int hatch = 0; ///< different for parts that touch
};

/// A piece of hardware; by drafting convention it is shown whole, not cut.
struct Piece {
    JointId joint;
    std::vector<Polygon> outlines; ///< filled, drawn in this order
};

enum class Side { left, right };

/// A figure at the place where it belongs.  `figure` names what a click changes.
struct Callout {
    std::string text;
    std::string figure;
    Point at;
    Side side = Side::right;
};

/// Radial distances from the nominal surface between which a surface can lie, in µm; positive is outward.
struct Band {
    double lower_um = 0, upper_um = 0;
};

/// A pair of surfaces too close to be told apart at the section's scale, to be shown enlarged.
struct Lens {
    std::string title; ///< "slip in Bearing block"
    Point at;          ///< middle of the lens
    Point of;          ///< the place it enlarges
    Band shaft, hole;
    int hatch = 0; ///< of the part with the hole
};

/// A joint's section, true to scale.
struct Section {
    std::string title;
    Box window; ///< the part of the plane worth showing
    std::vector<CutPart> parts;
    std::vector<Piece> pieces;
    std::vector<Line> lines;
    std::vector<Callout> callouts;
    std::vector<Lens> lenses;
};

/// Section through the fasteners' axes at the joint's first place and the place farthest from it, with
/// everything that the plane meets there: the neighbouring joints' hardware too. Errors: as
/// joint::members_of; members that are joined to nothing.  Where `keep_going` answers false it is not whole.
Result<Section> section_of(const Project& project, const assembly::Placement& placement, const Joint& joint,
                           const Cutter& cutter, const std::function<bool()>& keep_going = nullptr);

/// The figures of the joint's own first place, for a section of it; lengths in the unit shown.
std::vector<Callout> callouts_of(const Project& project, const Joint& joint, const kind::Design& design,
                                 const Section& section, LengthUnit unit);

}
