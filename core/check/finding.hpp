#pragma once
#include "assembly/requirement_result.hpp"
#include "edit/change.hpp"
#include "quantity/phrase.hpp"
#include "quantity/severity.hpp"
#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace kollema::check {

/// A way out: changes that can be previewed, applied and undone as one edit.
struct Fix {
    Phrase text;
    std::vector<edit::Change> changes;
};

/// Where a finding's numbers were read.
struct Where {
    std::optional<std::size_t> member = {}, place = {};
};

/// Something wrong: what is given against what is needed, why, and what would help.
struct Finding {
    std::string rule;
    Severity severity = Severity::warning;
    JointId joint; ///< empty where it concerns no joint
    RequirementId requirement;
    std::vector<PartId> parts;
    Where where = {};
    std::optional<double> is = {}, wanted = {}; ///< in the base of the unit
    Unit unit = Unit::none;
    Phrase message, because;
    std::vector<Fix> fixes;
};
using Findings = std::vector<Finding>;

/// What a rule about one joint looks at: the joint among what surrounds it, so that its findings stay the
/// same as long as that does.
struct JointScene {
    const Project& project; ///< its surroundings
    const assembly::Placement& placement;
    const Joint& joint;
    const kind::Design& design;
    kind::Needs needs;
    bool located = false; ///< it or another joint locates its members across each other
    bool matters = false; ///< a required gap moves with what its fasteners leave loose
};

using Gap = Result<assembly::RequirementResult>;

/// What a rule about the whole looks at.
struct Snapshot {
    const Project& project;
    const assembly::Placement& placement;
    std::map<RequirementId, std::shared_ptr<const Gap>> gaps = {};
};

}
