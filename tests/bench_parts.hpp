#pragma once
// A small assembly that many tests start from: a block on a plate, each test with its own joints.
#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include "joint/design.hpp"
#include "one_of.hpp"
#include "places.hpp"
#include <algorithm>
#include <catch2/catch.hpp>

namespace kollema::test {

template <class T>
T must(Result<T> result) {
    if (!result) FAIL(in_one_line(result.error()));
    return std::move(*result);
}

/// Plate 160 × 90 × 20 of steel, grounded, and block 50 × 70 × 30 of steel.
inline Project plate_and_block(const std::string& material = "s235") {
    Project p = must(edit::add_part({}, "Plate", Block{160, 90, 20}, material, "milled"));
    return must(edit::add_part(p, "Block", Block{50, 70, 30}, "s235", "milled"));
}

inline Joint on_plate(const std::string& name, kind::AnyKind kind, std::vector<Vector2> places,
                      Vector2 at = {0, 0}) {
    return {.name = name,
            .kind = std::move(kind),
            .members = {{{"block"}, {"top"}}, {{"plate"}, {"top"}, at}},
            .places = std::move(places)};
}

inline Project screwed(const kind::CapScrew& screw = {}, const std::string& material = "s235") {
    return must(edit::add_joint(plate_and_block(material), on_plate("Screws", screw, {{0, -24}, {0, 24}})));
}

inline Project doweled(const Project& project, const kind::DowelPin& dowel = {}) {
    return must(edit::add_joint(project, on_plate("Dowels", dowel, {{-10, -20}, {-10, 20}})));
}

inline Project demo() { return must(file::load(in_source("data/demo/fruit-sorter.kollema"))); }

inline Project with(const Project& p, const char* joint, const char* key, const Value& value) {
    return must(edit::set_parameter(p, {joint}, key, value));
}

inline kind::Design designed(const Project& p, std::size_t joint = 0) {
    return must(joint::design(p, p.joints[joint]));
}

/// A figure of a design by its key; of a range the least.
inline double outcome(const kind::Design& design, const std::string& key) {
    const auto found = std::ranges::find(design.outcomes, key, &kind::Outcome::key);
    REQUIRE(found != design.outcomes.end());
    return found->least;
}

/// What a parameter of a kind may be.
inline std::vector<Value> choices(const char* kind, const std::string& key) {
    const auto all = kind::parameters(must(kind::kind_named(kind)));
    return std::ranges::find(all, key, &Parameter::key)->domain.choices;
}

inline double length_of(const kind::Design& design) { return design.pieces.front().length_mm; }

}
