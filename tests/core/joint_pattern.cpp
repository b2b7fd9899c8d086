// The holes of a project's joints as a pattern.
#include "assembly/joint_pattern.hpp"
#include "assembly/placement.hpp"
#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include "joint/design.hpp"
#include "one_of.hpp"
#include "places.hpp"
#include "standards/holes.hpp"

using namespace kollema;
using Catch::Matchers::WithinAbs;

namespace {

Project demo() { return *file::load(test::in_source("data/demo/fruit-sorter.kollema")); }

}

TEST_CASE("a joint's pattern has its holes where the assembly has them, and the dowels beside its screws",
          "[assembly][pattern]") {
    const Project project = demo();
    const auto placement = *assembly::place(project);
    int with_pattern = 0, with_dowels = 0;
    for (const auto& joint : project.joints) {
        const auto design = joint::design(project, joint);
        if (!design || !assembly::has_pattern(*design)) continue;
        CAPTURE(joint.name);
        const auto of = assembly::pattern_of(project, joint.id);
        REQUIRE(of);
        ++with_pattern;
        with_dowels += of->joints.size() > 1 ? 1 : 0;
        CHECK(of->joints.front() == joint.id);
        // In the world: distances between all holes are those of the first part's features.
        const auto& first = joint.members.front();
        const Part& part = *part_of(project, first.instance);
        const Frame stands = placement.frames.at(first.instance);
        std::vector<Vector3> at;
        for (std::size_t g = 0; g < of->joints.size(); ++g) {
            const Joint& one = *project.joints.find(of->joints[g]);
            for (std::size_t m = 0; m < one.members.size(); ++m) {
                if (one.members[m].instance != first.instance) continue;
                for (std::size_t place = 0; place < one.places.size(); ++place)
                    if (const Feature* f = owned_feature(part, one.id, m, place))
                        at.push_back(stands.point(f->frame.origin));
            }
        }
        const auto holes = of->pattern.holes();
        if (at.size() != holes.size()) continue; // a part without holes of its own there
        const Vector3 axis =
            stands.vector(joint.members.empty() ? Vector3::UnitZ() : find(part, first.face)->frame.z);
        for (std::size_t i = 0; i < holes.size(); ++i)
            for (std::size_t k = 0; k < i; ++k) {
                Vector3 way = at[i] - at[k];
                way -= way.dot(axis) * axis;
                CHECK_THAT((holes[i] - holes[k]).norm(), WithinAbs(way.norm(), 1e-6));
            }
        for (const auto& group : of->pattern.groups) {
            CHECK(group.plates.size() == joint.members.size());
            for (const auto& plate : group.plates) {
                CHECK(plate.position_mm >= 0);
                CHECK(plate.position_mm < 2);
            }
        }
    }
    // Screws of a block on a plate: what places one hole against the others is a general tolerance of some
    // tenths.
    const auto screws = *assembly::pattern_of(project, {"block-screws"});
    for (const auto& plate : screws.pattern.groups.front().plates) {
        CHECK(plate.position_mm > 0.1);
        CHECK(plate.position_mm < 1.3);
    }
    CHECK(with_pattern >= 3);
    CHECK(with_dowels >= 1);
    CHECK_FALSE(assembly::pattern_of(project, {"nobody"}));
}

TEST_CASE("a clearance class of a joint is a larger hole in its pattern, and a higher yield",
          "[assembly][pattern]") {
    Project project = demo();
    for (const auto& joint : project.joints) {
        const auto fine = edit::set_parameter(project, joint.id, "clearance", std::string("fine"));
        const auto coarse = edit::set_parameter(project, joint.id, "clearance", std::string("coarse"));
        if (!fine || !coarse) continue;
        CAPTURE(joint.name);
        const auto a = assembly::pattern_of(*fine, joint.id), b = assembly::pattern_of(*coarse, joint.id);
        REQUIRE(a);
        REQUIRE(b);
        const auto hole = [](const assembly::JointPattern& of) {
            for (const auto& plate : of.pattern.groups.front().plates)
                if (!plate.threaded) return plate.hole;
            return pattern::Size{};
        };
        CHECK(hole(*a).min_mm() < hole(*b).min_mm());
        // Nominal and zone of the hole by the standard's table (ISO 273).
        const auto thread =
            "M" + std::to_string(static_cast<int>(std::ceil(a->pattern.groups.front().fastener.max_mm())));
        if (const auto wanted = standards::clearance_hole_mm(thread, standards::ClearanceClass::coarse))
            CHECK_THAT(hole(*b).min_mm(), WithinAbs(*wanted, 1e-9));
        CHECK(pattern::simulate(b->pattern, {.samples = 20'000})->yield >=
              pattern::simulate(a->pattern, {.samples = 20'000})->yield);
        return;
    }
    FAIL("no joint of the demo has a clearance class");
}
