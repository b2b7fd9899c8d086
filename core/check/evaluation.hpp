#pragma once
#include "check/finding.hpp"
#include "model/kept.hpp"

namespace kollema::check {

/// What is found from one version of a project and may stand for the next: each under the values from which
/// it was found.
struct KeptResults {
    struct OfJoint {
        Shared<Project> around;
        bool located = false, matters = false;
        bool operator==(const OfJoint&) const = default;
    };
    struct OfGap {
        Project around;
        std::map<InstanceId, Frame> frames;
        Requirement requirement;
        bool operator==(const OfGap&) const = default;
    };
    Kept<JointId, Project, Result<kind::Design>> designs;
    Kept<JointId, OfJoint, std::vector<Findings>> joints; ///< by rule
    Kept<PartId, Part, Findings> parts;
    Kept<std::vector<JointId>, Shared<Project>, Findings> blocks;
    Kept<RequirementId, OfGap, std::shared_ptr<const Gap>> gaps;
};

/// Everything that is checked in a project.
struct Evaluation {
    assembly::Placement placement;
    Findings findings; ///< the worst first
    std::map<RequirementId, std::shared_ptr<const Gap>> gaps;
    KeptResults kept;
};

/// What `before` found from what has not changed since is taken over.  Nothing when `keep_going` answers
/// false.  Errors: a project whose joints cannot be placed.
Result<std::optional<Evaluation>> evaluate(const Project& project, const Evaluation* before = nullptr,
                                           const std::function<bool()>& keep_going = {});

/// The findings alone.
Result<Findings> all_rules(const Project& project);

}
