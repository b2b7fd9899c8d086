#include "edit/chain_edits.hpp"
#include "edit/change.hpp"
#include "edit/settled.hpp"

namespace kollema::edit {

Result<Project> add_chain(const Project& project, TypedChain chain) {
    if (auto found = defect_of(chain)) return fail(*found);
    Project after = project;
    chain.id = {new_id(project, chain.name)};
    after.chains.push_back(std::move(chain));
    return after;
}

Result<Project> remove_chain(const Project& project, const ChainId& id) {
    Project after = project;
    if (erase_if(after.chains, [&](const TypedChain& c) { return c.id == id; }) == 0)
        return unknown("chain", id.text);
    return after;
}

Result<Project> change_chain(const Project& project, const TypedChain& chain) {
    return apply(project, {ChangeChain{chain}});
}

}
