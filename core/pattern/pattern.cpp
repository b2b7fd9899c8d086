#include "pattern/pattern.hpp"
#include "pattern/fitting.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace kollema::pattern {
namespace {

tl::unexpected<Failure> refuse(std::string what, std::string why, std::string remedy) {
    return fail({std::move(what), std::move(why), std::move(remedy), FailureKind::file});
}

Result<void> validate_size(const Size& size, const std::string& what) {
    for (const double v : {size.nominal_mm, size.plus_mm, size.minus_mm})
        if (!(std::abs(v) <= stack::largest_size))
            return refuse(what, "a size is too large to be one", "Check it");
    if (size.minus_mm > size.plus_mm) return refuse(what, "minus is above plus", "Swap them");
    if (size.min_mm() <= 0) return refuse(what, "its least diameter is not above zero", "Check the limits");
    return {};
}

/// Draws one number after the other, in a fixed order.
class Dice {
public:
    Dice(std::uint64_t seed, std::uint64_t block) : random_(seed, block) {}

    /// σ a sixth of the width, cut at its ends; by turning (Box & Muller 1958) what lies within three σ.
    double size(const Size& s, Spread spread) {
        const double middle = (s.max_mm() + s.min_mm()) / 2, half = (s.max_mm() - s.min_mm()) / 2;
        if (half == 0) return middle;
        if (spread == Spread::uniform) return middle + half * (2 * random_.spare_uniform() - 1);
        for (;;) {
            const double z = std::sqrt(-2 * std::log(random_.spare_uniform())) *
                             std::cos(2 * std::numbers::pi * random_.spare_uniform());
            if (std::abs(z) <= 3) return middle + half * z / 3;
        }
    }

    Point position(double zone, Spread spread) {
        if (zone == 0) return Point::Zero();
        const double u = random_.spare_uniform();
        // A normal of three σ to the edge, cut there: its radius has a closed form.
        const double share = spread == Spread::uniform
                                 ? std::sqrt(u)
                                 : std::sqrt(-2 * std::log(1 - u * (1 - std::exp(-4.5)))) / 3;
        const double angle = 2 * std::numbers::pi * random_.spare_uniform();
        return zone / 2 * share * Point(std::cos(angle), std::sin(angle));
    }

private:
    stack::RandomBlock random_;
};

double widest_zone(const Pattern& pattern) {
    return std::ranges::max_element(pattern.plates, {}, &Plate::position_mm)->position_mm;
}

/// Adds to the sums how many there were, how many of them fit, and the blame by hole.
void draw_block(const Pattern& pattern, std::uint64_t seed, const stack::Block& block,
                std::span<double> sums) {
    Dice dice(seed, block.number);
    const std::size_t n = pattern.holes.size(), plates = pattern.plates.size();
    Made made{.holes = n,
              .plates = plates,
              .centres = std::vector<Point>(n * plates),
              .clearances = std::vector<double>(n * plates),
              .threaded = {}};
    for (std::size_t p = 0; p < plates; ++p)
        if (pattern.plates[p].threaded) made.threaded = p;
    std::vector<double> blame(n);
    double fit = 0;
    std::vector<double> fasteners(n);
    for (std::uint64_t sample = 0; sample < block.samples; ++sample) {
        if (block.stopped) return;
        for (auto& d : fasteners)
            d = dice.size(pattern.fastener, pattern.sizes);
        for (std::size_t p = 0; p < plates; ++p)
            for (std::size_t i = 0; i < n; ++i) {
                const Plate& plate = pattern.plates[p];
                made.centres[p * n + i] =
                    pattern.holes[i] + dice.position(plate.position_mm, pattern.positions);
                const double c =
                    plate.threaded ? 0 : (dice.size(plate.hole, pattern.sizes) - fasteners[i]) / 2;
                made.clearances[p * n + i] = std::abs(c) < rounding * fasteners[i] ? 0 : c;
            }
        fit += (pattern.may_move ? fits_moving(made, blame) : fits_fixed(made, blame)) ? 1 : 0;
    }
    sums[0] += static_cast<double>(block.samples);
    sums[1] += fit;
    for (std::size_t i = 0; i < n; ++i)
        sums[2 + i] += blame[i];
}

}

Result<void> validate(const Pattern& pattern) {
    if (pattern.holes.empty()) return refuse("holes", "there are none", "Give the place of each hole");
    for (std::size_t i = 0; i < pattern.holes.size(); ++i) {
        const Point& p = pattern.holes[i];
        if (!(std::abs(p.x()) <= stack::largest_size && std::abs(p.y()) <= stack::largest_size))
            return refuse(fmt::format("hole {}", i + 1), "it is too far off", "Check it");
        for (std::size_t k = 0; k < i; ++k)
            if (pattern.holes[k] == p)
                return refuse(fmt::format("holes {} and {}", k + 1, i + 1), "they are in one place",
                              "Take one out");
    }
    if (pattern.plates.size() < 2)
        return refuse("plates", "there are fewer than two", "Give all that are joined");
    if (auto sound = validate_size(pattern.fastener, "the fastener"); !sound) return sound;
    if (std::ranges::count(pattern.plates, true, &Plate::threaded) > 1)
        return refuse("plates", "more than one has the thread", "Let the fastener pass the others");
    for (std::size_t p = 0; p < pattern.plates.size(); ++p) {
        const Plate& plate = pattern.plates[p];
        const std::string what = fmt::format("plate {}", p + 1);
        if (!(plate.position_mm >= 0 && plate.position_mm <= stack::largest_size))
            return refuse(what, "its position tolerance is below zero", "Give the diameter of the zone");
        if (plate.threaded) continue;
        if (auto sound = validate_size(plate.hole, what); !sound) return sound;
    }
    return {};
}

bool always_fits(const Pattern& pattern) {
    const double equal = rounding * (pattern.fastener.max_mm() + widest_zone(pattern));
    std::vector<double> spare; ///< of each plate: least clearance beyond half its zone
    bool threaded = false;
    for (const auto& plate : pattern.plates) {
        const double c = plate.threaded ? 0 : (plate.hole.min_mm() - pattern.fastener.max_mm()) / 2;
        if (c < -equal) return false;
        threaded = threaded || plate.threaded;
        spare.push_back(c - plate.position_mm / 2);
    }
    if (pattern.holes.size() == 1 && pattern.may_move) return true;
    for (std::size_t a = 0; a < spare.size(); ++a)
        for (std::size_t b = a + 1; b < spare.size(); ++b) {
            const bool meet = !threaded || pattern.plates[a].threaded || pattern.plates[b].threaded;
            if (meet && spare[a] + spare[b] < -equal) return false;
        }
    return true;
}

std::optional<Yield> simulate(const Pattern& pattern, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going) {
    const auto sums = stack::gather(sampling, keep_going, 2 + pattern.holes.size(),
                                    [&](const stack::Block& block, std::span<double> of_block) {
                                        draw_block(pattern, sampling.seed, block, of_block);
                                    });
    if (!sums) return std::nullopt;
    const double drawn = std::max(1.0, (*sums)[0]), fit = (*sums)[1]; // of a share perhaps none
    const auto blame = std::span(*sums).subspan(2);
    Yield yield{.samples = sampling.samples,
                .seed = sampling.seed,
                .yield = fit / drawn,
                .ci95 = stack::wilson95(fit, drawn),
                .governing = {}};
    double all = 0;
    for (const double b : blame)
        all += b;
    for (std::size_t i = 0; i < blame.size() && all > 0; ++i)
        yield.governing.push_back({i, blame[i] / all});
    std::ranges::stable_sort(yield.governing, std::greater{}, &Governing::share);
    return yield;
}

}
