#include "edit/chain_edits.hpp"
#include "edit/change.hpp"
#include <fmt/format.h>

namespace kollema::edit {
namespace {

tl::unexpected<Failure> no_such(const ChainId& id) {
    return fail({.what = fmt::format("chain \"{}\"", id.text),
                 .why = "the project has none of this id",
                 .remedy = "Choose one of those that exist",
                 .kind = FailureKind::argument});
}

}

Result<Project> add_chain(const Project& project, TypedChain chain) {
    if (auto found = defect_of(chain)) return fail(*found);
    Project after = project;
    chain.id = {new_id(project, chain.name)};
    after.chains.push_back(std::move(chain));
    return after;
}

Result<Project> remove_chain(const Project& project, const ChainId& id) {
    Project after = project;
    if (erase_if(after.chains, [&](const TypedChain& c) { return c.id == id; }) == 0) return no_such(id);
    return after;
}

Result<Project> change_chain(const Project& project, const TypedChain& chain) {
    return apply(project, {ChangeChain{chain}});
}

}
