#pragma once
// A small assembly that many tests start from: a block on a plate, each test with its own joints.
#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include <catch2/catch.hpp>

namespace kollema::test {

template <class T>
T must(Result<T> result) {
    if (!result) FAIL(in_one_line(result.error()));
    return std::move(*result);
}

/// Plate 160 × 90 × 20 of steel, grounded, and block 50 × 70 × 30 of steel.
inline Project plate_and_block(const std::string& material = "s235") {
    Project p = must(edit::add_block({}, "Plate", {160, 90, 20}, material, "milled"));
    return must(edit::add_block(p, "Block", {50, 70, 30}, "s235", "milled"));
}

inline Joint on_plate(const std::string& name, JointKind kind, std::vector<Vector2> places,
                      Vector2 at = {0, 0}) {
    return {.name = name,
            .kind = std::move(kind),
            .members = {{{"block"}, {"top"}}, {{"plate"}, {"top"}, at}},
            .places = std::move(places)};
}

inline Project screwed(const CapScrewJoint& screw = {}, const std::string& material = "s235") {
    return must(edit::add_joint(plate_and_block(material), on_plate("Screws", screw, {{0, -24}, {0, 24}})));
}

inline Project doweled(const Project& project, const DowelPinJoint& dowel = {}) {
    return must(edit::add_joint(project, on_plate("Dowels", dowel, {{-10, -20}, {-10, 20}})));
}

inline Project demo() { return must(file::load(KOLLEMA_SOURCE_DIR "/data/demo/fruit-sorter.kollema")); }

}
