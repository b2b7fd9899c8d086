#include "stack/random.hpp"
#include "stack/elementary.hpp"
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace kollema::stack {
namespace {

constexpr std::uint64_t rotated(std::uint64_t x, int k) { return (x << k) | (x >> (64 - k)); }

std::uint64_t split_mix(std::uint64_t& x) {
    std::uint64_t z = (x += 0x9E3779B97F4A7C15U);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9U;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBU;
    return z ^ (z >> 31);
}

double bell(double x) { return plain_exp(-x * x / 2); }

// The layer comes from the lowest 10 bits, the place in it from the upper 52: they share none.
std::size_t layer_of(std::uint64_t bits) { return bits % Ziggurat::layers; }
double half_of(std::uint64_t bits) { return static_cast<double>(bits >> 12) * 0x1p-52 - 0.5; }

/// Whether y lies under the curve at x; it is `low` at `edge`, not before x, and so low·exp(d) at x.  Bounds
/// of that series decide nearly always.
bool under_bell(double x, double y, double edge, double low) {
    const double d = (edge * edge - x * x) / 2, begun = 1 + d + d * d / 2;
    if (y < low * begun) return true;
    if (d < 1 && y > low * (begun + d * d * d / 2)) return false;
    return y < bell(x);
}

/// A draw that fell near the curve's edge or into the tail: decided exactly, drawn again where rejected.
double second_look(RandomBlock& random, std::uint64_t bits) {
    const Ziggurat& z = ziggurat();
    for (;; bits = random.spare_bits()) {
        const std::size_t layer = layer_of(bits);
        const double u = half_of(bits), x = u * z.layer[layer].width;
        if (std::abs(u) < z.layer[layer].sure) return x;
        if (layer == 0) { // beyond the base: exponential majorant of the tail
            for (;;) {
                const double out = -plain_log(random.spare_uniform()) / z.tail_start;
                if (-2 * plain_log(random.spare_uniform()) > out * out)
                    return std::copysign(z.tail_start + out, x);
            }
        }
        const double low = z.height[layer], high = z.height[layer + 1];
        if (under_bell(x, low + random.spare_uniform() * (high - low), z.edge[layer], low)) return x;
    }
}

/// Calls draw(sums of a whole batch): the draws come 512 at a time, however few are wanted.
template <class Draw>
void for_whole_batch(std::span<double> sums, const Draw& draw) {
    if (sums.size() == draws_a_batch) return draw(sums.data());
    alignas(64) std::array<double, draws_a_batch> whole{};
    std::ranges::copy(sums, whole.begin());
    draw(whole.data());
    std::copy_n(whole.begin(), sums.size(), sums.begin());
}

}

RandomBlock::RandomBlock(std::uint64_t seed, std::uint64_t block, std::optional<Instructions> set)
    : draws_(&draw_batch(set.value_or(best_instructions()))) {
    std::uint64_t x = seed;
    x = split_mix(x) ^ (block * 0xD1342543DE82EF95U);
    for (auto& word : lanes_.word)
        for (auto& lane : word)
            lane = split_mix(x);
    for (auto& word : spare_)
        word = split_mix(x);
}

std::uint64_t RandomBlock::spare_bits() {
    auto& [a, b, c, d] = spare_;
    const std::uint64_t result = rotated(a + d, 23) + a, t = b << 17;
    c ^= a;
    d ^= b;
    b ^= c;
    a ^= d;
    c ^= t;
    d = rotated(d, 45);
    return result;
}

double RandomBlock::spare_uniform() { return (static_cast<double>(spare_bits() >> 12) + 0.5) * 0x1p-52; }

double RandomBlock::spare_normal() {
    return std::sqrt(-2 * std::log(spare_uniform())) * std::cos(2 * std::numbers::pi * spare_uniform());
}

void add_normal(RandomBlock& random, double factor, std::span<double> sums) {
    add_cut_normal(random, factor, std::numeric_limits<double>::infinity(), sums);
}

void add_cut_normal(RandomBlock& random, double factor, double k, std::span<double> sums) {
    if (k < 1) { // most normal draws would be cut away: take uniform ones and weigh them by the bell
        for (double& sum : sums) {
            double draw = 0;
            do
                draw = k * (2 * random.spare_uniform() - 1);
            while (random.spare_uniform() > bell(draw));
            sum += factor * draw;
        }
        return;
    }
    for_whole_batch(sums, [&](double* all) {
        Undecided undecided;
        random.draws().normal(random.lanes(), ziggurat(), factor, k, all, undecided);
        for (std::size_t i = 0; i < undecided.count; ++i) {
            double draw = second_look(random, undecided.bits[i]);
            while (std::abs(draw) > k)
                draw = second_look(random, random.spare_bits());
            all[undecided.place[i]] += factor * draw;
        }
    });
}

void add_uniform(RandomBlock& random, double factor, std::span<double> sums) {
    for_whole_batch(sums, [&](double* all) { random.draws().uniform(random.lanes(), factor, all); });
}

void add_triangular(RandomBlock& random, double factor, std::span<double> sums) {
    for_whole_batch(sums, [&](double* all) { random.draws().triangular(random.lanes(), factor, all); });
}

void add_draws(RandomBlock& random, Distribution distribution, double factor, double k,
               std::span<double> sums) {
    switch (distribution) {
    case Distribution::normal:
        return add_normal(random, factor, sums);
    case Distribution::truncated:
        return add_cut_normal(random, factor, k, sums);
    case Distribution::uniform:
        return add_uniform(random, factor, sums);
    case Distribution::triangular:
        return add_triangular(random, factor, sums);
    case Distribution::fixed:
        break;
    }
}

}
