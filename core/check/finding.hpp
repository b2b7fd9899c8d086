#pragma once
#include "assembly/placement.hpp"
#include "model/project.hpp"
#include <functional>
#include <map>
#include <string>
#include <vector>

namespace kollema::check {

enum class Severity { note, warning, error };
std::string_view name(Severity severity);
Result<Severity> parse_severity(std::string_view text);

/// A way out: an edit that can be previewed, applied and undone.
struct Fix {
    std::string text;
    std::function<Result<Project>(const Project&)> apply;
};

/// Something wrong: what is needed against what is given, why, and what would help.
struct Finding {
    std::string rule;
    Severity severity = Severity::warning;
    JointId joint; ///< empty where it concerns no joint
    RequirementId requirement;
    std::vector<PartId> parts;
    std::string message, because;
    std::vector<Fix> fixes;
};
using Findings = std::vector<Finding>;

/// What a rule looks at: a project and what was already computed from it.
struct Snapshot {
    const Project& project;
    const assembly::Placement& placement;
};

}
