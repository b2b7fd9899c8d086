#include "edit/clearance_classes.hpp"
#include "assembly/joint_pattern.hpp"
#include "edit/edits.hpp"
#include "standards/holes.hpp"

namespace kollema::edit {
namespace {

template <class Make>
ByClass each_class(Make make) {
    ByClass all;
    using standards::ClearanceClass;
    for (const auto c : {ClearanceClass::fine, ClearanceClass::medium, ClearanceClass::coarse}) {
        const std::string name(standards::name(c));
        if (Result<pattern::Pattern> made = make(name)) all.emplace_back(name, std::move(*made));
    }
    return all;
}

}

ByClass with_clearance_classes(const Project& project, const JointId& joint) {
    return each_class([&](const std::string& name) -> Result<pattern::Pattern> {
        const auto after = set_parameter(project, joint, "clearance", name);
        if (!after) return tl::unexpected(after.error());
        auto of = assembly::pattern_of(*after, joint);
        if (!of) return tl::unexpected(of.error());
        return std::move(of->pattern);
    });
}

ByClass with_clearance_classes(const Project& project, const PatternId& id) {
    const TypedPattern* typed = find(project, id);
    if (!typed) return {};
    return each_class([&](const std::string& name) -> Result<pattern::Pattern> {
        TypedPattern changed = *typed;
        changed.typed = pattern::with_class(std::move(changed.typed), name);
        auto of = read(changed, project.workshop);
        if (!of) return tl::unexpected(of.error());
        return std::move(of->pattern);
    });
}

}
