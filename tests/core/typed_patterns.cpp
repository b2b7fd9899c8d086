// Hole patterns as they are typed, cell by cell.
#include "edit/pattern_edits.hpp"
#include "file/pattern_json.hpp"
#include "file/project_file.hpp"
#include "one_of.hpp"

using namespace kollema;
using Catch::Matchers::WithinAbs;
using pattern::Typed;
using pattern::TypedHoles;
using pattern::TypedMember;

namespace {

TypedMember member(std::vector<std::string> cells) {
    cells.resize(6);
    return {cells[0], cells[1], cells[2], cells[3], cells[4], cells[5]};
}
TypedHoles at(std::vector<std::string> cells) {
    cells.resize(6);
    return {cells[0], cells[1], cells[2], cells[3], cells[4], cells[5]};
}

/// Four screws M6, a cover with medium holes, a body with threads.
Typed cover() {
    return {.members = {member({"", "screw", "fastener", "M6"}),
                        member({"", "cover", "", "medium", "", "0.3"}),
                        member({"", "body", "tapped", "", "", "0.2"})},
            .holes = {at({"", "", "", "4", "60", "45"})}};
}

Result<pattern::ReadPattern> read_mm(const Typed& typed) { return pattern::read_typed(typed, {}); }

/// The whole message of a typed pattern that cannot be read.
std::string refusal(const Typed& typed) {
    const auto read = read_mm(typed);
    REQUIRE_FALSE(read);
    CHECK(read.error().kind == FailureKind::file);
    CHECK_FALSE(read.error().remedy.empty());
    return read.error().what + ": " + read.error().why;
}

}

TEST_CASE("a typed pattern has the sizes of the standards", "[pattern][typed]") {
    const auto read = read_mm(cover());
    REQUIRE(read);
    CHECK(read->plates == std::vector<std::string>{"cover", "body"});
    REQUIRE(read->pattern.groups.size() == 1);
    const auto& group = read->pattern.groups.front();
    // ISO 965-2, table of bolt threads 6g: major diameter of M6 from 5.794 to 5.974.
    CHECK_THAT(group.fastener.max_mm(), WithinAbs(5.974, 1e-9));
    CHECK_THAT(group.fastener.min_mm(), WithinAbs(5.794, 1e-9));
    // ISO 273, medium: 6.6; ISO 286-1, IT13 over 6 to 10: 0.22.
    CHECK_THAT(group.plates[0].hole.min_mm(), WithinAbs(6.6, 1e-9));
    CHECK_THAT(group.plates[0].hole.max_mm(), WithinAbs(6.82, 1e-9));
    CHECK(group.plates[0].position_mm == 0.3);
    CHECK(group.plates[1].threaded);
    CHECK(group.plates[1].position_mm == 0.2);
    // Four on a circle of 60: a square whose side is 60/√2.
    REQUIRE(group.holes.size() == 4);
    CHECK_THAT(group.holes[0].x(), WithinAbs(30 / std::sqrt(2), 1e-12));
    for (std::size_t i = 0; i < 4; ++i)
        CHECK_THAT((group.holes[i] - group.holes[(i + 1) % 4]).norm(), WithinAbs(60 / std::sqrt(2), 1e-12));
}

TEST_CASE("what is typed is what a file of numbers says, bit for bit", "[pattern][typed]") {
    const Typed typed{
        .members = {member({"screws", "", "fastener", "6", "0/-0.2"}),
                    member({"", "plate", "hole", "6.6", "+0.15 0", "ø0.8 M"}),
                    member({"", "base", "tapped engaged 12 above 10", "", "", "0.2"}),
                    member({"dowels", "", "flattened 2 at 90 deg", "1/4 in", "±0.004"}),
                    member({"", "plate", "slot 9 mm at 30", "6.4", "H7", "0.05"}),
                    member({"", "base", "tapped", "", "", "0.04"})},
        .holes = {at({"", "10", "-20"}), at({"", "-10 + 2", "1 cm"}), at({"dowels", "30", "5"})},
        .may_move = false,
        .positions = pattern::Spread::normal};
    Typed same = typed; // the word for what is carried does not matter
    same.members[5].what = "pressed";
    same.members[3].what = "fastener";
    same.members[3].size = "6.35";
    const auto json = file::read_pattern(
        R"({"fastener":{"diameter":6,"plus":0,"minus":-0.2},"holes":[[10,-20],[-8,10]],
            "plates":[{"diameter":6.6,"plus":0.15,"position":0.8,"bonus":true},
                      {"thread":true,"position":0.2,"engaged":12,"standing_out":10}],
            "beside":[{"fastener":{"diameter":6.35,"plus":0.004,"minus":-0.004},"holes":[[30,5]],
                       "plates":[{"diameter":6.4,"plus":0.015,"position":0.05,"slot":{"length":9,"direction":30}},
                                 {"press":true,"position":0.04}]}],
            "located":"fixed","position_distribution":"normal"})",
        "pattern.json");
    REQUIRE(json);
    const auto read = read_mm(same);
    REQUIRE(read);
    const stack::Sampling sampling{.samples = 40'000};
    const auto a = *pattern::simulate(read->pattern, sampling), b = *pattern::simulate(*json, sampling);
    CHECK(a.yield == b.yield);
    CHECK(a.yield > 0.01);
    CHECK(a.yield < 0.99);
    CHECK(pattern::virtual_condition_mm(read->pattern.groups[0], 1) ==
          pattern::virtual_condition_mm(json->groups[0], 1));
    REQUIRE(a.governing.size() == b.governing.size());
    for (std::size_t i = 0; i < a.governing.size(); ++i)
        CHECK(a.governing[i].share == b.governing[i].share);
    // A flattened dowel stands in round holes only.
    CHECK(refusal(typed).find("its holes are round") != std::string::npos);
}

TEST_CASE("a pattern in inches is the one in millimetres", "[pattern][typed]") {
    Typed inches = cover();
    inches.members[0] = member({"", "screw", "fastener", "1/4-20"});
    inches.members[1].position = "0.01";
    inches.members[2].position = "0.25 mm";
    inches.holes = {at({"", "1", "1/2", "3", "2"})};
    const auto read = pattern::read_typed(inches, {.bare = LengthUnit::inch});
    REQUIRE(read);
    const auto& g = read->pattern.groups.front();
    // ASME B18.2.8, normal: 0.281 for 1/4; ASME B1.1: 1/4-20 UNC-2A, major diameter 0.2408 to 0.2489.
    CHECK_THAT(g.plates[0].hole.min_mm(), WithinAbs(0.281 * 25.4, 1e-9));
    CHECK_THAT(g.fastener.max_mm(), WithinAbs(0.2489 * 25.4, 0.5e-4 * 25.4));
    CHECK_THAT(g.fastener.min_mm(), WithinAbs(0.2408 * 25.4, 0.5e-4 * 25.4));
    CHECK_THAT(g.plates[0].position_mm, WithinAbs(0.254, 1e-12));
    CHECK(g.plates[1].position_mm == 0.25);
    CHECK_THAT(g.holes[0].x(), WithinAbs(50.8, 1e-12));
    CHECK_THAT(g.holes[0].y(), WithinAbs(12.7, 1e-12));
}

TEST_CASE("each cell that cannot be read is told by its row and column", "[pattern][typed]") {
    struct Wrong {
        std::size_t row;
        std::string TypedMember::*cell;
        const char *typed, *told;
    };
    for (const auto& w : std::initializer_list<Wrong>{
             {0, &TypedMember::size, "", "members, row 1, size: the cell is empty"},
             {0, &TypedMember::size, "six", "members, row 1, size: "},
             {0, &TypedMember::size, "6", "members, row 1, limits: the cell is empty"},
             {0, &TypedMember::limits, "6q", "members, row 1, limits: "},
             {0, &TypedMember::what, "bolt", "members, row 1, what: "},
             {0, &TypedMember::what, "fastener 6", "members, row 1, what: "},
             {0, &TypedMember::what, "flattened", "members, row 1, what: "},
             {1, &TypedMember::what, "fastener", "members, row 2, what: its group has a fastener already"},
             {1, &TypedMember::what, "slot 8 at", "members, row 2, what: "},
             {1, &TypedMember::what, "slot at 90", "members, row 2, what: "},
             {1, &TypedMember::what, "slot 8 above 9", "members, row 2, what: "},
             {1, &TypedMember::size, "", "members, row 2, size: the cell is empty"},
             {1, &TypedMember::size, "wide", "members, row 2, size: "},
             {1, &TypedMember::size, "7", "members, row 2, limits: the cell is empty"},
             {1, &TypedMember::limits, "+0.1 wide", "members, row 2, limits: "},
             {1, &TypedMember::position, "-", "members, row 2, position: "},
             {1, &TypedMember::position, "-0.1", "plate 1: its position tolerance is below zero"},
             {1, &TypedMember::group, "others", "other"},
             {1, &TypedMember::what, "slot 8 slot 9", "members, row 2, what: "},
             {2, &TypedMember::what, "tapped engaged 12", "members, row 3, what: "},
             {2, &TypedMember::size, "M8", "members, row 3, size: this is not the size"},
             {2, &TypedMember::limits, "H13", "members, row 3, limits: a hole that carries"},
             {2, &TypedMember::position, "0.2 M", "members, row 3, position: a zone grows"}}) {
        Typed typed = cover();
        typed.members[w.row].*w.cell = w.typed;
        CAPTURE(w.row, w.typed);
        if (std::string_view(w.told) == "other")
            CHECK(refusal(typed).find("there is no fastener") != std::string::npos);
        else
            CHECK(refusal(typed).find(w.told) != std::string::npos);
    }
    for (const auto& [cells, told] : std::initializer_list<std::pair<std::vector<std::string>, const char*>>{
             {{"screws"}, "holes, row 2, group: no member is of \"screws\""},
             {{"", "left"}, "holes, row 2, x: "},
             {{"", "", "1 kg"}, "holes, row 2, y: "},
             {{"", "", "", "0"}, "holes, row 2, count: a whole number"},
             {{"", "", "", "2.5", "10"}, "holes, row 2, count: a whole number"},
             {{"", "", "", "1001", "10"}, "holes, row 2, count: a whole number"},
             {{"", "", "", "1e9", "10"}, "holes, row 2, count: a whole number"},
             {{"", "", "", "2"}, "holes, row 2, count: several holes"},
             {{"", "", "", "2", "-10"}, "holes, row 2, circle: "},
             {{"", "", "", "2", "10", "north"}, "holes, row 2, first: "}}) {
        Typed typed = cover();
        typed.holes.push_back(at(cells));
        CHECK(refusal(typed).find(told) != std::string::npos);
    }
    Typed twice = cover();
    twice.holes.push_back(at({"", "", "", "1", "60", "135"}));
    CHECK(refusal(twice).find("in one place") != std::string::npos);
    CHECK(refusal({}).find("there are none") != std::string::npos);
    Typed nowhere = cover();
    nowhere.holes.clear();
    CHECK(refusal(nowhere) == "holes: there are none");
    Typed many = cover();
    many.holes = {at({"", "", "", "1000", "900"})};
    CHECK(read_mm(many)->pattern.holes().size() == 1000);
}

TEST_CASE("a class of clearance is taken by the first fasteners' round holes alone", "[pattern][typed]") {
    Typed typed = cover();
    typed.members.push_back(member({"dowels", "", "fastener", "6", "m6"}));
    typed.members.push_back(member({"", "cover", "hole", "6.1", "H7", "0.05"}));
    typed.members.push_back(member({"", "body", "pressed", "", "", "0.05"}));
    typed.holes.push_back(at({"dowels", "40"}));
    const auto after = read_mm(pattern::with_class(typed, "coarse"));
    REQUIRE(after);
    // ISO 273, coarse: 7; ISO 286-1, IT14 over 6 to 10: 0.36.
    CHECK_THAT(after->pattern.groups[0].plates[0].hole.min_mm(), WithinAbs(7, 1e-9));
    CHECK_THAT(after->pattern.groups[0].plates[0].hole.max_mm(), WithinAbs(7.36, 1e-9));
    CHECK(after->pattern.groups[1].plates[0].hole.nominal_mm == 6.1);
    Typed limited = cover();
    limited.members[1].limits = "+0.1 0";
    limited.members[1].what = "hole";
    const auto kept = read_mm(pattern::with_class(limited, "fine"));
    CHECK_THAT(kept->pattern.groups[0].plates[0].hole.max_mm(), WithinAbs(6.5, 1e-9));
    Typed slotted = cover();
    slotted.members[1] = member({"", "cover", "slot 9", "6.6", "H13"});
    CHECK(pattern::with_class(slotted, "coarse") == slotted);
}

TEST_CASE("plates of further groups are found by name, whatever their order and letters",
          "[pattern][typed]") {
    Typed typed = cover();
    typed.members.push_back(member({"dowels", "", "Fastener", "6", "m6"}));
    typed.members.push_back(member({"", "cover", "Hole", "6.1", "H7", "0.05"}));
    typed.members.push_back(member({"", "body", "Pressed", "", "", "0.04"}));
    typed.holes.push_back(at({"dowels", "40"}));
    const auto in_order = read_mm(typed);
    REQUIRE(in_order);
    std::swap(typed.members[4], typed.members[5]);
    typed.members[1].size = "Medium";
    const auto turned = read_mm(typed);
    REQUIRE(turned);
    for (const auto* read : {&*in_order, &*turned}) {
        CHECK_FALSE(read->pattern.groups[1].plates[0].threaded);
        CHECK(read->pattern.groups[1].plates[1].threaded);
        CHECK(read->pattern.groups[1].plates[1].position_mm == 0.04);
    }
    typed.members[4].name = "";
    CHECK(refusal(typed).find("row of its plate already") !=
          std::string::npos); // it is the first, as is the cover
    typed.members[4].name = "frame";
    CHECK(refusal(typed).find("members, row 5, name: the first fasteners join no plate") !=
          std::string::npos);
    typed.members.erase(typed.members.begin() + 4);
    CHECK(refusal(typed).find("dowels: it has no row of plate 2 body") != std::string::npos);
}

TEST_CASE("typed patterns are added, changed, taken out, and stand in the file", "[file][pattern][typed]") {
    Project project;
    project.name = "cover";
    const TypedPattern typed{.id = {}, .name = "Cover", .unit = LengthUnit::inch, .typed = cover()};
    project = edit::add_pattern(project, typed);
    project = edit::add_pattern(project, typed);
    REQUIRE(project.patterns.size() == 2);
    const auto first = project.patterns.front().id, second = project.patterns.back().id;
    CHECK(first != second);
    TypedPattern changed = project.patterns.back();
    changed.typed.may_move = false;
    changed.typed.sizes = pattern::Spread::normal;
    project = *edit::change_pattern(project, changed);
    CHECK(*find(project, second) == changed);
    CHECK(find(project, first)->typed == cover());
    const std::string text = file::to_json(project);
    const auto read = file::from_json(text, "cover.kollema");
    REQUIRE(read);
    CHECK(*read == project);
    // Broken: an id twice, an unknown key, a word that is none, a cell that is no text.
    const auto broken = [&](const std::string& from, const std::string& to) {
        std::string bad = text;
        const auto where = bad.find(from);
        REQUIRE(where != std::string::npos);
        bad.replace(where, from.size(), to);
        const auto result = file::from_json(bad, "cover.kollema");
        REQUIRE_FALSE(result);
        CHECK(result.error().kind == FailureKind::file);
    };
    broken(fmt::format("\"{}\"", second.text), fmt::format("\"{}\"", first.text));
    broken("\"members\"", "\"parts\"");
    broken("\"fixed\"", "\"nailed\"");
    broken("\"60\"", "60");
    const auto gone = edit::remove_pattern(project, first);
    REQUIRE(gone);
    CHECK(gone->patterns.size() == 1);
    CHECK_FALSE(edit::remove_pattern(*gone, first));
    changed.id = {"nobody"};
    CHECK_FALSE(edit::change_pattern(project, changed));
}
