// What an edit costs in space against everything anew, in one run: kollema-geometry-bench.  The demo; each
// figure is the median of several runs, both sides in turn.
#include "check/evaluation.hpp"
#include "drawing/section.hpp"
#include "file/project_file.hpp"
#include "geometry/crossings.hpp"
#include "geometry/scene.hpp"
#include "large_projects.hpp"
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>
#include <vector>

using namespace kollema;
using namespace kollema::bench;

namespace {

constexpr int runs = 5;
const auto always = [] { return true; };

double seconds(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double median(std::vector<double> all) {
    std::ranges::sort(all);
    return all[all.size() / 2];
}

/// The project and what was placed of it, before and after one edit.
struct State {
    Project project;
    assembly::Placement placement;
};
State state_of(Project project) {
    State s{std::move(project), {}};
    s.placement = must(assembly::place(s.project));
    return s;
}

/// The shaft of the drive gets a longer step; every run another length, so that nothing is known.
State edited(const State& s, int run) {
    for (const auto& part : s.project.parts)
        for (const auto& parameter : shape::parameters(part.body))
            if (parameter.key == "steps/2/length")
                return state_of(must(edit::set_size(s.project, part.id, parameter.key,
                                                    std::get<double>(parameter.value) + 0.01 * (run + 1))));
    return s;
}

using Work = std::function<void(const State&, geometry::PartSolids&)>;

/// Once anew, once after an edit with what was kept.
void compare(const char* what, const State& before, const Work& work, double must_be) {
    std::vector<double> anew, after;
    for (int run = 0; run < runs; ++run) {
        geometry::PartSolids fresh, kept;
        work(before, kept);
        const State now = edited(before, run);
        anew.push_back(seconds([&] { work(now, fresh); }));
        after.push_back(seconds([&] { work(now, kept); }));
    }
    std::printf("%-46s %8.1f ms anew, %7.1f ms after an edit: 1/%.1f (must 1/%.0f)\n", what,
                1e3 * median(anew), 1e3 * median(after), median(anew) / median(after), must_be);
}

}

int main() {
    const State demo = state_of(must(file::load(KOLLEMA_SOURCE_DIR "/data/demo/fruit-sorter.kollema")));
    compare(
        "solids and meshes of all parts and pieces", demo,
        [](const State& s, geometry::PartSolids& solids) {
            geometry::scene_of(s.project, s.placement, solids, [](double) { return true; });
        },
        8);
    compare(
        "the section of every joint", demo,
        [](const State& s, geometry::PartSolids& solids) {
            for (const auto& joint : s.project.joints)
                must(drawing::section_of(s.project, s.placement, joint, solids.cutter()));
        },
        5);
    std::vector<double> anew, after;
    for (int run = 0; run < runs; ++run) {
        geometry::PartSolids fresh, kept;
        const auto before = geometry::crossings({demo.project, demo.placement}, kept, nullptr, always);
        const State now = edited(demo, run);
        const check::Snapshot snapshot{now.project, now.placement};
        anew.push_back(seconds([&] { geometry::crossings(snapshot, fresh, nullptr, always); }));
        after.push_back(seconds([&] { geometry::crossings(snapshot, kept, &*before, always); }));
    }
    std::printf("%-46s %8.1f ms anew, %7.1f ms after an edit: 1/%.1f (must 1/10)\n",
                "what stands in each other", 1e3 * median(anew), 1e3 * median(after),
                median(anew) / median(after));
}
