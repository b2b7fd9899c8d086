#pragma once
#include "kind/contact.hpp"
#include "kind/design.hpp"
#include "kind/need.hpp"
#include "kind/site.hpp"
#include <initializer_list>

/// What the kinds along an axis share.
namespace kollema::kind {

/// Which end of a shaft's seat has a shoulder for what sits on it to lie against.
enum class ShoulderAt { none, near, far };
ShoulderAt shoulder_of(const MemberSite& shaft);

/// Where the shaft's seat stands when what sits on it reaches from 0 to `far_mm` and lies against the
/// shoulder; its beginning at 0 where it has none at the far end or it is not wanted.
double stands_of_shaft(const MemberSite& shaft, double far_mm, bool against_shoulder);

/// How far sizes that are made independently take their sum, by root of squares.
double root_of_halves(std::initializer_list<fit::SizeLimits> sizes);

/// What is loose of a clearance, and how far its two sizes take that by root of squares.
struct Loose {
    double max_mm = 0, min_mm = 0, root_mm = 0;
    double loose_share = 0; ///< of the clearance's width
};
Loose loose_of(const fit::SizeLimits& bore, const fit::SizeLimits& shaft);

/// Clearance of a bore and a shaft as play of a contact; `what` names the two.
Contact::Play play_of(const fit::SizeLimits& bore, const fit::SizeLimits& shaft, std::string what,
                      std::string source);

/// What a zone of a bore is at a size, or the limits that a member's own bore has.
Result<fit::SizeLimits> bore_limits(const MemberSite& member, double diameter_mm, const std::string& zone);

/// A refusal of a zone that is none, or one for a shaft.
std::optional<Failure> defect_of_hole_zone(const std::string& zone);

/// A bore of member 0 that is not as wide as the shaft of member 1.
void add_unequal_diameters(Needs& all, const Site& site);

/// "H7", or "±0.1" where there is no zone.
std::string text_of(const SizeTolerance& tolerance);

}
