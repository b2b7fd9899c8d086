// Gaps of projects: each answer by another road than the program's own.
#include "assembly/holding.hpp"
#include "assembly/requirement_result.hpp"
#include "bench_parts.hpp"
#include "check/evaluation.hpp"
#include "shape/overlap.hpp"
#include <array>
#include <cmath>
#include <map>
#include <random>

using namespace kollema;
using namespace kollema::test;
using assembly::LinkKind;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

Requirement gap_between(const std::string& from, const std::string& from_face, const std::string& to,
                        const std::string& to_face, std::optional<Vector2> at = Vector2(0, 0)) {
    return {.name = "Gap", .from = {{from}, {from_face}}, .to = {{to}, {to_face}}, .at = at};
}

Project asking(const Project& p, const Requirement& r) { return must(edit::add_requirement(p, r)); }

Result<assembly::RequirementResult> try_last(const Project& p) {
    return assembly::evaluate(p, must(assembly::place(p)), p.requirements.back());
}
assembly::RequirementResult last(const Project& p) { return must(try_last(p)); }

Project sized(const Project& p, const char* part, const std::string& from, const std::string& to,
              const Vector3& direction, double half) {
    return must(edit::add_dimension(p, {part}, from + " to " + to, {from}, {to}, direction, half, -half));
}

/// Block on plate by pins at these places of the block, every hole ±half from its part's left face, and the
/// distances along y exact.
Project pinned(const std::vector<Vector2>& places, double half, const kind::DowelPin& pin = {}) {
    Project p = must(edit::add_joint(screwed(), on_plate("Dowels", pin, places)));
    for (std::size_t i = 1; i <= places.size(); ++i)
        for (const auto& [part, member] : {std::pair{"block", "1"}, {"plate", "2"}}) {
            const std::string hole = std::string("dowels.") + member + "." + std::to_string(i);
            p = sized(p, part, "left", hole, Vector3::UnitX(), half);
            p = sized(p, part, "front", hole, Vector3::UnitY(), 0);
        }
    return p;
}

double half_worst(const assembly::RequirementResult& r) {
    return (r.worst_case->max - r.worst_case->min) / 2;
}

/// Greatest radius of the slip fit of a ø6 pin: ISO 286-2: F7 +22/+10, m6 +12/+4 µm.
constexpr double slip_radius = (0.022 - 0.004) / 2;

std::map<std::string, double> sensitivities(const assembly::RequirementResult& r) {
    std::map<std::string, double> all;
    for (const auto& link : r.chain.links)
        all[link.name] = link.sensitivity;
    return all;
}

}

TEST_CASE("a hole position that a chain meets at both pins counts once", "[chain]") {
    // Two dowels 40 apart, the gap midway: every hole counts a half.
    const Requirement r = gap_between("block", "left", "plate", "left");
    const auto midway = last(asking(pinned({{-10, -20}, {-10, 20}}, 0.1), r));
    CHECK_THAT(half_worst(midway), WithinAbs(4 * 0.1 / 2 + slip_radius, 1e-6));
    // 30 beyond the second pin: levers 30 over 40, so −0.75 and 1.75; the floats by trying all turns.
    Requirement beyond = r;
    beyond.at = Vector2(50, 0);
    const auto far = last(asking(pinned({{-10, -20}, {-10, 20}}, 0.05), beyond));
    double most = 0;
    for (int i = 0; i <= 2000; ++i) { // along the pins' line the floats share what is left across
        const double along = slip_radius * (i / 1000.0 - 1),
                     across = std::sqrt(std::max(0.0, slip_radius * slip_radius - along * along));
        most = std::max(most, 2.5 * across);
    }
    CHECK_THAT(half_worst(far), WithinAbs(2 * 0.05 * 2.5 + most, 1e-5));
    CHECK_THAT(far.rss.max - far.nominal,
               WithinAbs(std::sqrt(2 * (1.75 * 1.75 + 0.75 * 0.75) * 0.05 * 0.05 +
                                   (1.75 * 1.75 + 0.75 * 0.75) * slip_radius * slip_radius),
                         1e-9));
}

TEST_CASE("yield of two pins' positions is what drawing them gives", "[chain]") {
    Requirement r = gap_between("block", "left", "plate", "left", Vector2(50, 0));
    r.lower_mm = 55 - 0.12;
    r.upper_mm = 55 + 0.12;
    const auto result = last(asking(pinned({{-10, -20}, {-10, 20}}, 0.05), r));
    CHECK_THAT(result.nominal, WithinAbs(55, 1e-9)); // the block's left side stands 55 from the plate's
    std::mt19937 engine(1);
    std::normal_distribution<double> hole(0, 0.05 / 3), clearance(0.008, std::hypot(0.006, 0.004) / 3);
    std::uniform_real_distribution<double> any(-1, 1);
    int inside = 0;
    constexpr int draws = 300'000;
    for (int i = 0; i < draws; ++i) {
        const double first = hole(engine) - hole(engine), second = hole(engine) - hole(engine);
        const double r1 = std::max(0.0, clearance(engine)) / 2, r2 = std::max(0.0, clearance(engine)) / 2;
        double along = 0, y1 = 0, y2 = 0;
        do { // a common place along the line, two across
            along = std::min(r1, r2) * any(engine);
            y1 = r1 * any(engine);
            y2 = r2 * any(engine);
        } while (along * along + y1 * y1 > r1 * r1 || along * along + y2 * y2 > r2 * r2);
        const double gap = 1.75 * (second + y2) - 0.75 * (first + y1);
        inside += std::abs(gap) <= 0.12;
    }
    CHECK_THAT(result.distribution.yield, WithinAbs(inside / static_cast<double>(draws), 0.003));
}

TEST_CASE("the order of places and of joints does not change a gap", "[chain][long]") {
    const Requirement r = gap_between("block", "left", "plate", "left", Vector2(33, 0));
    const std::vector<Vector2> places{{-10, -20}, {12, 25}};
    const auto one = last(asking(pinned(places, 0.07), r)),
               other = last(asking(pinned({places[1], places[0]}, 0.07), r));
    CHECK_THAT(one.worst_case->max, WithinAbs(other.worst_case->max, 1e-9));
    CHECK_THAT(one.rss.max, WithinAbs(other.rss.max, 1e-9));
    // Pins in two joints of their own do what they do in one.
    Project apart = screwed();
    for (const auto& [name, place] : {std::pair{"First", places[0]}, {"Second", places[1]}})
        apart = must(edit::add_joint(apart, on_plate(name, kind::DowelPin{}, {place})));
    for (const auto& [part, member] : {std::pair{"block", ".1.1"}, {"plate", ".2.1"}})
        for (const auto* joint : {"first", "second"}) {
            apart = sized(apart, part, "left", joint + std::string(member), Vector3::UnitX(), 0.07);
            apart = sized(apart, part, "front", joint + std::string(member), Vector3::UnitY(), 0);
        }
    const auto two = last(asking(apart, r));
    CHECK_THAT(two.worst_case->max, WithinAbs(one.worst_case->max, 1e-9));
    CHECK_THAT(two.distribution.sigma, WithinRel(one.distribution.sigma, 0.02));
}

TEST_CASE("a long face is asked at its ends", "[chain]") {
    // Pins 20 apart in the middle of a block 70 wide: its ends lie 35 from the middle.
    Requirement r = gap_between("block", "left", "plate", "left");
    const auto middle = last(asking(pinned({{-10, -10}, {-10, 10}}, 0.1), r));
    r.at.reset();
    const auto ends = last(asking(pinned({{-10, -10}, {-10, 10}}, 0.1), r));
    const double lever = (35 + 10) / 20.0, other = (35 - 10) / 20.0;
    CHECK_THAT(half_worst(middle), WithinAbs(0.2 + slip_radius, 1e-6));
    CHECK(half_worst(ends) > 2 * 0.1 * (lever + other));
    CHECK(half_worst(ends) < 2 * 0.1 * (lever + other) + slip_radius * (lever + other) + 1e-9);
    REQUIRE(ends.chain.place.at.size() >= 2);
    for (const auto& p : ends.chain.place.at)
        CHECK_THAT(std::abs(p.y() - 45), WithinAbs(35, 1e-9));
}

TEST_CASE("one pin and screws: the turn within the screws' clearance is counted", "[chain]") {
    // One dowel at the middle of the block, screws 24 to either side in holes of 6.6 (H13: up to 6.82), M6 6g
    // (5.794 at least): radius 0.513.
    Project p = must(edit::add_joint(plate_and_block(), on_plate("Dowels", kind::DowelPin{}, {{-10, 0}})));
    p = must(edit::add_joint(p, on_plate("Screws", kind::CapScrew{}, {{-10, -24}, {-10, 24}})));
    const auto at = [&](double y) {
        return last(asking(p, gap_between("block", "left", "plate", "left", Vector2(y, 0))));
    };
    const double play = (6.82 - 5.794) / 2;
    const auto plays = [&](const assembly::RequirementResult& r) {
        double sum = 0;
        for (const auto& link : r.chain.links)
            if (link.kind == LinkKind::play) sum += std::abs(link.sensitivity) * link.plus_mm;
        return sum;
    };
    CHECK_THAT(plays(at(0)), WithinAbs(slip_radius, 1e-3));
    // Every shift within the pin's clearance with every turn that both screws allow, tried: the pin is the
    // axis.
    double most = 0;
    for (int i = 0; i <= 200; ++i)
        for (int k = 0; k <= 2000; ++k) {
            const double along = slip_radius * (i / 100.0 - 1), turn = 0.03 * (k / 1000.0 - 1);
            if (std::abs(along + turn * 24) <= play && std::abs(along - turn * 24) <= play)
                most = std::max(most, along + turn * 35);
        }
    // With sizes at nominal: what the worst case holds beyond the sizes' own part.
    const auto sizes_of = [](const assembly::RequirementResult& r) {
        double sum = 0;
        for (const auto& link : r.chain.links)
            if (link.kind != LinkKind::play) sum += std::abs(link.sensitivity) * link.plus_mm;
        return sum;
    };
    const auto exact_holes = [&](Project q) {
        for (const auto& [part, member] : {std::pair{"block", "1"}, {"plate", "2"}})
            for (const auto* hole : {"dowels.", "screws."})
                for (const auto* place : {".1", ".2"}) {
                    if (std::string(hole) == "dowels." && std::string(place) == ".2") continue;
                    const std::string id = hole + std::string(member) + place;
                    q = sized(sized(q, part, "left", id, Vector3::UnitX(), 0), part, "front", id,
                              Vector3::UnitY(), 0);
                }
        return q;
    };
    const auto exact =
        last(asking(exact_holes(p), gap_between("block", "left", "plate", "left", Vector2(35, 0))));
    CHECK_THAT(sizes_of(exact), WithinAbs(0, 1e-9));
    CHECK_THAT(half_worst(exact), WithinAbs(most, 2e-3));
    CHECK(at(35).chain.only_clamps == std::vector<JointId>{{"screws"}});
}

TEST_CASE("a gap along a part's slope is composed of the dimensions there are", "[chain]") {
    // Two blocks turned by 30° on the plate, two pins each; only the plate's holes scatter, along x and y.
    const double turn = std::acos(-1.0) / 6;
    Project p = must(edit::add_part({}, "Plate", Block{300, 200, 20}, "s235", "milled"));
    std::vector<std::string> holes;
    for (const auto& [name, id, at] :
         {std::tuple{"Block A", "block-a", -50.0}, {"Block B", "block-b", 50.0}}) {
        p = must(edit::add_part(p, name, Block{40, 60, 30}, "s235", "milled"));
        const Vector2 place = at * Vector2(std::cos(turn), std::sin(turn));
        p = must(edit::add_joint(p, {.name = std::string("Pins ") + id,
                                     .kind = kind::DowelPin{},
                                     .members = {{{id}, {"top"}, {0, 0}, turn}, {{"plate"}, {"top"}, place}},
                                     .places = {{0, -20}, {0, 20}}}));
        p = must(edit::add_joint(p, {.name = std::string("Screws ") + id,
                                     .kind = kind::CapScrew{},
                                     .members = {{{id}, {"top"}, {0, 0}, turn}, {{"plate"}, {"top"}, place}},
                                     .places = {{10, 0}, {-10, 0}}}));
    }
    const std::vector<std::string> joints{"pins-block-a", "pins-block-b"};
    for (const auto& joint : joints)
        for (const auto* place : {".1", ".2"}) {
            p = sized(p, "plate", "left", joint + ".2" + place, Vector3::UnitX(), 0.1);
            p = sized(p, "plate", "front", joint + ".2" + place, Vector3::UnitY(), 0.04);
            const std::string part = joint.substr(5);
            p = sized(p, part.c_str(), "left", joint + ".1" + place, Vector3::UnitX(), 0);
            p = sized(p, part.c_str(), "front", joint + ".1" + place, Vector3::UnitY(), 0);
        }
    p = sized(p, "block-a", "left", "right", Vector3::UnitX(), 0);
    const auto placement = must(assembly::place(p));
    const Vector3 normal = placement.frames.at({"block-a"}).vector(Vector3::UnitX());
    CHECK_THAT(std::abs(normal.x()), WithinAbs(std::cos(turn), 1e-9)); // they do stand askew
    const auto r = last(asking(p, gap_between("block-a", "right", "block-b", "left")));
    double sizes = 0, plays = 0;
    for (const auto& link : r.chain.links)
        (link.kind == LinkKind::play ? plays : sizes) += std::abs(link.sensitivity) * link.plus_mm;
    // Midway between its pins each block takes half of each; four holes along x and y.
    CHECK_THAT(sizes, WithinAbs(4 * 0.5 * (0.1 * std::abs(normal.x()) + 0.04 * std::abs(normal.y())), 1e-6));
    CHECK(plays < 4 * slip_radius);
}

TEST_CASE("sensitivities are differences of the project with one hole moved", "[chain][long]") {
    // A firm stand (H7 pins in H7 holes leave floats, but these rest in their middle): moving a hole of the
    // block by hand and placing by two points must give what the chain says.
    std::mt19937 engine(4);
    std::uniform_real_distribution<double> any(-1, 1);
    for (int trial = 0; trial < 20 / one_of; ++trial) {
        const Vector2 a(20 * any(engine), -25 + 5 * any(engine)), b(20 * any(engine), 25 + 5 * any(engine));
        const double y = 60 * any(engine);
        const auto r =
            last(asking(pinned({a, b}, 0.05), gap_between("block", "left", "plate", "left", Vector2(y, 0))));
        // Seen from above y runs the other way than in the pattern, which is seen from the head.
        const Vector2 seen_a(a.x(), -a.y()), seen_b(b.x(), -b.y());
        // The block's points a, b are laid on the plate's a', b' by a shift and a turn, as well as both can
        // be.
        const auto gap = [&](const Vector2& block_a, const Vector2& block_b) {
            const Vector2 from = block_b - block_a, to = seen_b - seen_a;
            const double turn = std::atan2(to.y(), to.x()) - std::atan2(from.y(), from.x());
            const Vector2 shift =
                (seen_a + seen_b) / 2 - Eigen::Rotation2Dd(turn) * ((block_a + block_b) / 2);
            // The left face is the line x = −25 of the block; where does it cross the height y?
            const Vector2 on = Eigen::Rotation2Dd(turn) * Vector2(-25, 0) + shift,
                          along = Eigen::Rotation2Dd(turn) * Vector2(0, 1);
            return on.x() + (y - on.y()) / along.y() * along.x();
        };
        const auto s = sensitivities(r);
        constexpr double step = 1e-4;
        const auto slope = [&](int which) {
            const Vector2 d(step, 0);
            return which == 0 ? (gap(seen_a + d, seen_b) - gap(seen_a - d, seen_b)) / (2 * step)
                              : (gap(seen_a, seen_b + d) - gap(seen_a, seen_b - d)) / (2 * step);
        };
        for (const int which : {0, 1}) {
            const std::string name = "Block: left to dowels.1." + std::to_string(which + 1);
            CAPTURE(trial, which, y, a.x(), a.y(), b.x(), b.y());
            const auto found = s.find(name);
            // A hole that stands farther from the left face brings that face nearer: the slope's own sign.
            CHECK_THAT(found == s.end() ? 0 : found->second, WithinAbs(slope(which), 1e-5));
        }
    }
}

TEST_CASE("what scatters is counted, a joint as one, and decides the rule", "[chain]") {
    // Midway between two pins: four holes and one joint; five that scatter.
    const Requirement r = gap_between("block", "left", "plate", "left");
    const auto five = last(asking(pinned({{-10, -20}, {-10, 20}}, 0.1), r));
    CHECK_FALSE(five.decided_by_worst_case);
    CHECK(five.decided_because.find("5 that scatter") != std::string::npos);
    // Holes of ±0 do not count: one joint is left.
    const auto one = last(asking(pinned({{-10, -20}, {-10, 20}}, 0), r));
    CHECK(one.decided_by_worst_case);
    CHECK(one.decided_because.find("1 that scatter") != std::string::npos);
    Requirement statistics = r;
    statistics.decided_by = DecidedBy::statistics;
    CHECK_FALSE(last(asking(pinned({{-10, -20}, {-10, 20}}, 0), statistics)).decided_by_worst_case);
}

TEST_CASE("lower and upper limits are each met and missed, by either rule", "[chain]") {
    // The plate's thickness ±0.1 (σ = 1/30) and nothing else scatters on the way up to the block's top.
    const Project p = sized(sized(screwed(), "plate", "bottom", "top", Vector3::UnitZ(), 0.1), "block",
                            "bottom", "top", Vector3::UnitZ(), 0);
    struct Row {
        std::optional<double> lower, upper;
        bool worst_case_met, statistics_met;
    };
    // P(beyond 2.7σ one side) = 0.35 %, so a yield of 0.9973 is missed; beyond 3σ 0.135 %, met.
    for (const auto& row :
         {Row{49.9, {}, true, true}, Row{49.91, {}, false, false}, Row{{}, 50.1, true, true},
          Row{{}, 50.09, false, false}, Row{49.9, 50.1, true, true}, Row{49.907, {}, false, true},
          Row{{}, 50.093, false, true}, Row{49.905, 50.095, false, false}})
        for (const auto rule : {DecidedBy::worst_case, DecidedBy::statistics}) {
            Requirement r = gap_between("plate", "bottom", "block", "top");
            r.lower_mm = row.lower;
            r.upper_mm = row.upper;
            r.decided_by = rule;
            CAPTURE(row.lower.value_or(0), row.upper.value_or(0), rule == DecidedBy::worst_case);
            CHECK(last(asking(p, r)).met ==
                  (rule == DecidedBy::worst_case ? row.worst_case_met : row.statistics_met));
        }
}

TEST_CASE("faces that look away from each other give their distance, a press fit stays negative", "[chain]") {
    const Project p = screwed();
    CHECK_THAT(last(asking(p, gap_between("plate", "bottom", "block", "top"))).nominal, WithinAbs(50, 1e-9));
    CHECK_THAT(last(asking(p, gap_between("block", "top", "plate", "bottom"))).nominal, WithinAbs(50, 1e-9));
    // A block beside another that reaches 0.2 into it.
    Project beside = must(edit::add_part(p, "Stop", Block{30, 70, 30}, "s235", "milled"));
    Joint stop = on_plate("Stop screws", kind::CapScrew{}, {{0, -24}, {0, 24}}, {-40 + 0.2, 0});
    stop.members[0].instance = {"stop"};
    beside = must(edit::add_joint(beside, stop));
    CHECK_THAT(last(asking(beside, gap_between("stop", "right", "block", "left"))).nominal,
               WithinAbs(-0.2, 1e-9));
}

TEST_CASE("a gap goes through what locates, and says when only clamping holds", "[chain]") {
    const Requirement r = gap_between("block", "left", "plate", "left");
    const auto clamped = last(asking(screwed(), r)), located = last(asking(doweled(screwed()), r));
    CHECK(clamped.chain.only_clamps == std::vector<JointId>{{"screws"}});
    CHECK(located.chain.only_clamps.empty());
    CHECK(located.chain.joints == std::vector<JointId>{{"dowels"}});
    // Two screws in medium holes midway: the greatest shift is one screw's radius.
    double plays = 0;
    for (const auto& link : clamped.chain.links)
        if (link.kind == LinkKind::play) plays += link.sensitivity * link.plus_mm;
    CHECK_THAT(plays, WithinAbs((6.82 - 5.794) / 2, 1e-3)); // ISO 273 medium H13, ISO 965-1 6g
    for (const auto& link : last(asking(screwed(), gap_between("plate", "top", "block", "top"))).chain.links)
        CHECK(link.kind != LinkKind::play); // along the screws the faces seat on each other
    const auto loose = try_last(asking(plate_and_block(), r));
    REQUIRE_FALSE(loose);
    CHECK(loose.error().why.find("joined to nothing") != std::string::npos);
    const auto askew = try_last(asking(screwed(), gap_between("plate", "left", "block", "front")));
    REQUIRE_FALSE(askew);
    CHECK(askew.error().why.find("parallel") != std::string::npos);
    CHECK_FALSE(try_last(
        asking(doweled(plate_and_block()), gap_between("plate", "top", "block", "top")))); // pins slip
}

TEST_CASE("a bolt floats in both parts, a screw in one", "[chain][long]") {
    const Requirement r = gap_between("block", "left", "plate", "left");
    const Project bolted = must(edit::add_joint(
        plate_and_block(), on_plate("Bolts", kind::BoltWithNut{.thread = "M6"}, {{0, -24}, {0, 24}})));
    const auto reach = [](const assembly::RequirementResult& result) {
        double plays = 0;
        for (const auto& link : result.chain.links)
            if (link.kind == LinkKind::play) plays += link.sensitivity * link.plus_mm;
        return plays;
    };
    const double one = reach(last(asking(screwed(), r)));
    CHECK_THAT(reach(last(asking(bolted, r))), WithinRel(2 * one, 1e-3)); // both M6 in medium holes
    // ISO 965-1, M6: pitch diameter of 6H up to 5.500, of 6g from 5.212; a nut is free to follow its bolt.
    const auto tells = [&](const Project& p, const char* what) {
        const auto remarks = last(asking(p, r)).chain.remarks;
        return std::ranges::any_of(remarks,
                                   [&](const std::string& text) { return text.find(what) != text.npos; });
    };
    CHECK(tells(screwed(), "±0.144 mm"));
    CHECK_FALSE(tells(bolted, "centred in their threads"));
}

TEST_CASE("of a gap's points the one farthest beyond a limit answers, whichever limit it is",
          "[chain][long]") {
    // A block turned by what its two pins' holes differ: at one end the gap opens as it closes at the other.
    Project p = pinned({{-10, -10}, {-10, 10}}, 0.1);
    for (const char* part : {"block", "plate"}) { // the second pin's holes are held closer
        const Part before = *find(p, PartId{part});
        for (const auto& d : before.dimensions)
            if (d.name.starts_with("left to") && d.name.ends_with(".2"))
                p = must(edit::set_dimension_tolerance(p, {part}, d.id, 0.01, -0.01));
    }
    Requirement r = gap_between("plate", "left", "block", "left");
    const auto at = [&](std::optional<double> lower, std::optional<double> upper,
                        std::optional<Vector2> point) {
        r.lower_mm = lower;
        r.upper_mm = upper;
        r.at = point;
        return last(asking(p, r));
    };
    const auto free = at({}, {}, {});
    REQUIRE(free.chain.place.at.size() >= 2);
    double least = 1e9, greatest = -1e9, widest = 0;
    for (const auto& point : free.chain.place.at) { // each end asked alone
        const auto one = at({}, {}, Vector2(point.y() - 45, point.z() - 10));
        least = std::min(least, one.worst_case->min);
        greatest = std::max(greatest, one.worst_case->max);
        widest = std::max(widest, one.worst_case->max - one.worst_case->min);
    }
    CHECK_THAT(free.worst_case->max - free.worst_case->min, WithinAbs(widest, 1e-9));
    const auto other = at({}, {}, Vector2(45 - free.chain.place.at[free.chain.worst_point].y(), 0));
    CHECK(other.worst_case->max < greatest - 0.05); // the ends differ
    CHECK_THAT(at({}, free.nominal, {}).worst_case->max, WithinAbs(greatest, 1e-9));
    CHECK_THAT(at(free.nominal, {}, {}).worst_case->min, WithinAbs(least, 1e-9));
}

TEST_CASE("where the fasteners rest is the requirement's choice", "[chain][long]") {
    Requirement r = gap_between("block", "left", "plate", "left");
    const auto resting = [&](Resting how) {
        r.resting = how;
        return last(asking(screwed(), r));
    };
    const auto chance = resting(Resting::chance), centred = resting(Resting::centred),
               wider = resting(Resting::to_wider), closer = resting(Resting::to_closer);
    CHECK(centred.distribution.sigma < 0.5 * chance.distribution.sigma);
    CHECK_THAT(centred.distribution.mean, WithinAbs(chance.nominal, 1e-9));
    // At nominal by the radius: hole 6.6…6.82, screw 5.794…5.974 about their middles.
    const double radius = (6.71 - 5.884) / 2;
    CHECK_THAT(wider.chain.answers[0].nominal - chance.nominal, WithinAbs(radius, 1e-6));
    CHECK_THAT(closer.chain.answers[0].nominal - chance.nominal, WithinAbs(-radius, 1e-6));
    // As made the two screws stand off each other along their line, and none reaches its rim straight ahead;
    // midway between them the block goes half of both.  ISO 2768-m: 11 and 21 ± 0.2, 59 and 69 ± 0.3.
    std::mt19937 random(7);
    std::normal_distribution<double> normal;
    double sum = 0;
    int count = 0;
    for (int i = 0; i < 40'000; ++i) {
        std::array<double, 2> room{}, d{};
        for (std::size_t k = 0; k < 2; ++k) {
            room[k] = radius + (0.11 * normal(random) + 0.09 * normal(random)) / 6;
            d[k] = (k == 0 ? 0.2 : 0.3) / 3 * (normal(random) - normal(random));
        }
        double least = std::max(-room[0] - d[0], -room[1] - d[1]),
               most = std::min(room[0] - d[0], room[1] - d[1]);
        if (least > most) continue; // these do not go in
        const auto goes = [&](double y) {
            return (std::sqrt(std::max(0.0, room[0] * room[0] - (y + d[0]) * (y + d[0]))) +
                    std::sqrt(std::max(0.0, room[1] * room[1] - (y + d[1]) * (y + d[1])))) /
                   2;
        };
        for (int step = 0; step < 60; ++step) {
            const double third = (most - least) / 3;
            if (goes(least + third) < goes(most - third))
                least += third;
            else
                most -= third;
        }
        sum += goes((least + most) / 2);
        ++count;
    }
    CHECK_THAT(wider.distribution.mean - chance.nominal, WithinAbs(sum / count, 1.5e-3));
    CHECK_THAT(closer.distribution.mean - chance.nominal, WithinAbs(-sum / count, 1.5e-3));
    CHECK_THAT(wider.worst_case->max, WithinAbs(chance.worst_case->max, 1e-3));
}

TEST_CASE("toleranced dimensions are preferred to general tolerances", "[chain]") {
    const Requirement r = gap_between("block", "left", "plate", "left");
    const auto kinds = [](const assembly::RequirementResult& result) {
        std::map<LinkKind, int> count;
        for (const auto& link : result.chain.links)
            ++count[link.kind];
        return count;
    };
    Project p = doweled(screwed());
    CHECK(kinds(last(asking(p, r)))[LinkKind::dimension] == 0);
    CHECK(kinds(last(asking(p, r)))[LinkKind::general] == 4);
    p = must(edit::add_dimension(p, {"block"}, "hole to face", {"dowels.1.1"}, {"left"}, Vector3::UnitX(),
                                 0.05, -0.01));
    const auto after = last(asking(p, r));
    CHECK(kinds(after)[LinkKind::dimension] == 1);
    CHECK(kinds(after)[LinkKind::general] == 3);
    const auto link = std::ranges::find(after.chain.links, LinkKind::dimension, &assembly::Link::kind);
    CHECK_THAT(link->nominal_mm, WithinAbs(-15, 1e-12)); // read off the features: 10 − 25
    CHECK_THAT(link->sensitivity,
               WithinAbs(0.5, 1e-9)); // the face follows the dimension, half of it at this pin
}

TEST_CASE("joints say what they locate, clamp and leave free", "[chain]") {
    using enum assembly::Hold;
    const Project p = doweled(screwed());
    const auto hold = [](const Project& q, std::size_t joint) {
        return *assembly::hold_of(q, must(assembly::place(q)), q.joints[joint]);
    };
    const auto screws = hold(p, 0), dowels = hold(p, 1);
    CHECK(screws.motions == std::array{clamped, clamped, located, located, located, clamped});
    CHECK(dowels.motions ==
          std::array{located, located, free, free, free, located}); // pins slip along themselves
    // (6.6 + 0.22 − 5.794) / 2 by ISO 273, H13 of ISO 286-1, 6g of ISO 965-1; the pin's slip fit.
    CHECK_THAT(screws.play_mm, WithinAbs(0.513, 1e-3));
    CHECK_THAT(dowels.play_mm, WithinAbs(slip_radius, 1e-6));
    const auto one = hold(must(edit::set_places(p, {"dowels"}, {{0, 0}})), 1);
    CHECK(one.motions == std::array{located, located, free, free, free, free});
    // In the assembly: nothing moves once it is tight; before that the dowels leave it to slide off only.
    const auto holding = assembly::holding_of(p, must(assembly::place(p)));
    CHECK(holding.mobility == 0);
    CHECK(holding.redundancy == 1); // the pins' distance
    CHECK(holding.redundant == std::vector<std::string>{"Dowels 1 in Block", "Dowels 2 in Block"});
    REQUIRE(holding.parts.size() == 2);
    CHECK_FALSE(holding.parts[1].by_friction);
    CHECK(assembly::holding_of(screwed(), must(assembly::place(screwed()))).parts[1].by_friction);
    CHECK(assembly::holding_of(plate_and_block(), must(assembly::place(plate_and_block()))).mobility == 6);
}

TEST_CASE("the ends of what two faces have in common", "[shape]") {
    const std::vector<Vector2> square{{0, 0}, {10, 0}, {10, 10}, {0, 10}};
    const auto area = [](const std::vector<Vector2>& p) {
        double sum = 0;
        for (std::size_t i = 0; i < p.size(); ++i)
            sum += p[i].x() * p[(i + 1) % p.size()].y() - p[i].y() * p[(i + 1) % p.size()].x();
        return std::abs(sum) / 2;
    };
    CHECK_THAT(area(overlap(square, {{5, 5}, {15, 5}, {15, 15}, {5, 15}})), WithinAbs(25, 1e-9));
    CHECK_THAT(area(overlap(square, {{5, 15}, {15, 15}, {15, 5}, {5, 5}})),
               WithinAbs(25, 1e-9)); // the other way round
    CHECK(overlap(square, {{11, 0}, {20, 0}, {20, 10}, {11, 10}}).empty());
    // A turned square against points thrown at both.
    std::mt19937 engine(3);
    std::uniform_real_distribution<double> any(0, 10);
    const std::vector<Vector2> turned{{5, -2}, {12, 5}, {5, 12}, {-2, 5}};
    int hits = 0;
    constexpr int throws = 200'000;
    for (int i = 0; i < throws; ++i)
        hits += std::abs(any(engine) - 5) + std::abs(any(engine) - 5) <= 7;
    CHECK_THAT(area(overlap(square, turned)), WithinAbs(100.0 * hits / throws, 0.5));
}

TEST_CASE("where no assembly goes together there is no gap, and it is said", "[chain]") {
    // The block's holes stand 0.3 farther apart than the plate's, far beyond what the pins' slip fits leave.
    const auto off_by = [](double off) {
        Project p = doweled(screwed());
        for (const auto& [part, hole, more] : {std::tuple{"block", "dowels.1.1", 0.0},
                                               {"block", "dowels.1.2", off},
                                               {"plate", "dowels.2.1", 0.0},
                                               {"plate", "dowels.2.2", 0.0}}) {
            p = sized(p, part, "left", hole, Vector3::UnitX(), 0.01);
            p = must(edit::add_dimension(p, {part}, "along", {"front"}, {hole}, Vector3::UnitY(),
                                         more + 0.001, more - 0.001));
        }
        return asking(p, gap_between("block", "left", "plate", "left"));
    };
    const auto none = last(off_by(0.3));
    REQUIRE(none.drawn);
    CHECK(none.drawn->none_goes_together());
    CHECK_FALSE(none.met);
    CHECK_FALSE(none.undecided);
    CHECK(none.decided_because.find("no assembly goes together") != std::string::npos);
    const auto told = must(check::all_rules(off_by(0.3)));
    const auto misfit = std::ranges::find(told, "misfit", &check::Finding::rule);
    REQUIRE(misfit != told.end());
    // 0.3, and three times √4·0.001/3.
    CHECK(in_words(misfit->because).find("+302 µm (mean and 3 sigma)") != std::string::npos);
    // Holes that agree leave the gap its figures.
    const auto all = last(off_by(0));
    CHECK_FALSE((all.drawn && all.drawn->none_goes_together()));
    CHECK(all.worst_case);
}
