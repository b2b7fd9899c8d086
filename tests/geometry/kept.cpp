// What is kept of solids and cuts, and that a section of a strip shows what the whole shows there.
#include "bench_parts.hpp"
#include "geometry/made_once.hpp"
#include "geometry/part_solids.hpp"
#include "geometry/picture.hpp"
#include "geometry/side_by_side.hpp"
#include <algorithm>
#include <atomic>
#include <chrono>
#include <random>
#include <set>
#include <stdexcept>
#include <thread>

using namespace kollema;
using namespace kollema::test;
using Catch::Matchers::WithinAbs;

TEST_CASE("what was not asked for longest is given up first", "[geometry]") {
    // Against a plain list that is searched and moved by hand; hashes collide on purpose.
    constexpr std::size_t most = 100;
    geometry::Recent<int, int> recent(most);
    std::vector<std::array<int, 2>> list; // the newest first: key, bytes
    std::mt19937 random(3);
    int found = 0;
    for (int i = 0; i < 20'000; ++i) {
        const int key = static_cast<int>(random() % 40);
        const auto hash = static_cast<std::size_t>(key % 7);
        const auto at = std::ranges::find(list, key, [](const auto& item) { return item[0]; });
        const int* known = recent.find(key, hash);
        REQUIRE((known != nullptr) == (at != list.end()));
        if (known) {
            ++found;
            REQUIRE(*known == 3 * key);
            std::rotate(list.begin(), at, at + 1);
            continue;
        }
        const int bytes = 1 + static_cast<int>(random() % 30);
        recent.add(key, hash, 3 * key, static_cast<std::size_t>(bytes));
        list.insert(list.begin(), {key, bytes});
        const auto sum = [&] {
            int all = 0;
            for (const auto& item : list)
                all += item[1];
            return all;
        };
        while (sum() > static_cast<int>(most) && list.size() > 1)
            list.pop_back();
        REQUIRE(recent.size() == list.size());
    }
    CHECK(found > 1000);
    recent.add(99, 1, 7, 10 * most); // larger than all may be together: it stays, alone
    CHECK(recent.size() == 1);
    CHECK(*recent.find(99, 1) == 7);
}

TEST_CASE("what two want at the same time is made once, and a failure is told to each who asked",
          "[geometry]") {
    geometry::MadeOnce<int, int> once(1000);
    std::atomic<int> made = 0, waiting = 0;
    std::vector<int> answers(8);
    {
        std::vector<std::jthread> all;
        for (auto& answer : answers)
            all.emplace_back([&] {
                ++waiting;
                answer = once.take(
                    7, 1,
                    [&] {
                        while (waiting < 8) // all ask before it is there
                            std::this_thread::yield();
                        ++made;
                        return 21;
                    },
                    [](int) { return std::size_t{1}; });
            });
    }
    CHECK(made == 1);
    CHECK(once.made() == 1);
    CHECK(std::ranges::count(answers, 21) == 8);
    // The same number of another thing is another thing; what failed may be asked for again.
    const auto fails = [&](int from) {
        return once.take(
            from, 1, []() -> int { throw std::runtime_error("not today"); },
            [](int) { return std::size_t{1}; });
    };
    CHECK(fails(7) == 21);
    CHECK_THROWS_AS(fails(8), std::runtime_error);
    CHECK_THROWS_AS(fails(8), std::runtime_error);
    CHECK(once.take(
              8, 1, [] { return 24; }, [](int) { return std::size_t{1}; }) == 24);
}

TEST_CASE("work that is done side by side is done once each, ends when it is told, and tells what it threw",
          "[geometry]") {
    for (const std::size_t count : {0U, 1U, 2U, 1000U}) {
        std::vector<std::atomic<int>> done(count);
        CHECK(geometry::side_by_side(
            count, [] { return true; }, [&](std::size_t i) { ++done[i]; }));
        CHECK(std::ranges::all_of(done, [](const auto& times) { return times == 1; }));
    }
    std::atomic<int> begun = 0;
    CHECK_FALSE(geometry::side_by_side(
        100'000, [&] { return begun < 50; },
        [&](std::size_t) {
            std::this_thread::sleep_for(std::chrono::microseconds(50)); // nobody is through before it is told
            ++begun;
        }));
    CHECK(begun >= 50);
    CHECK(begun < 100'000);
    CHECK_THROWS_WITH(geometry::side_by_side(
                          100, [] { return true; },
                          [](std::size_t i) {
                              if (i == 40) throw std::runtime_error("the fortieth");
                          }),
                      "the fortieth");
}

TEST_CASE("equal recipes have equal numbers, and a size more or less another one", "[geometry]") {
    const auto recipe = [](double height, double at) {
        Part part{
            .id = {"p"}, .name = "p", .material = "s235", .process = "milled", .body = Block{80, 50, height}};
        part.features = features_of(part.body);
        part.features.push_back({.id = {"h"},
                                 .name = "h",
                                 .frame = {{at, 0, 0}, Vector3::UnitX(), Vector3::UnitZ()},
                                 .shape = Hole{.diameter_mm = 6}});
        return recipe_of(part);
    };
    CHECK(shape::hash_of(recipe(20, 5)) == shape::hash_of(recipe(20, 5)));
    CHECK(shape::hash_of(recipe(20, 0.0)) == shape::hash_of(recipe(20, -0.0))); // they are equal
    std::set<std::size_t> numbers;
    for (int i = 0; i < 200; ++i) {
        numbers.insert(shape::hash_of(recipe(20 + 1e-9 * i, 5)));
        numbers.insert(shape::hash_of(recipe(19, 5 + 1e-9 * i)));
    }
    CHECK(numbers.size() == 400);
}

TEST_CASE("a strip of a part with many holes shows what the whole part shows there", "[geometry][drawing]") {
    Part plate{
        .id = {"p"}, .name = "p", .material = "s235", .process = "milled", .body = Block{400, 200, 20}};
    plate.features = features_of(plate.body);
    for (int x = 0; x < 15; ++x)
        for (int y = 0; y < 7; ++y)
            plate.features.push_back(
                {.id = {fmt::format("h{}-{}", x, y)},
                 .name = "hole",
                 .frame = {{20.0 + 25 * x, 20.0 + 25 * y, 20}, Vector3::UnitX(), -Vector3::UnitZ()},
                 .shape = Hole{.diameter_mm = 6.0 + (x + y) % 3}});
    const Frame along{{20 + 25 * 7, 20 + 25 * 3, 10}, Vector3::UnitX(), -Vector3::UnitY()},
        askew{{20 + 25 * 7, 20 + 25 * 3, 10},
              Vector3(1, 0.3, 0).normalized(),
              Vector3(0.3, -1, 0).normalized()};
    for (const Frame& plane : {along, askew}) {
        geometry::PartSolids solids;
        const drawing::Strip strip{-30, 30};
        const auto whole = solids.cut(plate, {}, plane), part = solids.cut(plate, {}, plane, strip);
        CHECK(solids.made().solids == 2); // a stand-in was made
        // Material of both, asked at points of the strip: even-odd over all outlines.
        const auto is_cut = [](const drawing::Cut& cut, double x, double y) {
            bool inside = false;
            for (const auto& face : cut.faces)
                for (const auto& outline : face)
                    for (std::size_t i = 0; i < outline.size(); ++i) {
                        const Point &a = outline[i], &b = outline[(i + 1) % outline.size()];
                        if ((a.y > y) != (b.y > y) && x < a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y))
                            inside = !inside;
                    }
            return inside;
        };
        int material = 0, holes = 0;
        for (double x = -29.93; x < 30; x += 0.37)
            for (const double y : {-9.5, -3.1, 4.7, 9.9, 11.0}) {
                const bool is = is_cut(whole, x, y);
                CHECK(is_cut(part, x, y) == is);
                (is ? material : holes) += std::abs(y) < 10 ? 1 : 0;
            }
        CHECK(material > 100);
        CHECK(holes > 10);
    }
}

TEST_CASE("a picture zoomed far in shows the edge that runs through it", "[geometry][picture]") {
    const auto mesh = geometry::mesh_of(geometry::solid_of(shape::recipe(Block{900, 900, 900})).solid);
    auto view = geometry::fitted({geometry::eye_at(geometry::Side::slanted), 1, 400, 300}, mesh.bounds);
    Vector3 corner = Vector3::Zero(); // the one nearest to the viewer
    for (const double x : {0.0, 900.0})
        for (const double y : {0.0, 900.0})
            for (const double z : {0.0, 900.0})
                if (const Vector3 other(x, y, z); view.eye.local(other).z() > view.eye.local(corner).z())
                    corner = other;
    const auto on_screen = [&] {
        const Vector3 seen = view.eye.local(corner);
        return std::array{200 + seen.x() * view.px_per_mm, 150 - seen.y() * view.px_per_mm};
    };
    for (int i = 0; i < 40; ++i) { // to a corner, until nothing grows any more
        const auto [x, y] = on_screen();
        view = geometry::shifted(view, 200 - x, 150 - y);
        view = geometry::zoomed(view, 1.7, 200, 150);
    }
    CHECK(view.px_per_mm <= 1000);
    CHECK(view.px_per_mm * 900 > 20'000); // edges far longer than the picture
    CHECK_THAT(on_screen()[0], WithinAbs(200, 1));
    constexpr std::uint32_t ink = 0x202020, fill = 0xE0E0E0;
    const auto picture = geometry::picture_of(view, {{&mesh, {}, fill}}, ink);
    const auto dark = std::ranges::count_if(
        picture.argb, [](std::uint32_t p) { return (p >> 24U) != 0 && (p & 0xFFU) < 0x60; });
    CHECK(dark > 250); // three edges from the middle outward
    for (int i = 0; i < 100; ++i)
        view = geometry::zoomed(view, 0.3, 10, 10);
    CHECK(view.px_per_mm >= 1e-3);
}
