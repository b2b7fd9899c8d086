#include "edit/bench_edits.hpp"
#include "edit/edits.hpp"
#include "joint/matched_features.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::edit {
namespace {

tl::unexpected<Failure> there_is_none(std::string what, std::string why) {
    return fail({.what = std::move(what),
                 .why = std::move(why),
                 .remedy = "Choose one of those that exist",
                 .kind = FailureKind::argument});
}

/// Joints choose their lengths anew from the changed list.
Edited with_lengths_chosen(Project project) {
    if (auto found = first_defect(project)) return fail(*found);
    return joint::with_matched_features(std::move(project));
}

}

Edited add_pair(const Project& project, FitPair pair) {
    if (auto found = defect_of(pair)) return fail(*found);
    Project after = project;
    pair.id = {new_id(project, pair.name)};
    after.pairs.push_back(std::move(pair));
    return after;
}

Edited remove_pair(const Project& project, const PairId& id) {
    Project after = project;
    if (erase_if(after.pairs, [&](const FitPair& p) { return p.id == id; }) == 0)
        return there_is_none(fmt::format("pair \"{}\"", id.text), "the bench has none of this id");
    return after;
}

Edited change_pair(const Project& project, const FitPair& pair) {
    if (auto found = defect_of(pair)) return fail(*found);
    Project after = project;
    FitPair* same = after.pairs.find(pair.id);
    if (!same)
        return there_is_none(fmt::format("pair \"{}\"", pair.id.text), "the bench has none of this id");
    *same = pair;
    return after;
}

Edited stock(const Project& project, const StockItem& item) {
    Project after = project;
    std::erase_if(after.workshop.stock,
                  [&](const StockItem& s) { return s.standard == item.standard && s.size == item.size; });
    after.workshop.stock.push_back(item);
    return with_lengths_chosen(std::move(after));
}

Edited unstock(const Project& project, const std::string& standard, const std::string& size) {
    Project after = project;
    if (std::erase_if(after.workshop.stock,
                      [&](const StockItem& s) { return s.standard == standard && s.size == size; }) == 0)
        return there_is_none(fmt::format("{} {}", standard, size), "it is not on the workshop's list");
    return with_lengths_chosen(std::move(after));
}

Edited set_process_figures(const Project& project, const standards::Process& process) {
    if (auto found = defect_of(process)) return fail(*found);
    Project after = project;
    std::erase_if(after.workshop.processes, [&](const auto& p) { return p.id == process.id; });
    after.workshop.processes.push_back(process);
    return after;
}

Edited reset_process(const Project& project, const std::string& id) {
    Project after = project;
    if (std::erase_if(after.workshop.processes, [&](const auto& p) { return p.id == id; }) == 0)
        return there_is_none(fmt::format("process \"{}\"", id), "it has its built-in figures");
    if (auto found = first_defect(after)) return fail(*found);
    return after;
}

}
