// Required gaps that lead over keys, registers, faces and mid-planes, against sums by hand and trials.
#include "assembly/requirement_result.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "joint/members.hpp"
#include "joint/pointing.hpp"
#include <random>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

assembly::RequirementResult result_of(const Project& p, Requirement r) {
    r.name = "Gap";
    const Project asked = must(edit::add_requirement(p, std::move(r)));
    return must(assembly::evaluate(asked, must(assembly::place(asked)), asked.requirements.back()));
}

/// A block on another, face on face, and the distance of the two outer faces.
Project pile(double distance_mm) {
    Project p = must(edit::add_part({}, "Base", Block{80, 60, 20}, "s235", "milled"));
    p = must(edit::add_part(p, "Lid", Block{40, 30, 10}, "s235", "milled"));
    return must(edit::add_joint(p, {.name = "Lies",
                                    .kind = kind::FaceContact{.distance_mm = distance_mm},
                                    .members = {{{"base"}, {"top"}, {0, 0}, 0, true}, {{"lid"}, {"bottom"}}},
                                    .places = {{0, 0}}}));
}

Project tongue_in_fork(double gap_mm, double tongue_mm) {
    Project p = must(edit::add_part({}, "Fork", shape::Fork{.gap_mm = gap_mm}, "c45", "milled"));
    p = must(edit::add_part(p, "Tongue", Block{20, tongue_mm, 20}, "c45", "milled"));
    return must(edit::add_joint(p, {.name = "Middle",
                                    .kind = kind::MidPlanes{},
                                    .members = {{{"fork"}, {"middle"}}, {{"tongue"}, {"mid-width"}}},
                                    .places = {{0, 0}}}));
}

}

TEST_CASE("faces on each other or apart carry the sizes of both parts", "[assembly][seat]") {
    // ISO 2768-m: 20 ± 0.2, 10 ± 0.2; the faces look away from each other.
    for (const double apart : {0.0, 2.5}) {
        CAPTURE(apart);
        const auto r = result_of(pile(apart), {.from = {{"base"}, {"bottom"}}, .to = {{"lid"}, {"top"}}});
        CHECK_THAT(std::abs(r.nominal), WithinAbs(30 + apart, 1e-9));
        REQUIRE(r.worst_case);
        CHECK_THAT(r.worst_case->max - r.worst_case->min, WithinAbs(0.8, 1e-9));
        CHECK(r.chain.links.size() == 2);
    }
}

TEST_CASE("a tongue in a fork: what its play leaves to a side, by trial", "[assembly][seat][long]") {
    const auto r = result_of(tongue_in_fork(12, 11),
                             {.from = {{"fork"}, {"left-inside"}}, .to = {{"tongue"}, {"front"}}});
    CHECK_THAT(std::abs(r.nominal), WithinAbs(0.5, 1e-9));
    // Any fork of 12 ± 0.2, any tongue of 11 ± 0.2, the tongue anywhere between the cheeks.
    std::mt19937 random(5);
    std::uniform_real_distribution<double> half(-0.2, 0.2), share(0, 1);
    double least = 1e9, most = -1e9;
    for (int i = 0; i < 20'000; ++i) {
        const double play = 12 + half(random) - 11 - half(random), left = play * share(random);
        least = std::min(least, left);
        most = std::max(most, left);
    }
    REQUIRE(r.worst_case);
    const double sign = r.nominal < 0 ? -1 : 1;
    const double told_least = std::min(sign * r.worst_case->min, sign * r.worst_case->max),
                 told_most = std::max(sign * r.worst_case->min, sign * r.worst_case->max);
    CHECK(told_least <= least); // nothing that can be is left out
    CHECK(told_most >= most);
    CHECK(told_most <= 1.4 + 1e-9); // the widest fork and the thinnest tongue, at its other cheek
}

TEST_CASE("the width of a gap is one number, wherever its cheeks are measured from",
          "[assembly][seat][long]") {
    // From the outside of a cheek of 8: 8 ± 0.2 to the near wall, from it 12 ± 0.2 to the far one; the tongue
    // is 11 ± 0.2.
    Requirement r{.from = {{"fork"}, {"left-outside"}}, .to = {{"tongue"}, {"front"}}};
    const auto range = [&](Resting how) {
        r.resting = how;
        return result_of(tongue_in_fork(12, 11), r);
    };
    const auto closer = range(Resting::to_closer), wider = range(Resting::to_wider);
    CHECK_THAT(closer.nominal, WithinAbs(8, 1e-9));
    CHECK_THAT(closer.worst_case->max - closer.worst_case->min, WithinAbs(0.4, 1e-9));
    CHECK_THAT(wider.nominal, WithinAbs(9, 1e-9));
    CHECK_THAT(wider.worst_case->max - wider.worst_case->min, WithinAbs(1.2, 1e-9));
    const auto anywhere = range(Resting::chance);
    CHECK_THAT(anywhere.worst_case->min, WithinAbs(closer.worst_case->min, 1e-9));
    CHECK_THAT(anywhere.worst_case->max, WithinAbs(wider.worst_case->max, 1e-9));
}

TEST_CASE("only what stands between two faces is held by them", "[joint][seat]") {
    const auto design_of = [](const Body& body, const char* plane) {
        Project p =
            must(edit::add_part({}, "Fork", shape::Fork{.gap_mm = 12, .eye_mm = 10}, "c45", "milled"));
        p = must(edit::add_part(p, "Other", body, "c45", "turned"));
        p = must(edit::add_joint(p, {.name = "Middle",
                                     .kind = kind::MidPlanes{},
                                     .members = {{{"fork"}, {"middle"}}, {{"other"}, {plane}}},
                                     .places = {{0, 0}}}));
        return must(joint::design(p, p.joints[0]));
    };
    // A lever whose far eye is narrower: the near one, 11 wide, stands in the gap.
    const auto lever = design_of(shape::Lever{.first_width_mm = 11, .second_width_mm = 10}, "middle");
    REQUIRE(lever.contacts.size() == 2);
    CHECK_THAT(test::outcome(lever, "clearance"), WithinAbs(1 - 0.4, 1e-9));
    // A pin through the eyes is as wide as its length, and stands between nothing.
    const auto pin = design_of(shape::Disc{.diameter_mm = 10, .thickness_mm = 40, .bore_mm = 0}, "middle");
    CHECK(pin.contacts.empty());
    CHECK(pin.outcomes.empty());
    // What is wider than the gap meets the cheeks all the same, and does not go in.
    const auto wide = design_of(Block{20, 12.5, 20}, "mid-width");
    CHECK(wide.contacts.size() == 2);
}

TEST_CASE("parts that stand already stay as they are when they are joined once more", "[joint][seat]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> turn(-3, 3);
    for (int i = 0; i < 12; ++i) {
        Project p = pile(0);
        Joint turned = p.joints.front();
        turned.members[1].turn_rad = turn(random);
        p = must(edit::add_joint(must(edit::remove_joint(p, {"lies"})), turned));
        const auto before = must(assembly::place(p));
        const Joint again = joint::joint_between(p, before.frames, kind::FaceContact{},
                                                 {{{"base"}, {"top"}}, {{"lid"}, {"bottom"}}}, "Again");
        p = must(edit::add_joint(p, again));
        const auto after = must(assembly::place(p));
        CAPTURE(turned.members[1].turn_rad);
        CHECK(after.mismatches.empty());
        CHECK((after.frames.at({"lid"}).x - before.frames.at({"lid"}).x).norm() < 1e-9);
    }
}

TEST_CASE("a cylinder is joined where along it one says", "[joint][seat]") {
    Project p = must(edit::add_part({}, "Axle", shape::TurnedPart{.steps = {{30, 5}, {17, 40, "g6", 1}}},
                                    "c45", "turned"));
    p = must(edit::add_part(
        p, "Pulley", shape::Disc{.diameter_mm = 60, .thickness_mm = 20, .bore_mm = 35, .bore_zone = "N7"},
        "aluminium", "turned"));
    const Joint joint =
        joint::joint_between(p, {}, kind::BallBearing{.size = "6003"},
                             {{{"pulley"}, {"bore"}, {10, 0}}, {{"axle"}, {"step-2"}, {10, 0}}}, "Bearing");
    CHECK(joint.members[0].at.x() == 10);
    CHECK(joint.members[1].at.x() == 10);
    p = must(edit::add_joint(p, joint));
    // Ten along both: their beginnings stand together.
    const auto placed = must(assembly::place(p));
    const Frame &axle = placed.frames.at({"axle"}), &pulley = placed.frames.at({"pulley"});
    CHECK_THAT((pulley.origin - axle.point({0, 0, 5})).norm(), WithinAbs(0, 1e-9));
}

TEST_CASE("a face is met from within only where two faces lie on each other", "[file][seat]") {
    Project p = pile(0);
    CHECK_FALSE(first_defect(p));
    p.joints.front().members[1].from_other_end = true;
    CHECK(first_defect(p));
    Project screws = screwed();
    CHECK_FALSE(first_defect(screws));
    screws.joints.front().members[0].from_other_end = true;
    CHECK(first_defect(screws));
}

TEST_CASE("every body's mid-planes know the faces on both sides of them", "[joint][seat]") {
    const auto width_of = [](const Body& body, const std::string& plane) {
        Project p = must(edit::add_part({}, "Body", body, "s235", "milled"));
        p = must(edit::add_part(p, "Other", Block{5, 5, 5}, "s235", "milled"));
        const auto views =
            must(joint::members_of(p, {.name = "Middle",
                                       .kind = kind::MidPlanes{},
                                       .members = {{{"body"}, {plane}}, {{"other"}, {"mid-width"}}},
                                       .places = {{0, 0}}}));
        return views.front().across;
    };
    // Read off the sizes.
    CHECK_THAT(width_of(Block{60, 40, 20}, "mid-length").width_mm, WithinAbs(60, 1e-9));
    CHECK_THAT(width_of(Block{60, 40, 20}, "mid-width").width_mm, WithinAbs(40, 1e-9));
    CHECK_FALSE(width_of(Block{60, 40, 20}, "mid-width").inside);
    CHECK_THAT(width_of(Block{60, 40, 20}, "mid-width").reach_x_mm, WithinAbs(30, 1e-9));
    CHECK_THAT(width_of(shape::Fork{.gap_mm = 17}, "middle").width_mm,
               WithinAbs(17, 1e-9)); // not the cheeks' outside
    CHECK(width_of(shape::Fork{.gap_mm = 17}, "middle").inside);
    CHECK_THAT(width_of(shape::Disc{.thickness_mm = 13}, "middle").width_mm, WithinAbs(13, 1e-9));
    CHECK_THAT(width_of(shape::AngleBracket{.width_mm = 44}, "middle").width_mm, WithinAbs(44, 1e-9));
    int planes = 0;
    for (const auto& body : shape::all_bodies()) {
        const auto box = shape::bounds(shape::recipe(body));
        for (const auto& offer : shape::offers(body)) {
            if (!std::holds_alternative<MidPlane>(offer.shape)) continue;
            CAPTURE(shape::info(body).key, offer.id);
            const auto found = width_of(body, offer.id);
            const Vector3 n = offer.frame.z;
            const double extent = (box.greatest - box.least).dot(n.cwiseAbs());
            CHECK(found.width_mm > 0);
            CHECK(found.width_mm < extent + 1e-9);
            ++planes;
        }
    }
    CHECK(planes >= 9);
}

TEST_CASE("a tab that may be wider than its gap is told, with how many", "[check][seat][long]") {
    // Both ± 0.2 (ISO 2768-m): the room is normal about 16 less the tab; the share is drawn.
    for (const double tab : {15.9, 15.62, 15.58, 15.0}) {
        CAPTURE(tab);
        const auto findings = must(check::all_rules(tongue_in_fork(16, tab)));
        const auto found = [&](const char* rule) {
            return std::ranges::find(findings, rule, &check::Finding::rule);
        };
        CHECK((found("tab-in-gap") != findings.end()) == (16 - tab < 0.4));
        const double sigma = 0.2 / 3 * std::sqrt(2.0),
                     share = 0.5 * std::erfc(-(16 - tab) / sigma / std::sqrt(2.0));
        REQUIRE((found("misfit") != findings.end()) == (share < 0.9973));
        if (share < 0.9973) CHECK_THAT(*found("misfit")->is, WithinAbs(share, 0.01));
    }
}
