#pragma once
#include "kind/design.hpp"
#include "kind/need.hpp"
#include "kind/site.hpp"
#include "standards/catalogue.hpp"
#include "standards/threads.hpp"
#include <optional>
#include <string>
#include <vector>

/// A screw that ends in the thread of the joint's last member: its length, the tapped hole, and what the
/// thread needs.
namespace kollema::kind {

struct ThreadWanted {
    std::string screw_standard, thread, property_class;
    double grip_mm = 0; ///< from where the nominal length is measured to the last member
    std::optional<double> length_mm = {};
};

/// All lengths in mm.
struct ThreadSeat {
    standards::HardwareItem screw;
    standards::Thread thread;
    std::string property_class;
    double d_mm = 0, grip_mm = 0, length_mm = 0;
    double shank_mm = 0;      ///< greatest length without full thread where there is a shank, else 0
    double engagement_mm = 0; ///< full thread in the last member, the screw's point taken off
    double minimum_mm = 0;    ///< so that the screw breaks before a thread strips
    double wanted_mm = 0;     ///< minimum and rule of thumb, whichever is more
    double thickness_mm = 0;  ///< of the last member
    bool from_stock = false, through = false;
    Hole tapped;
    double reach_mm() const { return length_mm - grip_mm; }
    double point_mm() const { return thread.pitch_mm; } ///< one pitch (common practice, after ISO 4753)
};

/// The standard length for a grip: the shortest with the engagement wanted; where that is longer than the
/// last member is thick, the longest that stays inside it.  A shank never reaches into the thread by our own
/// choice. Blind where enough stays under the drill, else through.  Errors: hardware, grades and materials
/// that are not held; no standard length that serves.
Result<ThreadSeat> seat_in_thread(const ThreadWanted& wanted, const Site& site, Working& working);

/// Thread of the screw that the last member's hole holds: what is in reach of its thread, point and shank
/// taken off.
double thread_engagement_mm(const ThreadSeat& seat, const Hole& tapped);

/// Grip and engagement, beginning at the head's bearing face.
std::vector<Outcome> outcomes_of(const ThreadSeat& seat, double bearing_face_at_mm);

/// Too little thread, a screw that runs out of it or stands out, a shank that meets it.  `also` helps against
/// too little thread besides a longer screw and a thicker member.
Needs thread_needs(const ThreadSeat& seat, const Site& site, const AsMade& made,
                   const std::vector<Remedy>& also);

}
