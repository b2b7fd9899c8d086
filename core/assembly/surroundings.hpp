#pragma once
#include "model/project.hpp"
#include <map>
#include <set>

namespace kollema::assembly {

/// Cuts a project down to what some of its joints depend on: a project by itself, equal wherever the same
/// stands around them.  Refers to the project, which must outlive it.
class Surroundings {
public:
    explicit Surroundings(const Project& project);

    /// The members of these joints and every joint between these alone; the first instance stands still.  Of
    /// a part's features those that no joint owns, those of the joints, and what dimensions tie to them: a
    /// hole of another joint is there as one that nobody owns.
    Project of(const std::vector<JointId>& joints) const;

private:
    struct OfPart {
        std::vector<std::size_t> unowned;                       ///< features
        std::map<FeatureId, std::vector<std::size_t>> at_owned; ///< dimensions, by a hole at their end
        std::vector<std::size_t> between_unowned;               ///< the other dimensions
    };
    std::set<std::size_t> joints_between(const std::set<std::size_t>& instances) const;
    Part cut_down(const Part& part, const std::set<std::size_t>& joints) const;
    Part with_features(const Part& part, const std::set<std::size_t>& features,
                       const std::set<std::size_t>& joints) const;

    const Project& project_;
    std::vector<std::vector<std::size_t>> joints_at_; ///< by instance
    std::vector<OfPart> parts_;
};

}
