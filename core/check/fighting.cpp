#include "assembly/surroundings.hpp"
#include "assembly/tied_joints.hpp"
#include "check/pin_fits.hpp"
#include "check/rules.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>

namespace kollema::check {
namespace {

constexpr double hardly_any_does_not = 0.95;

std::string names_of(const Project& project, const std::vector<JointId>& joints) {
    std::string all;
    for (const auto& id : joints)
        all += (all.empty() ? "" : " and ") + find(project, id)->name;
    return all;
}

/// The distances between the holes held closer, with a looser slip fit where that alone does not do.
std::optional<Fix> closer_distances(const Project& project, const assembly::TiedJoints& tied) {
    const Project around = assembly::Surroundings(project).of(tied.joints);
    for (const bool looser : {false, true})
        for (const double half : {2 * reamed_together_mm, reamed_together_mm}) {
            Fix fix{{looser ? "Ream the slip holes E8 and hold the distances between them to ± {half}"
                            : "Hold the distances between the holes to ± {half}",
                     {{"half", Quantity{half, Unit::length}}}},
                    {}};
            for (const auto& joint : tied.joints) {
                if (looser && with_looser_slip(find(project, joint)->kind))
                    fix.changes.push_back(edit::SetParameter{joint, "slip_zone", "E8"});
                fix.changes.push_back(edit::SetHoleDistances{joint, half});
            }
            const auto after = edit::apply(around, fix.changes);
            if (after && assembly::share_that_goes_together(*after, tied.joints) >= enough_go_together)
                return fix;
        }
    return std::nullopt;
}

std::optional<Fix> first_two_pins(const Project& project, const assembly::TiedJoints& tied) {
    const Joint& j = *find(project, tied.joints.front());
    if (tied.joints.size() > 1 || j.places.size() < 3) return std::nullopt;
    return Fix{{"Keep the first two pins"}, {edit::SetPlaces{j.id, {j.places[0], j.places[1]}}}};
}

/// More play for what is held between two stops, the least that does.
std::optional<Fix> more_play(const Project& project, const assembly::TiedJoints& tied) {
    const Project around = assembly::Surroundings(project).of(tied.joints);
    for (const auto& id : tied.joints)
        for (const auto& parameter : kind::parameters(find(project, id)->kind)) {
            if (parameter.key != "play") continue;
            for (const double more : {0.05, 0.1, 0.2, 0.3, 0.5, 1.0}) {
                const double play = std::get<double>(parameter.value) + more;
                const Fix fix{{"Leave a play of {play}", {{"play", Quantity{play, Unit::length}}}},
                              {edit::SetParameter{id, "play", play}}};
                const auto after = edit::apply(around, fix.changes);
                if (after && assembly::share_that_goes_together(*after, tied.joints) >= enough_go_together)
                    return fix;
            }
        }
    return std::nullopt;
}

std::optional<Fix> without_last(const Project& project, const assembly::TiedJoints& tied) {
    if (tied.joints.size() < 2) return std::nullopt;
    const Joint& last = *find(project, tied.joints.back());
    return Fix{{"Remove {joint}", {{"joint", last.name}}}, {edit::RemoveJoint{last.id}}};
}

std::vector<std::optional<Fix>> ways_out_of(const Project& block, const assembly::TiedJoints& tied) {
    if (tied.pushing) return {more_play(block, tied)};
    return {closer_distances(block, tied), first_two_pins(block, tied), without_last(block, tied)};
}

}

Findings fighting(const Project& block, const assembly::Placement& placement) {
    Findings found;
    for (const auto& tied : assembly::tied_joints(block, placement)) {
        if (tied.together >= enough_go_together) continue;
        const std::string names = names_of(block, tied.joints);
        Finding finding{
            .rule = "misfit",
            .severity = tied.together < hardly_any_does_not ? Severity::error : Severity::warning,
            .joint = tied.joints.front(),
            .parts = tied.parts,
            .is = tied.together,
            .wanted = enough_go_together,
            .message = {"{joints}: only {share} % of the parts go together",
                        {{"joints", names}, {"share", fixed(100 * tied.together, 1)}}},
            .because = {"their pins hold the same freedom twice: what their places disagree by must "
                        "fit into the slip clearance"}};
        if (tied.pushing)
            finding.because = {"they hold a part from both sides, and what is between them may be too wide"};
        if (tied.pushing && tied.apart_mm)
            finding.because = {
                "they hold a part from both sides; the room between them may be as little as {room} "
                "(mean and 3 sigma), and below 0 it does not go in",
                {{"room", Quantity{*tied.apart_mm, Unit::small_length}}}};
        else if (tied.apart_mm)
            finding.because = {
                "pins and holes disagree by up to {apart} (mean and 3 sigma) along their line; the slip "
                "fits leave {room} on average",
                {{"apart", Quantity{*tied.apart_mm, Unit::small_length}},
                 {"room", Quantity{tied.room_mm, Unit::small_length}}}};
        for (const auto& fix : ways_out_of(block, tied))
            if (fix) finding.fixes.push_back(*fix);
        found.push_back(std::move(finding));
    }
    return found;
}

}
