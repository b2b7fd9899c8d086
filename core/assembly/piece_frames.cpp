#include "assembly/piece_frames.hpp"
#include "assembly/closing.hpp"
#include "joint/members.hpp"

namespace kollema::assembly {

std::vector<Frame> piece_frames(const Project& project, const Placement& placement, const Joint& joint,
                                const kind::PlacedPiece& piece) {
    const auto head = placement.frames.find(joint.members.front().instance);
    const auto views = joint::members_of(project, joint);
    if (!views || head == placement.frames.end()) return {};
    const Frame axis = joint_frame(*views, 0, head->second);
    std::vector<Frame> all;
    for (const auto& place : joint.places)
        all.push_back({axis.point({place.x() + piece.beside_mm, place.y(), piece.at_mm}),
                       piece.turned ? Vector3(-axis.z) : axis.z, axis.x});
    return all;
}

}
