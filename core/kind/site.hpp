#pragma once
#include "fit/clearance.hpp"
#include "shape/feature.hpp"
#include "shape/frame.hpp"
#include "standards/materials.hpp"
#include "standards/workshop.hpp"
#include <string>
#include <vector>

namespace kollema::kind {

/// What a joint takes hold of in a member.
enum class Seat { face, bore, shaft, middle };

/// A cylinder that a joint takes hold of, as seen along the joint's axis.
struct AxisSeat {
    double diameter_mm = 0;
    SizeTolerance tolerance = {}; ///< as the part has it; of the process where it says none
    fit::SizeLimits limits = {};
    double length_mm = 0;
    RoundEnd near = {}, far = {}; ///< head side first
    double wall_diameter_mm = 0;  ///< round a bore, or within a shaft; 0: none
    double roughness_um = 3.2;    ///< Rz of the process
    double length_half_mm = 0;    ///< ± of the length, by the process
};

/// A mid-plane that a joint takes hold of: between two faces that are alike on both sides, those that face
/// the other member's, else the nearest.
struct Across {
    double width_mm = 0; ///< 0: there are no such faces
    bool inside = false; ///< the faces look at each other: a gap
    fit::SizeLimits limits = {};
    double reach_x_mm = 0; ///< how far the faces go from the seat's place, at least
    /// Ends of what each of the faces can touch of the other member's, across the axis; none where they do
    /// not face each other.
    std::vector<Vector2> near_corners = {}, far_corners = {};
};

/// A member as a joint meets it, seen along the joint's axis.
struct MemberSite {
    std::string name; ///< for people
    double thickness_mm = 0;
    double open_before_mm = 0; ///< a gap to the member before it that is meant to stay open
    standards::Material material;
    Seat seat = Seat::face;
    AxisSeat axis = {}; ///< where the seat is a cylinder
    Across across = {}; ///< where it is a mid-plane
};

/// Everything that a joint may look at to choose its hardware.  The members in order from the head side, face
/// on face or with a gap between them that is meant to stay open.
struct Site {
    std::string joint; ///< its name, for people
    std::vector<MemberSite> members;
    std::size_t places = 1;
    const Workshop& workshop;

    /// From where one member begins to where another does, or to the end of the last.
    double thickness_mm(std::size_t from, std::size_t to) const {
        double sum = 0;
        for (std::size_t i = from; i < to; ++i)
            sum += members[i].thickness_mm + (i + 1 < members.size() ? members[i + 1].open_before_mm : 0);
        return sum;
    }
};

/// What the parts really have where the joint writes something: by member, then by place; empty where a part
/// has none.
struct AsMade {
    std::vector<std::vector<std::optional<Shape>>> shapes;

    const Hole* hole(std::size_t member, std::size_t place) const {
        const auto& shape = shapes[member][place];
        return shape ? std::get_if<Hole>(&*shape) : nullptr;
    }
    Hole* hole(std::size_t member, std::size_t place) {
        auto& shape = shapes[member][place];
        return shape ? std::get_if<Hole>(&*shape) : nullptr;
    }
};

}
