// General data of Debian's packages as another road to our tables: kicad-footprints (holes and heads of
// electronic mounting holes) and units (drill and screw gauges).  Where a package is missing its test says
// that it was skipped.
#include "standards/catalogue.hpp"
#include "standards/holes.hpp"
#include "standards/table.hpp"
#include "standards/threads.hpp"
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>

using namespace kollema;
using namespace kollema::standards;
using Catch::Matchers::WithinAbs;

namespace {

std::string text_of(const std::filesystem::path& path) {
    std::ifstream stream(path);
    return {std::istreambuf_iterator<char>(stream), {}};
}

/// Numbers or letters of the drill gauge with their diameters in inches.
std::map<std::string, double> drills_of_units(const std::string& definitions) {
    std::map<std::string, double> drills;
    const auto begin = definitions.find("\ndrillgauge[in]"), end = definitions.find("\n\n", begin);
    const std::string numbers = definitions.substr(begin, end - begin);
    const std::regex number_line(R"(\n\s+(\d+)\s+([\d.]+))"), letter_line(R"(\ndrill([A-Z])\s+([\d.]+) in)");
    for (std::sregex_iterator m(numbers.begin(), numbers.end(), number_line), none; m != none; ++m)
        drills["#" + (*m)[1].str()] = std::stod((*m)[2]);
    for (std::sregex_iterator m(definitions.begin(), definitions.end(), letter_line), none; m != none; ++m)
        drills[(*m)[1]] = std::stod((*m)[2]);
    return drills;
}

}

TEST_CASE("holes and heads agree with the mounting holes of an electronic footprint library",
          "[hardware][reference][packages]") {
    const std::filesystem::path folder = "/usr/share/kicad/footprints/MountingHole.pretty";
    if (!std::filesystem::exists(folder)) {
        WARN("skipped: the package kicad-footprints is not installed");
        return;
    }
    const std::regex name(R"(MountingHole_([\d.]+)mm_(M[\d.]+)(?:_(ISO7380|ISO14580))?)");
    const std::regex head(R"(fp_circle \(center 0 0\) \(end ([\d.]+) 0\) \(layer "?Cmts.User)");
    int holes = 0, heads = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        std::smatch found;
        const std::string stem = entry.path().stem().string(), text = text_of(entry.path());
        if (!std::regex_match(stem, found, name)) continue;
        CAPTURE(stem);
        const std::string size = found[2];
        CHECK(std::stod(found[1]) == Approx(*clearance_hole_mm(size, ClearanceClass::fine)).epsilon(1e-12));
        if (const auto w = hardware("ISO 7089", size)) CHECK((*w)["d1"] == std::stod(found[1]));
        ++holes;
        std::smatch circle;
        if (!found[3].matched || !std::regex_search(text, circle, head)) continue;
        const bool button = found[3] == "ISO7380";
        const auto screw = hardware(button ? "ISO 7380-1" : "ISO 14580", size);
        if (!screw) { // the library names M2 and M2.5 after ISO 7380, which begins at M3
            CHECK((button && (size == "M2" || size == "M2.5")));
            continue;
        }
        CHECK(2 * std::stod(circle[1]) == Approx(*(*screw)["dk"]).epsilon(1e-12));
        ++heads;
    }
    CHECK(holes >= 7);
    CHECK(heads >= 10);
}

TEST_CASE("drill and screw gauges agree with the definitions of the units program",
          "[hardware][reference][packages]") {
    const std::filesystem::path file = "/usr/share/units/definitions.units";
    if (!std::filesystem::exists(file)) {
        WARN("skipped: the package units is not installed");
        return;
    }
    const std::string definitions = text_of(file);
    const auto theirs = drills_of_units(definitions);
    CHECK(theirs.size() >= 85);
    const Table& drills = built_in_table("drill_gauges");
    int equal = 0, between = 0;
    for (std::size_t row = 0; row < drills.rows(); ++row) {
        const std::string name = drills.text(row, "name");
        const double diameter = *drills.number(row, "diameter");
        CAPTURE(name, diameter);
        if (const auto held = theirs.find(name); held != theirs.end()) {
            CHECK(held->second == diameter);
            ++equal;
            continue;
        }
        // Their table leaves out what lies on the straight line between its neighbours.
        const int number = std::stoi(name.substr(1));
        int below = number - 1, above = number + 1;
        while (!theirs.contains("#" + std::to_string(below)))
            --below;
        while (!theirs.contains("#" + std::to_string(above)))
            ++above;
        const double a = theirs.at("#" + std::to_string(below)), b = theirs.at("#" + std::to_string(above));
        CHECK_THAT(diameter, WithinAbs(a + (b - a) * (number - below) / (above - below), 1e-9));
        ++between;
    }
    CHECK(equal + between == static_cast<int>(drills.rows()));
    CHECK(definitions.find("(.06 + .013 g) in") != std::string::npos); // screwgauge: 0.060 + 0.013·n
    int screws = 0;
    for (const auto& name : thread_names(ThreadSystem::unified)) {
        if (!name.starts_with('#')) continue;
        CHECK_THAT(thread(name)->major_mm / 25.4, WithinAbs(0.06 + 0.013 * std::stoi(name.substr(1)), 1e-9));
        ++screws;
    }
    CHECK(screws > 15);
}
