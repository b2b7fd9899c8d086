// How the steps of a project's results grow with its joints: kollema-growth [MOST]. Chains, stars and
// clusters of 100 joints and more; prints seconds a step and the exponent from one size to the next (1:
// linear).
#include "assembly/holding.hpp"
#include "assembly/leaving.hpp"
#include "assembly/requirement_result.hpp"
#include "check/evaluation.hpp"
#include "check/rules.hpp"
#include "drawing/section.hpp"
#include "file/project_file.hpp"
#include "geometry/crossings.hpp"
#include "geometry/part_solids.hpp"
#include "geometry/scene.hpp"
#include "large_projects.hpp"
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <map>
#include <string>

using namespace kollema;
using namespace kollema::bench;

namespace {

double seconds(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

using Steps = std::vector<std::pair<std::string, double>>;

/// One joint takes another clearance, in the project and in everything that is computed from it.
Project edited(const Project& p) {
    const auto& middle = p.joints[p.joints.size() / 2];
    return must(edit::set_parameter(p, middle.id, "clearance", std::string("fine")));
}

Steps measured(const Project& p) {
    Steps steps;
    const auto add = [&](const char* name, const std::function<void()>& work) {
        steps.emplace_back(name, seconds(work));
    };
    assembly::Placement placement;
    geometry::PartSolids solids;
    std::string text;
    add("write the file", [&] { text = file::to_json(p); });
    add("read the file", [&] { must(file::from_json(text, "bench")); });
    add("place and design", [&] { placement = must(assembly::place(p)); });
    add("what holds each part", [&] { assembly::holding_of(p, placement); });
    add("what can come off", [&] { assembly::leaving(p, placement); });
    add("one gap", [&] { must(assembly::chain_of(p, placement, p.requirements.front())); });
    add("one section", [&] { must(drawing::section_of(p, placement, p.joints.front(), solids.cutter())); });
    check::Evaluation all;
    add("all rules", [&] { all = std::move(*must(check::evaluate(p))); });
    const check::Snapshot snapshot{p, all.placement, all.gaps};
    add("solids in space", [&] { geometry::scene_of(p, placement, solids, [](double) { return true; }); });
    add("what stands in each other",
        [&] { geometry::crossings(snapshot, solids, nullptr, [] { return true; }); });
    using namespace check;
    for (const auto& [rule_name, rule] :
         std::map<const char*, Findings (*)(const Snapshot&)>{{"rule: collisions", collisions},
                                                              {"rule: mixed systems", mixed_systems},
                                                              {"rule: stock", not_in_stock}})
        add(rule_name, [&] { rule(snapshot); });
    Project after;
    add("one edit", [&] { after = edited(p); });
    add("all rules again", [&] { must(check::evaluate(after, &all)); });
    return steps;
}

}

int main(int argc, char** argv) {
    const std::size_t most = argc > 1 ? std::strtoul(argv[1], nullptr, 10) : 1000;
    for (const auto& [name, make] : std::map<std::string, Project (*)(std::size_t)>{
             {"chain", chain}, {"clusters", clusters}, {"star", star}}) {
        Steps before;
        for (std::size_t joints = 100; joints <= most; joints *= 10) {
            const Project p = make(joints);
            const Steps now = measured(p);
            std::printf("%s of %zu joints\n", name.c_str(), joints);
            for (std::size_t i = 0; i < now.size(); ++i) {
                std::printf("  %-26s %9.4f s", now[i].first.c_str(), now[i].second);
                if (!before.empty())
                    std::printf("   exponent %.2f", std::log10(now[i].second / before[i].second));
                std::printf("\n");
                std::fflush(stdout);
            }
            const auto of = [&](const char* step) {
                for (const auto& [step_name, taken] : now)
                    if (step_name == step) return taken;
                return 0.0;
            };
            std::printf("  an edit with all that follows is 1/%.0f of everything anew\n",
                        (of("one edit") + of("all rules")) / (of("one edit") + of("all rules again")));
            before = now;
        }
    }
}
