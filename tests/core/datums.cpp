// How the sizes of a part shift its features: whatever way was taken, the dimensions themselves must come
// true.
#include "assembly/datums.hpp"
#include "bench_parts.hpp"
#include <map>
#include <random>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

namespace {

/// A plate with plain holes at these places of its top.
Project with_holes(const std::vector<Vector2>& places) {
    Project p = must(edit::add_part({}, "Plate", Block{200, 150, 20}, "s235", "milled"));
    for (std::size_t i = 0; i < places.size(); ++i)
        p.parts[0].features.push_back(
            {.id = {"hole-" + std::to_string(i)},
             .name = "hole " + std::to_string(i),
             .frame = {{places[i].x(), places[i].y(), 20}, Vector3::UnitX(), -Vector3::UnitZ()},
             .shape = Hole{.diameter_mm = 6}});
    return p;
}

void dimension(Project& p, const std::string& from, const std::string& to, const Vector3& along) {
    const std::string id = from + "-" + to + "-" + std::to_string(p.parts[0].dimensions.size());
    p.parts[0].dimensions.push_back({.id = {id},
                                     .name = id,
                                     .from = {from},
                                     .to = {to},
                                     .direction = along.normalized(),
                                     .plus_mm = 0.1,
                                     .minus_mm = -0.1});
}

std::vector<FeatureId> ids(std::initializer_list<const char*> names) {
    std::vector<FeatureId> all;
    for (const auto* name : names)
        all.push_back({name});
    return all;
}

/// Every size drawn at random, and where that shifts the features.
struct Shifted {
    std::vector<double> deviation;
    std::map<FeatureId, Vector3> shift;
};

Shifted shifted(const assembly::Datums& datums, std::mt19937& engine) {
    std::uniform_real_distribution<double> any(-1, 1);
    Shifted all;
    for (std::size_t i = 0; i < datums.sizes.size(); ++i)
        all.deviation.push_back(any(engine));
    for (const auto& [feature, shifts] : datums.shifts) {
        Vector3 sum = Vector3::Zero();
        for (const auto& s : shifts)
            sum += all.deviation[s.size] * s.along;
        all.shift[feature] = sum;
    }
    return all;
}

/// Of every dimension that is followed between two features in use: its deviation is what their distance
/// gains.
int dimensions_come_true(const assembly::Datums& datums, std::mt19937& engine) {
    int checked = 0;
    const auto made = shifted(datums, engine);
    for (std::size_t i = 0; i < datums.sizes.size(); ++i) {
        const Dimension* d = datums.sizes[i].dimension;
        if (!d || !made.shift.contains(d->from) || !made.shift.contains(d->to)) continue;
        ++checked;
        CAPTURE(d->id.text);
        CHECK_THAT(d->direction.dot(made.shift.at(d->to) - made.shift.at(d->from)),
                   WithinAbs(made.deviation[i], 1e-9));
    }
    return checked;
}

const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();

}

TEST_CASE("dimensions from faces, between holes and along a slope come true in the shifts", "[chain]") {
    std::mt19937 engine(1);
    Project p = with_holes({{30, 30}, {90, 110}, {150, 40}});
    dimension(p, "left", "hole-0", x);
    dimension(p, "hole-0", "front", y);            // against the direction
    dimension(p, "hole-0", "hole-1", {60, 80, 0}); // the distance between two holes, askew
    dimension(p, "hole-0", "hole-2", x);
    dimension(p, "right", "left", x);
    const auto datums = must(
        assembly::datums_of(p, p.parts[0], ids({"left", "right", "hole-0", "hole-1", "hole-2", "front"})));
    for (int trial = 0; trial < 20; ++trial)
        CHECK(dimensions_come_true(datums, engine) == 5);
    // What the slope does not say of the second hole is said by a general tolerance, from the plate's faces.
    const auto general = std::ranges::count_if(datums.sizes, [](const auto& s) { return !s.dimension; });
    CHECK(general >= 1);
    // Across the slope the distance of the two holes is free of the sloping dimension.
    const auto sloping = std::ranges::find_if(
        datums.sizes, [&](const auto& s) { return s.dimension == &p.parts[0].dimensions[2]; });
    REQUIRE(sloping != datums.sizes.end());
}

TEST_CASE("random trees of dimensions come true, whatever their order", "[chain]") {
    std::mt19937 engine(2);
    for (int trial = 0; trial < 60; ++trial) {
        std::uniform_real_distribution<double> at(15, 135);
        Project p = with_holes({{at(engine), at(engine)},
                                {at(engine), at(engine)},
                                {at(engine), at(engine)},
                                {at(engine), at(engine)}});
        std::vector<FeatureId> used = ids({"left", "front", "hole-0", "hole-1", "hole-2", "hole-3"});
        // Along x and along y every hole hangs on a face or on an earlier hole.
        int expected = 0;
        for (int hole = 0; hole < 4; ++hole)
            for (const auto& [along, face] : {std::pair{x, "left"}, {y, "front"}}) {
                const int on = static_cast<int>(engine() % static_cast<unsigned>(hole + 1)) - 1;
                const std::string from = on < 0 ? face : "hole-" + std::to_string(on),
                                  to = "hole-" + std::to_string(hole);
                if (engine() % 5 == 0) continue; // left to the general tolerance
                (engine() % 2 ? dimension(p, from, to, along) : dimension(p, to, from, -along));
                ++expected;
            }
        std::vector<Dimension> shuffled(p.parts[0].dimensions.begin(), p.parts[0].dimensions.end());
        std::shuffle(shuffled.begin(), shuffled.end(), engine);
        p.parts[0].dimensions = shuffled;
        const auto datums = must(assembly::datums_of(p, p.parts[0], used));
        CAPTURE(trial, expected);
        CHECK(dimensions_come_true(datums, engine) == expected);
        // The order in which the features are asked changes no shift: compare by the sizes' names.
        std::shuffle(used.begin(), used.end(), engine);
        const auto again = must(assembly::datums_of(p, p.parts[0], used));
        std::map<std::string, Vector3> one, other;
        for (const auto& [all, d] : {std::pair{&one, &datums}, {&other, &again}})
            for (const auto& [feature, shifts] : d->shifts)
                for (const auto& s : shifts)
                    all->try_emplace(feature.text + " " + d->sizes[s.size].name, Vector3::Zero())
                        .first->second += s.along;
        CHECK(one.size() == other.size());
        for (const auto& [name, along] : one) {
            CAPTURE(name);
            REQUIRE(other.contains(name));
            CHECK((along - other.at(name)).norm() < 1e-12);
        }
    }
}

TEST_CASE("without dimensions every feature stands from its datum by the general tolerance of its distance",
          "[chain]") {
    const Project p = with_holes({{40, 70}, {160, 70}});
    const auto datums = must(assembly::datums_of(p, p.parts[0], ids({"left", "hole-0", "hole-1"})));
    // ISO 2768-m: over 30 to 120 ±0.3, over 120 to 400 ±0.5.
    std::map<std::string, double> along_x;
    for (const auto& size : datums.sizes)
        if (size.name.find("left to") != std::string::npos) along_x[size.name] = size.size.plus;
    CHECK(along_x["Plate: left to hole 0, untoleranced"] == 0.3);
    CHECK(along_x["Plate: left to hole 1, untoleranced"] == 0.5);
    // A datum itself does not move along its normal.
    for (const auto& s : datums.shifts.at({"left"}))
        CHECK(std::abs(s.along.x()) < 1e-12);
    CHECK(assembly::datums_of(p, p.parts[0], {})->sizes.empty());
    Project odd = p;
    odd.parts[0].process = "witchcraft";
    CHECK_FALSE(assembly::datums_of(odd, odd.parts[0], ids({"left", "hole-0"})));
}

TEST_CASE("the datum is the face from which most dimensions lead", "[chain]") {
    Project p = with_holes({{40, 70}, {90, 70}, {160, 70}});
    dimension(p, "right", "hole-0", x);
    dimension(p, "right", "hole-1", x);
    dimension(p, "left", "hole-2", x);
    const auto datums =
        must(assembly::datums_of(p, p.parts[0], ids({"hole-0", "hole-1", "hole-2", "left", "right"})));
    // From the right face the first two are dimensioned; the left face, with its hole, hangs on it by its
    // length.
    std::mt19937 engine(3);
    CHECK(dimensions_come_true(datums, engine) == 3);
    for (const auto& s : datums.shifts.at({"right"}))
        CHECK(std::abs(s.along.x()) < 1e-12);
    int untoleranced = 0;
    for (const auto& s : datums.shifts.at({"left"}))
        if (std::abs(s.along.x()) > 0.5) {
            ++untoleranced;
            CHECK(datums.sizes[s.size].size.plus == 0.5); // 200 long, ISO 2768-m
        }
    CHECK(untoleranced == 1);
}

TEST_CASE("a plane face is placed along its normal alone, so a long plate's middle does not matter",
          "[chain]") {
    Project p = with_holes({{50, 60}});
    std::get<Block>(p.parts[0].body.one()).length_mm = 9600; // ISO 2768-1 ends at 4 m
    for (auto& feature : p.parts[0].features)
        for (const auto& face : features_of(p.parts[0].body))
            if (face.id == feature.id) feature.frame = face.frame;
    const auto datums = must(assembly::datums_of(p, p.parts[0], ids({"top", "left", "hole-0"})));
    for (const auto& shift : datums.shifts.at({"top"}))
        CHECK(shift.along.cross(z).norm() < 1e-12);
    CHECK(datums.shifts.at({"left"}).empty()); // the datum itself
    CHECK_FALSE(assembly::datums_of(p, p.parts[0], ids({"left", "right", "hole-0"})).has_value());
}
