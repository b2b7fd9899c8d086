#pragma once
#include "model/project.hpp"
#include <map>
#include <memory>

/// A kind meets a project: what it may look at, what it answers, and what the parts really have.
namespace kollema::joint {

/// What the joint's kind sees.  It refers to the project's workshop.  Errors: a place beside a part; a part
/// whose material is not held.
Result<kind::Site> site_of(const Project& project, const Joint& joint);

/// Errors: as site_of() and kind::design().
Result<kind::Design> design(const Project& project, const Joint& joint);

/// By joint; computed once for a project and handed to whoever needs them.  Copies share the designs.
class Designs {
public:
    void add(const JointId& joint, std::shared_ptr<const Result<kind::Design>> design);
    /// Precondition: it was added.
    const Result<kind::Design>& at(const JointId& joint) const { return *all_.at(joint); }
    std::shared_ptr<const Result<kind::Design>> share(const JointId& joint) const { return all_.at(joint); }
    /// Null where the joint is not known or cannot be designed.
    const kind::Design* find(const JointId& joint) const;

private:
    std::map<JointId, std::shared_ptr<const Result<kind::Design>>> all_;
};
Designs designs_of(const Project& project);

/// The hole that a joint has in a member at a place, as the part really is.  Null where the part has none.
const Hole* actual_hole(const Project& project, const Joint& joint, std::size_t member, std::size_t place);

/// All of them.
kind::AsMade as_made(const Project& project, const Joint& joint);

/// What the kind needs and has not; nothing where it cannot be designed.
kind::Needs needs(const Project& project, const Joint& joint, const Result<kind::Design>& design);

}
