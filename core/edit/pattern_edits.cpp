#include "edit/pattern_edits.hpp"
#include "edit/edits.hpp"
#include "edit/settled.hpp"

namespace kollema::edit {

Project add_pattern(const Project& project, TypedPattern pattern) {
    Project after = project;
    pattern.id = {new_id(project, pattern.name)};
    after.patterns.push_back(std::move(pattern));
    return after;
}

Result<Project> remove_pattern(const Project& project, const PatternId& id) {
    Project after = project;
    if (erase_if(after.patterns, [&](const TypedPattern& p) { return p.id == id; }) == 0)
        return unknown("pattern", id.text);
    return after;
}

Result<Project> change_pattern(const Project& project, const TypedPattern& pattern) {
    Project after = project;
    TypedPattern* same = after.patterns.find(pattern.id);
    if (!same) return unknown("pattern", pattern.id.text);
    *same = pattern;
    return after;
}

}
