#pragma once
#include "shape/hole.hpp"
#include "standards/materials.hpp"
#include "standards/workshop.hpp"
#include <string>
#include <vector>

namespace kollema::kind {

/// What a joint takes hold of in a member.
enum class Seat { face };

/// A member as a joint meets it, seen along the joint's axis.
struct MemberSite {
    std::string name; ///< for people
    double thickness_mm = 0;
    standards::Material material;
    Seat seat = Seat::face;
};

/// Everything that a joint may look at to choose its hardware.  The members in order from the head side, face
/// on face.
struct Site {
    std::string joint; ///< its name, for people
    std::vector<MemberSite> members;
    std::size_t places = 1;
    const Workshop& workshop;

    double thickness_mm(std::size_t from, std::size_t to) const { ///< of the members from ≤ i < to together
        double sum = 0;
        for (std::size_t i = from; i < to; ++i)
            sum += members[i].thickness_mm;
        return sum;
    }
};

/// The holes as the parts really have them: by member, then by place; empty where a part has none.
struct AsMade {
    std::vector<std::vector<std::optional<Hole>>> holes;
};

}
