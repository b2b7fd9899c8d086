#pragma once
// Large projects of a regular shape: chains, stars and clusters of screwed parts.
#include "edit/change.hpp"
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <string>

namespace kollema::bench {

[[noreturn]] inline void stop(const Failure& failure) {
    std::fprintf(stderr, "%s\n", in_one_line(failure).c_str());
    std::exit(1);
}
template <class T>
T must(Result<T> result) {
    if (!result) stop(result.error());
    return std::move(*result);
}

/// The first kind that is offered, small and without a recess.
inline kind::AnyKind small_screw() {
    auto kind = kind::all_kinds().front();
    kind = *kind::with_parameter(kind, "thread", std::string("M5"));
    return *kind::with_parameter(kind, "counterbored", false);
}

/// A project put together part by part; holes are written once, at the end.
class Builder {
public:
    std::size_t add_part(const std::string& name, const Block& size) {
        Part part{.id = {name}, .name = name, .material = "s235", .process = "milled", .body = size};
        part.features = features_of(part.body);
        project_.parts.push_back(std::move(part));
        project_.instances.push_back({{name}, {name}, project_.instances.empty()});
        return project_.parts.size() - 1;
    }
    void screw(std::size_t upper, std::size_t lower, const Vector2& at, bool crosswise) {
        const std::string id = "joint-" + std::to_string(project_.joints.size());
        project_.joints.push_back({.id = {id},
                                   .name = id,
                                   .kind = small_screw(),
                                   .members = {{{project_.parts[upper].name}, {"top"}},
                                               {{project_.parts[lower].name}, {"top"}, at}},
                                   .places = crosswise ? std::vector<Vector2>{{-12, 0}, {12, 0}}
                                                       : std::vector<Vector2>{{0, -12}, {0, 12}}});
    }
    Project done(std::size_t from, std::size_t to) {
        project_.requirements.push_back({.id = {"gap"},
                                         .name = "Gap",
                                         .from = {{project_.parts[from].name}, {"left"}},
                                         .to = {{project_.parts[to].name}, {"left"}},
                                         .lower_mm = -5000,
                                         .upper_mm = 5000});
        return must(edit::apply(project_, {}));
    }

private:
    Project project_;
};

inline Project chain(std::size_t joints) {
    Builder b;
    b.add_part("part-0", {60, 60, 20});
    for (std::size_t i = 1; i <= joints; ++i) {
        b.add_part("part-" + std::to_string(i), {60, 60, 20});
        b.screw(i, i - 1, {0, 0}, i % 2 == 0);
    }
    return b.done(0, std::min<std::size_t>(joints, 8));
}

inline Project star(std::size_t joints) {
    Builder b;
    const auto side = static_cast<std::size_t>(std::ceil(std::sqrt(static_cast<double>(joints))));
    const double width = 70.0 * static_cast<double>(side);
    b.add_part("base", {width, width, 20});
    for (std::size_t i = 0; i < joints; ++i) {
        b.add_part("part-" + std::to_string(i), {60, 60, 20});
        const double x = 70 * static_cast<double>(i % side) + 35 - width / 2,
                     y = 70 * static_cast<double>(i / side) + 35 - width / 2;
        b.screw(i + 1, 0, {x, y}, i % 2 == 0);
    }
    return b.done(1, 2); // neighbours: no general tolerance is held beyond 4 m
}

/// Plates of nine parts each, every plate screwed on the base.
inline Project clusters(std::size_t joints) {
    Builder b;
    const std::size_t plates = joints / 10;
    const auto side = static_cast<std::size_t>(std::ceil(std::sqrt(static_cast<double>(plates))));
    const double width = 300.0 * static_cast<double>(side);
    b.add_part("base", {width, width, 20});
    for (std::size_t p = 0; p < plates; ++p) {
        const std::size_t plate = b.add_part("plate-" + std::to_string(p), {290, 290, 20});
        const double x = 300 * static_cast<double>(p % side) + 150 - width / 2,
                     y = 300 * static_cast<double>(p / side) + 150 - width / 2;
        b.screw(plate, 0, {x, y}, false);
        for (std::size_t i = 0; i < 9; ++i) {
            const std::size_t part =
                b.add_part("part-" + std::to_string(p) + "-" + std::to_string(i), {60, 60, 20});
            b.screw(part, plate,
                    {90 * (static_cast<double>(i % 3) - 1) + 40, 90 * (static_cast<double>(i / 3) - 1) + 40},
                    true);
        }
    }
    return b.done(2, std::min<std::size_t>(13, joints)); // parts of two plates
}

}
