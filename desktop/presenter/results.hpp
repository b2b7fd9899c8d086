#pragma once
#include "assembly/holding.hpp"
#include "assembly/requirement_result.hpp"
#include "check/evaluation.hpp"
#include "drawing/section.hpp"
#include "geometry/crossings.hpp"
#include "quantity/format.hpp"
#include "stack/monte_carlo.hpp"
#include <functional>
#include <memory>
#include <vector>

namespace kollema::desktop {

struct CurvePoint {
    double gap_mm = 0, density = 0;
};

/// A requirement with everything its panel shows.
struct GapResult {
    RequirementId id;
    std::shared_ptr<const check::Gap> result;
    std::vector<CurvePoint> curve;
    std::optional<assembly::Drawn> simulation;
};

/// Everything computed from one snapshot.  Sections are drawn when they are looked at, one at a time.
struct Results {
    std::shared_ptr<const Project> project = std::make_shared<const Project>(); ///< the snapshot
    check::Evaluation checked;
    assembly::Holding holding; ///< what holds each part once the joints are tight
    std::map<InstanceId, std::vector<Phrase>> idle_motions; ///< that a part makes by itself, not as a rider
    std::vector<std::shared_ptr<const GapResult>> gaps;
    std::optional<Failure> failure; ///< set when nothing could be computed at all
    /// What the solids show; of the version before until they are compared anew.
    std::shared_ptr<const geometry::Crossings> crossings;
    check::Findings findings; ///< of the rules and of the solids, the worst first
};

/// A joint's section as the snapshot has it; nothing where it has no such joint or `keep_going` answers
/// false.
std::optional<Result<drawing::Section>> section_of(const Results& results, const JointId& joint,
                                                   LengthUnit unit, const drawing::Cutter& cutter,
                                                   const std::function<bool()>& keep_going = nullptr);

/// The same with parts that stand in each other; it takes longer, for it needs the solids.
std::shared_ptr<const Results> with_crossings(const std::shared_ptr<const Results>& results,
                                              geometry::PartSolids& solids,
                                              const std::function<bool()>& keep_going);

/// Computes all results, or takes them over from an earlier version of the project where nothing changed;
/// runs off the window's thread.  Empty when `keep_going` answers false.
std::shared_ptr<const Results> compute_results(const std::shared_ptr<const Project>& project,
                                               const std::shared_ptr<const Results>& before,
                                               const std::function<bool()>& keep_going);

}
