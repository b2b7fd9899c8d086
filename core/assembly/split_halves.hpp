#pragma once
#include "assembly/contacts.hpp"
#include "joint/members.hpp"

namespace kollema::assembly {

/// Two members of a joint over a gap that is meant to stay open: the fasteners draw together not these faces
/// but what lies between the halves.
struct SplitHalves {
    std::size_t near = 0, far = 0; ///< members, the head-side one first
    double open_mm = 0;            ///< between their faces, at nominal
    FeatureRef near_face, far_face;
};
/// Whether any of its members has a face that stands back.
bool has_split(const Project& project, const Joint& joint);
std::vector<SplitHalves> split_halves_of(const Joint& joint, const std::vector<joint::MemberView>& views);
/// What the fasteners of a joint are meant to leave open between two of its members, at nominal.
std::optional<double> split_of(const Project& project, const Joint& joint);

/// Shafts by the instances in whose bores they stand, and these bores.
struct InBore {
    InstanceId shaft;
    FeatureId cylinder, bore;
    bool touches = true; ///< else a bearing is between them
};
using ShaftsInBores = std::map<InstanceId, std::vector<InBore>>;
ShaftsInBores shafts_in_bores(const Project& project, const joint::Designs& designs,
                              const std::vector<const Joint*>& joints);

/// A shaft that stands in a bore of both halves.
struct Gripped {
    InstanceId shaft;
    FeatureId in_near, in_far; ///< its cylinders
    FeatureId near_bore, far_bore;
    bool touches = true; ///< else the halves grip a bearing
};
std::vector<Gripped> gripped_by(const ShaftsInBores& shafts, const Joint& joint, const SplitHalves& halves);

/// Halves that fasteners draw together close on what lies between them and hold it by friction, where their
/// bores bear on it.  `axis`: of the joint's pattern.
void add_grip(const Project& project, const Placement& placement, const Joint& joint, const Frame& axis,
              const SplitHalves& halves, const std::vector<Gripped>& gripped, JointContacts& contacts);

}
