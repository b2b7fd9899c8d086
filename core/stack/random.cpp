#include "stack/random.hpp"
#include <cmath>
#include <limits>

namespace kollema::stack {
namespace {

constexpr std::uint64_t rotated(std::uint64_t x, int k) { return (x << k) | (x >> (64 - k)); }

std::uint64_t split_mix(std::uint64_t& x) {
    std::uint64_t z = (x += 0x9E3779B97F4A7C15U);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9U;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBU;
    return z ^ (z >> 31);
}

/// Ziggurat of 1024 layers of equal area under exp(−x²/2); Marsaglia & Tsang, J. Stat. Software 5 (2000).
struct Ziggurat {
    static constexpr std::size_t layers = 1024;
    std::array<double, layers + 1>
        edge{}; ///< right edge of layer i, edge[0] widest (the base with its tail), edge[layers] = 0
    std::array<double, layers> width{};      ///< edge scaled to a signed 53-bit draw
    std::array<std::int64_t, layers> sure{}; ///< draws below this lie under the curve for certain
    double tail_start = 0;
};

double bell(double x) { return std::exp(-x * x / 2); }

/// Height above 1 to which layers reach that start their tail at r; 0 for the right r.
double overshoot(double r, Ziggurat& z) {
    const double tail_area = std::sqrt(std::acos(-1.0) / 2) * std::erfc(r / std::sqrt(2.0));
    const double area = r * bell(r) + tail_area;
    z.edge[0] = area / bell(r);
    z.edge[1] = r;
    z.tail_start = r;
    for (std::size_t i = 2; i <= Ziggurat::layers; ++i) {
        const double height = bell(z.edge[i - 1]) + area / z.edge[i - 1];
        if (height >= 1) {
            for (std::size_t j = i; j <= Ziggurat::layers; ++j)
                z.edge[j] = 0;
            return i == Ziggurat::layers ? height - 1 : 1.0 + static_cast<double>(Ziggurat::layers - i);
        }
        z.edge[i] = std::sqrt(-2 * std::log(height));
    }
    return bell(z.edge[Ziggurat::layers]) - 1;
}

Ziggurat make_ziggurat() {
    Ziggurat z;
    double low = 3, high = 5;
    for (int i = 0; i < 200; ++i) {
        const double middle = (low + high) / 2;
        (overshoot(middle, z) > 0 ? low : high) = middle;
    }
    overshoot(high, z);
    z.edge[Ziggurat::layers] = 0;
    for (std::size_t i = 0; i < Ziggurat::layers; ++i) {
        z.width[i] = z.edge[i] * 0x1p-52;
        z.sure[i] = static_cast<std::int64_t>(z.edge[i + 1] / z.edge[i] * 0x1p52);
    }
    return z;
}

const Ziggurat& ziggurat() {
    static const Ziggurat z = make_ziggurat();
    return z;
}

/// The layer comes from the lowest 10 bits, the place in it from the upper 53: they share none.
std::size_t layer_of(std::uint64_t bits) { return bits & (Ziggurat::layers - 1); }
std::int64_t place_of(std::uint64_t bits) { return static_cast<std::int64_t>(bits) >> 11; }

/// A draw that fell near the curve's edge or into the tail: decided exactly, drawn again where rejected.
double second_look(const Ziggurat& z, RandomBlock& random, std::uint64_t bits) {
    for (;; bits = random.spare_bits()) {
        const std::size_t layer = layer_of(bits);
        const double x = static_cast<double>(place_of(bits)) * z.width[layer];
        if (std::abs(place_of(bits)) < z.sure[layer]) return x;
        if (layer == 0) { // beyond the base: exponential majorant of the tail
            for (;;) {
                const double out = -std::log(random.spare_uniform()) / z.tail_start;
                if (-2 * std::log(random.spare_uniform()) > out * out)
                    return std::copysign(z.tail_start + out, x);
            }
        }
        const double low = bell(z.edge[layer]), high = bell(z.edge[layer + 1]);
        if (low + random.spare_uniform() * (high - low) < bell(x)) return x;
    }
}

double normal_from(const Ziggurat& z, RandomBlock& random, std::uint64_t bits) {
    const std::size_t layer = layer_of(bits);
    const std::int64_t place = place_of(bits);
    if (std::abs(place) < z.sure[layer]) [[likely]]
        return static_cast<double>(place) * z.width[layer];
    return second_look(z, random, bits);
}

}

RandomBlock::RandomBlock(std::uint64_t seed, std::uint64_t block) {
    std::uint64_t x = seed;
    x = split_mix(x) ^ (block * 0xD1342543DE82EF95U);
    for (auto& word : state_)
        for (auto& lane : word)
            lane = split_mix(x);
    for (auto& word : spare_)
        word = split_mix(x);
}

void RandomBlock::draw(Bits& bits) {
    auto [a, b, c, d] = state_;
    for (std::size_t i = 0; i < batch; i += lanes) {
        for (std::size_t l = 0; l < lanes; ++l) {
            bits[i + l] = rotated(a[l] + d[l], 23) + a[l];
            const std::uint64_t t = b[l] << 17;
            c[l] ^= a[l];
            d[l] ^= b[l];
            b[l] ^= c[l];
            a[l] ^= d[l];
            c[l] ^= t;
            d[l] = rotated(d[l], 45);
        }
    }
    state_ = {a, b, c, d};
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

void add_normal(RandomBlock& random, double factor, std::span<double> sums) {
    const Ziggurat& z = ziggurat();
    RandomBlock::Bits bits;
    random.draw(bits);
    for (std::size_t i = 0; i < sums.size(); ++i)
        sums[i] += factor * normal_from(z, random, bits[i]);
}

void add_cut_normal(RandomBlock& random, double factor, double k, std::span<double> sums) {
    const Ziggurat& z = ziggurat();
    RandomBlock::Bits bits;
    random.draw(bits);
    for (std::size_t i = 0; i < sums.size(); ++i) {
        double draw = normal_from(z, random, bits[i]);
        if (k < 1) // most normal draws would be cut away: take uniform ones and weigh them by the bell
            do
                draw = k * (2 * random.spare_uniform() - 1);
            while (random.spare_uniform() > bell(draw));
        else
            while (std::abs(draw) > k)
                draw = normal_from(z, random, random.spare_bits());
        sums[i] += factor * draw;
    }
}

void add_uniform(RandomBlock& random, double factor, std::span<double> sums) {
    RandomBlock::Bits bits;
    random.draw(bits);
    for (std::size_t i = 0; i < sums.size(); ++i) // the odd half step keeps it symmetric about zero
        sums[i] += factor * ((static_cast<double>(static_cast<std::int64_t>(bits[i]) >> 12) + 0.5) * 0x1p-51);
}

void add_triangular(RandomBlock& random, double factor, std::span<double> sums) {
    RandomBlock::Bits bits;
    random.draw(bits);
    for (std::size_t i = 0; i < sums.size(); ++i) {
        const auto high = static_cast<std::int32_t>(bits[i] >> 32), low = static_cast<std::int32_t>(bits[i]);
        sums[i] += factor * ((static_cast<double>(high) + static_cast<double>(low) + 1) * 0x1p-32);
    }
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
