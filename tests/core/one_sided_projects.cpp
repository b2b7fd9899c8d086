// Whole projects whose gaps do not depend on how they are told.
#include "assembly/chain.hpp"
#include "bench_parts.hpp"

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

Project example(const std::string& name) {
    return must(file::load(in_source("tests/examples/one_sided/" + name + ".kollema")));
}

/// Without drawing it.
contact::GapAnswer answer_of(const Project& p, const Requirement& requirement) {
    const auto chain = must(assembly::chain_of(p, must(assembly::place(p)), requirement));
    return chain.answers[chain.worst_point];
}

}

TEST_CASE("a distance is positive, whichever end is named first and however thick the part behind",
          "[chain]") {
    const Project p = example("swap");
    for (const auto& [id, distance] : {std::pair{"LR", 140.0}, {"RL", 140.0}, {"LL", 60.0}, {"LL2", 60.0}}) {
        CAPTURE(id);
        const auto* requirement = find(p, RequirementId{id});
        REQUIRE(requirement);
        CHECK_THAT(answer_of(p, *requirement).nominal, WithinAbs(distance, 1e-9));
    }
    // From the end of a shaft to the far face of what it carries, its bore between them.
    const Project hub = example("noring");
    CHECK_THAT(must(assembly::gap_place(hub, must(assembly::place(hub)), hub.requirements[0])).nominal_mm,
               WithinAbs(25, 1e-9));
    CHECK_THAT(must(assembly::gap_place(hub, must(assembly::place(hub)), hub.requirements[1])).nominal_mm,
               WithinAbs(5, 1e-9));
}

TEST_CASE("a sloped dimension from a face that nothing else uses is followed", "[chain]") {
    const Project p = example("crash_min");
    for (const auto& requirement : p.requirements) {
        const auto answer = answer_of(p, requirement);
        CHECK(answer.rss.max > answer.rss.min);
    }
}

TEST_CASE("the names of joints decide nothing", "[chain]") {
    const Project one = example("ren_ab"), two = example("ren_ba");
    REQUIRE(one.requirements.size() == two.requirements.size());
    for (std::size_t i = 0; i < one.requirements.size(); ++i) {
        const auto a = answer_of(one, one.requirements[i]), b = answer_of(two, two.requirements[i]);
        CAPTURE(i);
        CHECK_THAT(a.nominal, WithinAbs(b.nominal, 1e-9));
        CHECK_THAT(a.rss.min, WithinAbs(b.rss.min, 1e-9));
        CHECK_THAT(a.rss.max, WithinAbs(b.rss.max, 1e-9));
        CHECK_THAT(a.worst_case->min, WithinAbs(b.worst_case->min, 1e-9));
        CHECK_THAT(a.worst_case->max, WithinAbs(b.worst_case->max, 1e-9));
    }
}
