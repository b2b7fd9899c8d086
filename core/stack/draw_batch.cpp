// One text, compiled once for every set of instructions: see vectors.hpp.
#include "stack/draw_batch.hpp"
#include "stack/compiled_for.hpp"
#include "stack/vectors.hpp"

namespace kollema::stack {
namespace {

// NOLINTBEGIN(modernize-use-using): g++ 12 forgets this attribute of an alias.
typedef double Pair __attribute__((vector_size(16)));
typedef double Four __attribute__((vector_size(32)));
// NOLINTEND(modernize-use-using)

/// `Width` of the lanes, beginning with the g-th; held in registers while they run.
template <int Width>
struct Stream {
    using Words = typename Vectors<Width>::Words;
    Words a, b, c, d;

    [[gnu::always_inline]] void take(const Lanes& lanes, std::size_t g) {
        a = load<Words>(&lanes.word[0][g]);
        b = load<Words>(&lanes.word[1][g]);
        c = load<Words>(&lanes.word[2][g]);
        d = load<Words>(&lanes.word[3][g]);
    }
    [[gnu::always_inline]] void give_back(Lanes& lanes, std::size_t g) const {
        store(&lanes.word[0][g], a);
        store(&lanes.word[1][g], b);
        store(&lanes.word[2][g], c);
        store(&lanes.word[3][g], d);
    }
    [[gnu::always_inline]] Words next() {
        const Words sum = a + d;
        const Words result = ((sum << 23) | (sum >> 41)) + a;
        const Words t = b << 17;
        c ^= a;
        d ^= b;
        b ^= c;
        a ^= d;
        c ^= t;
        d = (d << 45) | (d >> 19);
        return result;
    }
};

/// Calls each(place, bits) for all of a batch, `AtOnce` vectors by turns so that their steps overlap; done(i)
/// after every 64 places of them.
template <int Width, int AtOnce, class Each, class Done>
[[gnu::always_inline]] inline void run(Lanes& lanes, Each each, Done done) {
    for (std::size_t g = 0; g < Lanes::count; g += std::size_t{Width} * AtOnce) {
        Stream<Width> streams[AtOnce];
        for (std::size_t n = 0; n < AtOnce; ++n)
            streams[n].take(lanes, g + n * Width);
        for (std::size_t i = 0; i < draws_a_batch; i += 64) {
            for (std::size_t k = 0; k < 64; k += Lanes::count)
                for (std::size_t n = 0; n < AtOnce; ++n)
                    each(i + k + g + n * Width, streams[n].next());
            done(i);
        }
        for (std::size_t n = 0; n < AtOnce; ++n)
            streams[n].give_back(lanes, g + n * Width);
    }
}

/// The upper 52 bits as a number in ±½, exactly.
template <int Width>
[[gnu::always_inline]] inline typename Vectors<Width>::Numbers
in_half(const typename Vectors<Width>::Words& bits) {
    return same_bits<typename Vectors<Width>::Numbers>((bits >> 12) | 0x3FF0000000000000U) - 1.5;
}

/// Width and sure share of the layer that each draw's lowest bits name.  One read of both: gathers are slow
/// on machines that guard against their leaks.
template <int Width>
[[gnu::always_inline]] inline void layers_of(const Ziggurat& z, const typename Vectors<Width>::Words& bits,
                                             typename Vectors<Width>::Numbers& width,
                                             typename Vectors<Width>::Numbers& sure) {
    Pair p[Width];
    for (int l = 0; l < Width; ++l)
        p[l] = load<Pair>(&z.layer[bits[l] % Ziggurat::layers]);
    if constexpr (Width == 2) {
        width = __builtin_shufflevector(p[0], p[1], 0, 2);
        sure = __builtin_shufflevector(p[0], p[1], 1, 3);
    } else {
        constexpr int fours = Width / 4;
        Four w[fours], s[fours];
        for (int f = 0; f < fours; ++f) {
            const Four even = __builtin_shufflevector(p[4 * f], p[4 * f + 2], 0, 1, 2, 3);
            const Four odd = __builtin_shufflevector(p[4 * f + 1], p[4 * f + 3], 0, 1, 2, 3);
            w[f] = __builtin_shufflevector(even, odd, 0, 4, 2, 6);
            s[f] = __builtin_shufflevector(even, odd, 1, 5, 3, 7);
        }
        if constexpr (Width == 4) {
            width = w[0];
            sure = s[0];
        } else {
            width = __builtin_shufflevector(w[0], w[1], 0, 1, 2, 3, 4, 5, 6, 7);
            sure = __builtin_shufflevector(s[0], s[1], 0, 1, 2, 3, 4, 5, 6, 7);
        }
    }
}

/// By place, whichever lanes had their turn first: so few that they are sorted at once.
[[gnu::always_inline]] inline void in_order(Undecided& all) {
    for (std::size_t i = 1; i < all.count; ++i)
        for (std::size_t k = i; k > 0 && all.place[k - 1] > all.place[k]; --k) {
            const auto place = all.place[k];
            const auto bits = all.bits[k];
            all.place[k] = all.place[k - 1];
            all.bits[k] = all.bits[k - 1];
            all.place[k - 1] = place;
            all.bits[k - 1] = bits;
        }
}

template <int Width, int AtOnce, bool Cut>
[[gnu::always_inline]] inline void normal(Lanes& lanes, const Ziggurat& z, double factor, double cut,
                                          double* sums, Undecided& undecided) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    constexpr std::uint64_t magnitude = ~(std::uint64_t{1} << 63);
    // Of 64 places at a time: what is kept of a whole batch would not leave room for the layers in the
    // nearest cache.
    alignas(64) std::uint64_t seen[64], decided[64];
    Words all = ~Words{};
    for (auto& d : decided)
        d = ~std::uint64_t{0};
    undecided.count = 0;
    run<Width, AtOnce>(
        lanes,
        [&](std::size_t at, const Words& bits) __attribute__((always_inline)) {
            Numbers width, sure;
            layers_of<Width>(z, bits, width, sure);
            const Numbers u = in_half<Width>(bits), draw = u * width;
            Words sound = same_bits<Words>(same_bits<Numbers>(same_bits<Words>(u) & magnitude) < sure);
            if constexpr (Cut)
                sound &= same_bits<Words>(same_bits<Numbers>(same_bits<Words>(draw) & magnitude) <= cut);
            const Numbers part = factor * draw;
            store(&sums[at], load<Numbers>(&sums[at]) + same_bits<Numbers>(same_bits<Words>(part) & sound));
            store(&seen[at % 64], bits);
            store(&decided[at % 64], sound);
            all &= sound;
        },
        [&](std::size_t i) __attribute__((always_inline)) {
            std::uint64_t left = 0;
            for (int l = 0; l < Width; ++l)
                left |= ~all[l];
            if (left == 0) return;
            all = ~Words{};
            for (std::size_t k = 0; k < 64; ++k) {
                if (decided[k]) continue;
                decided[k] = ~std::uint64_t{0}; // for lanes that have their turn later
                undecided.place[undecided.count] = static_cast<std::uint16_t>(i + k);
                undecided.bits[undecided.count++] = seen[k];
            }
        });
    in_order(undecided);
}

template <int Width>
[[gnu::always_inline]] inline void whole_or_cut_normal(Lanes& lanes, const Ziggurat& z, double factor,
                                                       double cut, double* sums, Undecided& undecided) {
    if (cut < z.edge[0]) // else only the tail, which is never decided here, can lie beyond
        normal<Width, 2, true>(lanes, z, factor, cut, sums, undecided);
    else
        normal<Width, 2, false>(lanes, z, factor, cut, sums, undecided);
}

template <int Width, int AtOnce>
[[gnu::always_inline]] inline void uniform(Lanes& lanes, double factor, double* sums) {
    using Numbers = typename Vectors<Width>::Numbers;
    run<Width, AtOnce>(
        lanes,
        [&](std::size_t at, const typename Vectors<Width>::Words& bits) __attribute__((always_inline)) {
            const Numbers draw = (in_half<Width>(bits) + 0x1p-53) * 2; // symmetric about zero
            store(&sums[at], load<Numbers>(&sums[at]) + factor * draw);
        },
        [](std::size_t) {});
}

template <int Width, int AtOnce>
[[gnu::always_inline]] inline void triangular(Lanes& lanes, double factor, double* sums) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    run<Width, AtOnce>(
        lanes,
        [&](std::size_t at, const Words& bits) __attribute__((always_inline)) {
            // The sum of the two halves, exactly, as the last bits of 2^52.
            const Words both = ((bits >> 32) + (bits & 0xFFFFFFFFU)) | 0x4330000000000000U;
            const Numbers draw = (same_bits<Numbers>(both) - (0x1p52 + 0x1p32 - 1)) * 0x1p-32;
            store(&sums[at], load<Numbers>(&sums[at]) + factor * draw);
        },
        [](std::size_t) {});
}

template <int Width>
[[gnu::always_inline]] inline void tally(const double* values, std::size_t count, double low, double high,
                                         BatchTally& t) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    for (std::size_t g = 0; g < Lanes::count; g += Width) {
        auto sum = load<Numbers>(&t.sum[g]), squares = load<Numbers>(&t.squares[g]);
        auto below = load<Words>(&t.below[g]), above = load<Words>(&t.above[g]);
        for (std::size_t i = g; i < count; i += Lanes::count) {
            const auto v = load<Numbers>(&values[i]);
            sum += v;
            squares += v * v;
            below -= same_bits<Words>(v < low); // true is −1
            above -= same_bits<Words>(v > high);
        }
        store(&t.sum[g], sum);
        store(&t.squares[g], squares);
        store(&t.below[g], below);
        store(&t.above[g], above);
    }
}

// NOLINTBEGIN(bugprone-macro-parentheses): the arguments are names and an attribute.
// NORMAL: vector width for normal draws, whose layers are read one by one; WIDTH: for all else.
#define KOLLEMA_DRAWS(SET, TARGET, NORMAL, WIDTH, AT_ONCE)                                                   \
    TARGET void normal_##SET(Lanes& l, const Ziggurat& z, double f, double cut, double* s, Undecided& u) {   \
        whole_or_cut_normal<NORMAL>(l, z, f, cut, s, u);                                                     \
    }                                                                                                        \
    TARGET void uniform_##SET(Lanes& l, double f, double* s) { uniform<WIDTH, AT_ONCE>(l, f, s); }           \
    TARGET void triangular_##SET(Lanes& l, double f, double* s) { triangular<WIDTH, AT_ONCE>(l, f, s); }     \
    TARGET void tally_##SET(const double* v, std::size_t n, double low, double high, BatchTally& t) {        \
        tally<WIDTH>(v, n, low, high, t);                                                                    \
    }                                                                                                        \
    constexpr DrawBatch SET{normal_##SET, uniform_##SET, triangular_##SET, tally_##SET};

KOLLEMA_DRAWS(plain, , 2, 2, 2)
#ifdef __x86_64__
KOLLEMA_DRAWS(sse42, [[gnu::target("sse4.2")]], 2, 2, 2)
KOLLEMA_DRAWS(avx2, [[gnu::target("avx2")]], 4, 4, 2)
KOLLEMA_DRAWS(avx512, [[gnu::target("avx512f,avx512dq,avx512bw,avx512vl")]], 4, 8, 1)
#endif
#undef KOLLEMA_DRAWS
// NOLINTEND(bugprone-macro-parentheses)

}

const DrawBatch& draw_batch(Instructions set) {
#ifdef __x86_64__
    return compiled_for(set, plain, sse42, avx2, avx512);
#else
    return compiled_for(set, plain);
#endif
}
}
