#include "pattern/pattern.hpp"
#include "pattern/fitting.hpp"
#include "stack/elementary.hpp"
#include "stack/random.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

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
    Dice(const stack::Sampling& sampling, std::uint64_t block)
        : random_(sampling.seed, block, sampling.instructions) {}

    /// σ a sixth of the width, cut at its ends: a normal by the polar method (Marsaglia & Bray 1964), what
    /// lies within three σ.
    double size(const Size& s, Spread spread) {
        const double middle = (s.max_mm() + s.min_mm()) / 2, half = (s.max_mm() - s.min_mm()) / 2;
        if (half == 0) return middle;
        if (spread == Spread::uniform) return middle + half * next();
        for (;;) {
            const Point at = in_disc();
            const double square = at.squaredNorm();
            const double z = at.x() * std::sqrt(-2 * stack::plain_log(square) / square);
            if (std::abs(z) <= 3) return middle + half * z / 3;
        }
    }

    Point position(double zone, Spread spread) {
        const Point at = in_disc();
        if (spread == Spread::uniform) return zone / 2 * at;
        // A normal of three σ to the edge, cut there: its radius has a closed form, of a uniform number that
        // the square of the radius is.
        const double u = at.squaredNorm();
        const double radius = std::sqrt(-2 * stack::plain_log(1 - u * (1 - edge))) / 3;
        return zone / 2 * radius / std::sqrt(u) * at;
    }

private:
    static constexpr double edge = 0.011108996538242306; ///< exp(−4.5)

    /// Uniform on ±1.
    double next() {
        if (at_ == numbers_.size()) {
            numbers_.fill(0);
            stack::add_uniform(random_, 1, numbers_);
            at_ = 0;
        }
        return numbers_[at_++];
    }

    /// Uniform in the unit disc, without its middle: of the square around it what lies within.
    Point in_disc() {
        for (;;) {
            const double x = next(), y = next(), square = x * x + y * y;
            if (square <= 1 && square > 0) return {x, y};
        }
    }

    stack::RandomBlock random_;
    std::array<double, stack::RandomBlock::batch> numbers_{};
    std::size_t at_ = stack::RandomBlock::batch;
};

double widest_zone(const Pattern& pattern) {
    return std::ranges::max_element(pattern.plates, {}, &Plate::position_mm)->position_mm;
}

/// Draws one assembly after the other.  Where a fastener may lean each hole is there twice: where the plates
/// meet, and at the fastener's end.
class Drawing {
public:
    Drawing(const Pattern& pattern, const stack::Sampling& sampling, std::uint64_t block)
        : pattern_(pattern),
          dice_(sampling, block),
          holes_(pattern.holes.size()),
          fasteners_(holes_) {
        for (std::size_t p = 0; p < pattern.plates.size(); ++p)
            if (pattern.plates[p].threaded) made_.threaded = p;
        const bool leans = made_.threaded && pattern.plates[*made_.threaded].leaning;
        made_.holes = leans ? 2 * holes_ : holes_;
        made_.plates = pattern.plates.size();
        made_.centres.resize(made_.holes * made_.plates);
        made_.clearances.resize(made_.holes * made_.plates);
        blame_.resize(made_.holes);
    }

    bool next_fits() {
        for (auto& d : fasteners_)
            d = dice_.size(pattern_.fastener, pattern_.sizes);
        for (std::size_t p = 0; p < made_.plates; ++p)
            for (std::size_t i = 0; i < holes_; ++i)
                draw(p, i);
        return pattern_.may_move ? fits_moving(made_, blame_) : fits_fixed(made_, blame_);
    }

    /// Of a hole at either end of its fastener.
    double blame(std::size_t hole) const {
        return blame_[hole] + (made_.holes > holes_ ? blame_[hole + holes_] : 0);
    }

private:
    void draw(std::size_t p, std::size_t i) {
        const Plate& plate = pattern_.plates[p];
        double zone = plate.position_mm, clearance = 0;
        // In this order, with and without a bonus: so that one pattern's draws are another's.
        const Point unit = dice_.position(1, pattern_.positions);
        if (!plate.threaded) {
            const double hole = dice_.size(plate.hole, pattern_.sizes);
            clearance = (hole - fasteners_[i]) / 2;
            if (std::abs(clearance) < rounding * fasteners_[i]) clearance = 0;
            if (plate.bonus) zone += hole - plate.hole.min_mm();
        }
        const Point here = pattern_.holes[i] + zone * unit;
        set(p, i, here, clearance);
        if (made_.holes == holes_) return;
        Point out = here;
        if (plate.leaning) {
            const Point bottom = pattern_.holes[i] + zone * dice_.position(1, pattern_.positions);
            out += (here - bottom) * plate.leaning->standing_out_mm / plate.leaning->engaged_mm;
        }
        set(p, i + holes_, out, clearance);
    }
    void set(std::size_t p, std::size_t i, const Point& centre, double clearance) {
        made_.centres[p * made_.holes + i] = centre;
        made_.clearances[p * made_.holes + i] = clearance;
    }

    const Pattern& pattern_;
    Dice dice_;
    std::size_t holes_;
    Made made_;
    std::vector<double> fasteners_, blame_;
};

/// Adds to the sums how many there were, how many of them fit, and the blame by hole.
void draw_block(const Pattern& pattern, const stack::Sampling& sampling, const stack::Block& block,
                std::span<double> sums) {
    Drawing drawing(pattern, sampling, block.number);
    double fit = 0;
    for (std::uint64_t sample = 0; sample < block.samples; ++sample) {
        if (block.stopped) return;
        fit += drawing.next_fits() ? 1 : 0;
    }
    sums[0] += static_cast<double>(block.samples);
    sums[1] += fit;
    for (std::size_t i = 0; i < pattern.holes.size(); ++i)
        sums[2 + i] += drawing.blame(i);
}

double zone_at_the_end(const Plate& plate) {
    return plate.position_mm * (plate.leaning ? plate.leaning->widening() : 1);
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
        if (plate.leaning)
            for (const double length : {plate.leaning->engaged_mm, plate.leaning->standing_out_mm})
                if (!(length > 0 && length <= stack::largest_size))
                    return refuse(what, "the lengths in and above its thread must be above zero",
                                  "Give both, or none where the zone is projected");
        if (plate.threaded) continue;
        if (auto sound = validate_size(plate.hole, what); !sound) return sound;
    }
    return {};
}

bool always_fits(const Pattern& pattern) {
    const double equal = rounding * (pattern.fastener.max_mm() + widest_zone(pattern));
    std::vector<double> clearance, spare; ///< of each plate, at the least; beyond half its zone
    const Plate* threaded = nullptr;
    for (const auto& plate : pattern.plates) {
        const double c = plate.threaded ? 0 : (plate.hole.min_mm() - pattern.fastener.max_mm()) / 2;
        if (c < -equal) return false;
        if (plate.threaded) threaded = &plate;
        clearance.push_back(c);
        spare.push_back(c - zone_at_the_end(plate) / 2);
    }
    if (pattern.holes.size() == 1 && pattern.may_move) {
        // A plate follows its only fastener; one that leans must pass it over its whole length.
        const double lean = threaded && threaded->leaning
                                ? threaded->position_mm * (threaded->leaning->widening() - 1) / 2
                                : 0;
        for (std::size_t p = 0; p < clearance.size(); ++p)
            if (!pattern.plates[p].threaded && 2 * clearance[p] < lean - equal) return false;
        return true;
    }
    for (std::size_t a = 0; a < spare.size(); ++a)
        for (std::size_t b = a + 1; b < spare.size(); ++b) {
            const bool meet = !threaded || pattern.plates[a].threaded || pattern.plates[b].threaded;
            if (meet && spare[a] + spare[b] < -equal) return false;
        }
    return true;
}

double virtual_condition_mm(const Pattern& pattern, std::size_t plate) {
    const Plate& p = pattern.plates[plate];
    return p.threaded ? pattern.fastener.max_mm() + zone_at_the_end(p) : p.hole.min_mm() - p.position_mm;
}

std::optional<Yield> simulate(const Pattern& pattern, const stack::Sampling& sampling,
                              const stack::KeepGoing& keep_going) {
    const auto sums = stack::gather(sampling, keep_going, 2 + pattern.holes.size(),
                                    [&](const stack::Block& block, std::span<double> of_block) {
                                        draw_block(pattern, sampling, block, of_block);
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
