#include "shape/all_bodies.hpp"
#include "shape/size_places.hpp"
#include "shape/volume.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <random>

using namespace kollema;
using namespace kollema::shape;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

constexpr double pi = 3.14159265358979323846;

double volume(const Body& body) { return volume_of(recipe(body)).volume_mm3; }

/// The share of points of a box that lie in the material, by a regular grid: no rule of the program is used
/// but contains().
double counted_mm3(const Recipe& recipe, int points) {
    const Bounds box = bounds(recipe);
    const Vector3 step = (box.greatest - box.least) / points;
    int inside = 0;
    for (int i = 0; i < points; ++i)
        for (int j = 0; j < points; ++j)
            for (int k = 0; k < points; ++k)
                inside += contains(recipe, box.least + Vector3((i + 0.5) * step.x(), (j + 0.5) * step.y(),
                                                               (k + 0.5) * step.z()));
    return inside * step.prod();
}

Vector3 unit(std::mt19937& random) {
    std::normal_distribution<double> normal;
    return Vector3(normal(random), normal(random), normal(random)).normalized();
}

}

TEST_CASE("areas and moments of outlines", "[shape]") {
    const Outline disc = circle({3, -2}, 5);
    CHECK_THAT(area_mm2(disc), WithinAbs(25 * pi, 1e-12));
    CHECK((first_moment_mm3(disc) - 25 * pi * Vector2(3, -2)).norm() < 1e-11);
    CHECK_THAT(area_mm2(slot({1, 1}, {11, 1}, 4)), WithinAbs(40 + 4 * pi, 1e-12));
    // A quarter disc: its centroid stands 4r/3π from both sides.
    const Outline quarter{{{0, 0}}, {{6, 0}, std::tan(pi / 8)}, {{0, 6}}};
    CHECK_THAT(area_mm2(quarter), WithinAbs(9 * pi, 1e-12));
    CHECK_THAT(first_moment_mm3(quarter).x() / area_mm2(quarter), WithinAbs(24 / (3 * pi), 1e-12));
    // Rounding takes (1 − π/4)·r² from a corner that turns left and gives it to one that turns right.
    const Outline angle = rounded({{{0, 0}, 4}, {{20, 0}}, {{20, 5}}, {{5, 5}, 3}, {{5, 20}}, {{0, 20}}});
    CHECK_THAT(area_mm2(angle), WithinAbs(175 + (1 - pi / 4) * (9 - 16), 1e-12));
    CHECK(contains(angle, {5.5, 5.5}));
    CHECK_FALSE(contains(angle, {6.5, 6.5}));
    CHECK_FALSE(contains(angle, {0.5, 0.5}));
    for (const double y : {-2.0, -2.5, 1.0, 2.99, -6.99}) // the arcs meet at y = −2
        for (const double x : {-1.99, 3.0, 7.99})
            CHECK(contains(disc, {x, y}) == (std::hypot(x - 3, y + 2) < 5));
}

TEST_CASE("volumes of bodies by closed formulas", "[shape]") {
    CHECK_THAT(volume(Block{80, 50, 10}), WithinRel(40'000.0, 1e-14));
    CHECK_THAT(volume(Disc{.diameter_mm = 60, .thickness_mm = 10, .bore_mm = 20}),
               WithinRel(8000 * pi, 1e-10));
    CHECK_THAT(volume(Tube{.outer_mm = 30, .wall_mm = 3, .length_mm = 100}),
               WithinRel((225 - 144) * pi * 100, 1e-10));
    // A chamfer at 45° takes a ring with a triangle for its section: Pappus.
    const double ring = 0.5 * 2 * pi * (30 - 1.0 / 3);
    CHECK_THAT(volume(Disc{.diameter_mm = 60, .thickness_mm = 10, .chamfer_mm = 1}),
               WithinRel(9000 * pi - 2 * ring, 1e-12));
    const AngleBracket bracket{.foot_mm = 60,
                               .wall_mm = 50,
                               .width_mm = 40,
                               .thickness_mm = 8,
                               .inside_radius_mm = 3,
                               .outside_radius_mm = 5,
                               .corner_radius_mm = 6};
    CHECK_THAT(volume(bracket),
               WithinRel(40 * (60 * 8 + 42 * 8 + (1 - pi / 4) * (9 - 25)) - 4 * 8 * (1 - pi / 4) * 36, 1e-9));
    const Fork fork;
    CHECK_THAT(volume(fork), WithinRel(30 * 36 * 10 + 2 * 8 * (25 * 30 + pi * 225 / 2 - 25 * pi), 1e-8));
    const Channel channel;
    CHECK_THAT(volume(channel), WithinRel(120 * (50 * 5 + 2 * 25 * 5 + 2 * (1 - pi / 4) * 9), 1e-12));
    // A turned part with a fillet at a shoulder and a stepped blind bore.
    const TurnedPart shaft{.steps = {{20, 30, "", 0, 1.5}, {30, 12}}, .bore = {{8, 10}, {5, 6}}};
    // The fillet's section is a square less a quarter disc: r²(1 − π/4), its centroid 0.2234·r from the
    // corner.
    const double square = 2.25, quarter = 2.25 * pi / 4, fillet = square - quarter;
    const double off = (square * 0.75 - quarter * (1.5 - 4 * 1.5 / (3 * pi))) / fillet;
    CHECK_THAT(
        volume(shaft),
        WithinRel(3000 * pi + 12 * 225 * pi + fillet * 2 * pi * (10 + off) - 160 * pi - 37.5 * pi, 1e-9));
}

TEST_CASE("volume and centre of every body against counting points", "[shape][long]") {
    for (const auto& body : all_bodies()) {
        CAPTURE(info(body).key);
        const Recipe made = recipe(body);
        const Volume is = volume_of(made);
        CHECK_THAT(is.volume_mm3, WithinRel(counted_mm3(made, 90), 0.02));
        const Bounds box = bounds(made);
        CHECK((is.centre.array() > box.least.array()).all());
        CHECK((is.centre.array() < box.greatest.array()).all());
    }
}

TEST_CASE("a cross hole in a shaft takes what the two cylinders share", "[shape]") {
    // Two equal cylinders that cross: 16·r³/3 (Archimedes, "The Method").
    Recipe crossed{{Turned{{}, rectangle({0, -40}, {5, 40})}}};
    const double whole = volume_of(crossed).volume_mm3;
    const Frame across{{-20, 0, 0}, Vector3::UnitY(), Vector3::UnitX()};
    crossed.emplace_back(Turned{across, rectangle({0, 0}, {5, 40})}, true, "cross hole");
    CHECK_THAT(whole - volume_of(crossed).volume_mm3, WithinRel(16.0 / 3 * 125, 1e-6));
    // A thinner one: 8·∫ √(R² − y²)·√(r² − y²) dy by the midpoint rule in the angle of the thin one.
    const double r = 2, R = 5;
    double sum = 0;
    constexpr int parts = 2000;
    for (int i = 0; i < parts; ++i) {
        const double a = pi / 2 * (i + 0.5) / parts;
        sum += std::sqrt(R * R - r * r * std::sin(a) * std::sin(a)) * r * r * std::cos(a) * std::cos(a) * pi /
               2 / parts;
    }
    crossed.pop_back();
    crossed.emplace_back(Turned{across, rectangle({0, 0}, {r, 40})}, true, "cross hole");
    CHECK_THAT(whole - volume_of(crossed).volume_mm3, WithinRel(8 * sum, 1e-12));
}

TEST_CASE("holes of all widths across a stepped shaft, against discs cut by strips", "[shape][long]") {
    const std::vector<Vector2> profile{{23, 0},  {24, 1},      {24, 46},   {40.5, 46}, {41, 46.5},
                                       {41, 52}, {40.5, 52.5}, {25, 52.5}, {25, 55},   {9, 55.5},
                                       {9, 64},  {7, 64.5},    {7, 91}};
    Outline half{{{0, 0}}};
    for (const auto& corner : profile)
        half.push_back({corner});
    half.push_back({{0, 91}});
    const double whole = volume_of(Recipe{{Turned{{}, half}}}).volume_mm3;
    for (const double r : {2.0, 10.0, 30.0}) {
        CAPTURE(r);
        const Frame across{{-60, 0, 30}, Vector3::UnitY(), Vector3::UnitX()};
        const Recipe made{{Turned{{}, half}}, {Turned{across, rectangle({0, 0}, {r, 120})}, true, "hole"}};
        double taken = 0;
        constexpr int slices = 4000; // a side of the profile
        for (std::size_t i = 0; i + 1 < profile.size(); ++i)
            for (int k = 0; k < slices; ++k) {
                const Vector2 at = profile[i] + (profile[i + 1] - profile[i]) * (k + 0.5) / slices;
                const double off = at.y() - 30, radius = at.x();
                if (std::abs(off) >= r) continue;
                const double width = std::sqrt(r * r - off * off);
                const double area = width >= radius
                                        ? pi * radius * radius
                                        : 2 * (width * std::sqrt(radius * radius - width * width) +
                                               radius * radius * std::asin(width / radius));
                taken += area * (profile[i + 1].y() - profile[i].y()) / slices;
            }
        CHECK_THAT(whole - volume_of(made).volume_mm3, WithinAbs(taken, 3e-6 * whole));
    }
}

TEST_CASE("lines through bodies: what lies inside is what contains() says", "[shape]") {
    std::mt19937 random(7);
    for (const auto& body : all_bodies()) {
        CAPTURE(info(body).key);
        const Recipe made = recipe(body);
        const Bounds box = bounds(made);
        const double reach = (box.greatest - box.least).norm();
        std::uniform_real_distribution<double> share(0, 1);
        for (int line = 0; line < 60; ++line) {
            const Vector3 through =
                box.least +
                (box.greatest - box.least).cwiseProduct(Vector3(share(random), share(random), share(random)));
            const Vector3 along = unit(random), from = through - reach * along;
            double inside = 0, counted = 0;
            for (const auto& s : stretches(made, from, along)) {
                CHECK(contains(made, from + (s.from_mm + 1e-6) * along));
                CHECK_FALSE(contains(made, from + (s.from_mm - 1e-6) * along));
                CHECK(contains(made, from + (s.to_mm - 1e-6) * along));
                CHECK_FALSE(contains(made, from + (s.to_mm + 1e-6) * along));
                inside += s.to_mm - s.from_mm;
            }
            constexpr int points = 4000;
            for (int i = 0; i < points; ++i)
                counted += contains(made, from + (i + 0.5) * 2 * reach / points * along) * 2 * reach / points;
            CHECK_THAT(inside, WithinAbs(counted, 4 * 2 * reach / points));
        }
    }
}

TEST_CASE("edge distances across a hole's axis", "[shape]") {
    const Body plate = Block{100, 60, 8};
    CHECK_THAT(edge_distance_mm(plate, {20, 33, 8}, -Vector3::UnitZ()), WithinAbs(20, 1e-9));
    CHECK_THAT(edge_distance_mm(plate, {50, 55, 8}, -Vector3::UnitZ()), WithinAbs(5, 1e-9));
    CHECK((away_from_edge(plate, {50, 55, 8}, -Vector3::UnitZ()) + Vector3::UnitY()).norm() < 1e-9);
    CHECK_THAT(edge_distance_mm(plate, {0, 30, 3}, Vector3::UnitX()), WithinAbs(3, 1e-9));
    const Body disc = Disc{.diameter_mm = 60, .thickness_mm = 10, .bore_mm = 20};
    for (const double angle : {0.0, 0.3, 2.0}) {
        const Vector3 out(std::cos(angle), std::sin(angle), 0);
        CHECK_THAT(edge_distance_mm(disc, 24 * out, Vector3::UnitZ()), WithinAbs(6, 1e-6));
        CHECK_THAT(edge_distance_mm(disc, 13 * out, Vector3::UnitZ()), WithinAbs(3, 1e-6));
        CHECK((away_from_edge(disc, 24 * out, Vector3::UnitZ()) + out).norm() < 1e-4);
    }
    // In the foot of a bracket the wall's end and the foot's own corner count, and the inside radius does
    // not.
    const AngleBracket bracket{.foot_mm = 60, .wall_mm = 50, .width_mm = 40, .corner_radius_mm = 10};
    CHECK_THAT(edge_distance_mm(bracket, {30, 12, 8}, -Vector3::UnitZ()), WithinAbs(12, 1e-6));
    CHECK_THAT(edge_distance_mm(bracket, {55, 5, 8}, -Vector3::UnitZ()),
               WithinAbs(10 - std::hypot(5, 5), 1e-6)); // inside the corner's circle about (50, 10)
}

TEST_CASE("bodies that cannot be are refused", "[shape]") {
    CHECK(defect_of(Body(Block{80, 0, 10})));
    CHECK(defect_of(Body(Disc{.diameter_mm = 20, .bore_mm = 20})));
    CHECK_FALSE(defect_of(Body(Disc{.diameter_mm = 20, .bore_mm = 19.9})));
    CHECK(defect_of(Body(Tube{.outer_mm = 30, .wall_mm = 15})));
    CHECK(defect_of(Body(Disc{.zone = "H7"})));
    CHECK_FALSE(defect_of(Body(Disc{.zone = "h7"})));
    CHECK(defect_of(Body(TurnedPart{.steps = {}})));
    CHECK(defect_of(
        Body(TurnedPart{.steps = {{20, 10, "", 0, 6}, {30, 10}}}))); // a fillet higher than its shoulder
    CHECK_FALSE(defect_of(Body(TurnedPart{.steps = {{20, 20, "", 0, 5}, {30, 10}}})));
    CHECK(defect_of(Body(TurnedPart{.steps = {{20, 40}}, .bore = {{20, 10}}})));
    for (const auto& body : all_bodies()) {
        CHECK_FALSE(defect_of(body));
        for (const auto& p : parameters(body))
            if (p.type == ValueType::number) {
                CHECK_FALSE(with_parameter(body, p.key, -1.0));
                CHECK_FALSE(with_parameter(body, p.key, 1e7));
                CHECK_FALSE(with_parameter(body, p.key, std::nan("")));
            }
    }
}

TEST_CASE("what bodies offer lies on them and looks out of them", "[shape]") {
    for (const auto& body : all_bodies()) {
        const Recipe made = recipe(body);
        std::vector<std::string> ids;
        for (const auto& offer : offers(body)) {
            CAPTURE(info(body).key, offer.id);
            CHECK(std::ranges::find(ids, offer.id) == ids.end());
            ids.push_back(offer.id);
            CHECK_THAT(offer.frame.x.norm(), WithinAbs(1, 1e-12));
            CHECK_THAT(offer.frame.x.dot(offer.frame.z), WithinAbs(0, 1e-12));
            if (std::holds_alternative<PlaneFace>(offer.shape)) {
                // Somewhere within its ends the material begins just behind it, and nothing stands before it.
                bool found = false;
                const Extent size = extent(offer.ends);
                for (int i = 1; i < 20 && !found; ++i)
                    for (int j = 1; j < 20 && !found; ++j) {
                        const Vector2 p = size.least + Vector2((size.greatest - size.least).x() * i / 20,
                                                               (size.greatest - size.least).y() * j / 20);
                        const Vector3 at = offer.frame.point({p.x(), p.y(), 0});
                        found = contains(offer.ends, p) && contains(made, at - 1e-6 * offer.frame.z) &&
                                !contains(made, at + 1e-6 * offer.frame.z);
                    }
                CHECK(found);
                if (!offer.across
                         .empty()) { // a millimetre more of that size is a millimetre more behind the face
                    const auto all = parameters(body);
                    const auto size_of = std::ranges::find(all, offer.across, &Parameter::key);
                    REQUIRE(size_of != all.end());
                }
            }
            if (const auto* round = std::get_if<Round>(&offer.shape)) {
                const Vector3 middle = offer.frame.point({0, 0, round->length_mm / 2});
                bool material = false;
                for (int i = 0; i < 16; ++i) {
                    const double a = 2 * pi * (i + 0.3) / 16, r = round->diameter_mm / 2;
                    const Vector3 out = std::cos(a) * offer.frame.x + std::sin(a) * offer.frame.y();
                    material =
                        material || contains(made, middle + (r + (round->inside ? 1e-6 : -1e-6)) * out);
                    CHECK_FALSE(contains(made, middle + (r + (round->inside ? -1e-6 : 1e-6)) * out));
                }
                CHECK(material);
            }
        }
    }
}

TEST_CASE("a size is shown where it moves the body", "[shape]") {
    const auto at = [](const Body& body, const char* key) {
        const auto place = shape::place_of_size(body, key);
        REQUIRE(place);
        return *place;
    };
    // Read off drawings: the face or edge that a longer size pushes out, and whither.
    const Block block{60, 40, 20};
    CHECK((at(block, "length").at - Vector3(60, 20, 10)).norm() < 1e-9);
    CHECK((at(block, "length").along - Vector3::UnitX()).norm() < 1e-6);
    CHECK((at(block, "height").at - Vector3(30, 20, 20)).norm() < 1e-9);
    const shape::TurnedPart pin{.steps = {{16, 12}, {28, 6}, {20, 40}}};
    CHECK_THAT(at(pin, "steps/2/length").at.z(),
               WithinAbs(18, 1e-9)); // the second step's end, not the part's
    CHECK((at(pin, "steps/2/length").along - Vector3::UnitZ()).norm() < 1e-6);
    CHECK_THAT(at(pin, "steps/2/diameter").at.head<2>().norm(), WithinAbs(14, 1e-9));
    CHECK(std::abs(at(pin, "steps/2/diameter").along.z()) < 1e-6);
    CHECK_THAT(at(shape::Tube{.outer_mm = 30, .wall_mm = 4, .length_mm = 50}, "length").at.z(),
               WithinAbs(50, 1e-9));
    CHECK_FALSE(shape::place_of_size(block, "no-such"));
    CHECK_FALSE(shape::place_of_size(pin, "steps/1/zone"));
    CHECK_FALSE(shape::place_of_size(pin, "steps/1/chamfer")); // of 0: not there yet
    // Of every body most lengths have a place, on the body itself.
    for (const auto& body : shape::all_bodies()) {
        const auto box = shape::bounds(shape::recipe(body));
        for (const auto& size : shape::parameters(body)) {
            const auto place = shape::place_of_size(body, size.key);
            if (!place) continue;
            CAPTURE(shape::info(body).key, size.key);
            CHECK_THAT(place->along.norm(), WithinAbs(1, 1e-12));
            CHECK((place->at.array() >= box.least.array() - 40).all());
            CHECK((place->at.array() <= box.greatest.array() + 40).all());
        }
    }
}
