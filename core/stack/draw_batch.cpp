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

/// Calls each(place, bits) for `Count` places, two vectors by turns so that their steps overlap, where there
/// are two.
template <int Width, std::size_t Count, class Each>
[[gnu::always_inline]] inline void run(Lanes& lanes, Each each) {
    constexpr int at_once = Width < Lanes::count ? 2 : 1;
    for (std::size_t g = 0; g < Lanes::count; g += std::size_t{Width} * at_once) {
        Stream<Width> streams[at_once];
        for (std::size_t n = 0; n < at_once; ++n)
            streams[n].take(lanes, g + n * Width);
        for (std::size_t i = g; i < Count; i += Lanes::count)
            for (std::size_t n = 0; n < at_once; ++n)
                each(i + n * Width, streams[n].next());
        for (std::size_t n = 0; n < at_once; ++n)
            streams[n].give_back(lanes, g + n * Width);
    }
}

/// The upper 52 bits as a number in ±½, exactly.
template <int Width>
[[gnu::always_inline]] inline typename Vectors<Width>::Numbers
in_half(const typename Vectors<Width>::Words& bits) {
    return same_bits<typename Vectors<Width>::Numbers>((bits >> 12) | 0x3FF0000000000000U) - 1.5;
}

/// Width and sure share of layers, told by how far each lies from the first, in bytes.  One read of both:
/// gathers are slow on machines that guard against their leaks.
template <int Width>
[[gnu::always_inline]] inline void layers_at(const Ziggurat& z, const std::uint64_t* offset,
                                             typename Vectors<Width>::Numbers& width,
                                             typename Vectors<Width>::Numbers& sure) {
    Pair p[Width];
    for (int l = 0; l < Width; ++l)
        p[l] = load<Pair>(reinterpret_cast<const char*>(z.layer.data()) + offset[l]);
    if constexpr (Width == 2) {
        width = __builtin_shufflevector(p[0], p[1], 0, 2);
        sure = __builtin_shufflevector(p[0], p[1], 1, 3);
    } else {
        Four even[Width / 4], odd[Width / 4];
        for (int f = 0; f < Width / 4; ++f) {
            even[f] = __builtin_shufflevector(p[4 * f], p[4 * f + 2], 0, 1, 2, 3);
            odd[f] = __builtin_shufflevector(p[4 * f + 1], p[4 * f + 3], 0, 1, 2, 3);
        }
        if constexpr (Width == 4) {
            width = __builtin_shufflevector(even[0], odd[0], 0, 4, 2, 6);
            sure = __builtin_shufflevector(even[0], odd[0], 1, 5, 3, 7);
        } else {
            const auto e = __builtin_shufflevector(even[0], even[1], 0, 1, 2, 3, 4, 5, 6, 7);
            const auto o = __builtin_shufflevector(odd[0], odd[1], 0, 1, 2, 3, 4, 5, 6, 7);
            width = __builtin_shufflevector(e, o, 0, 8, 2, 10, 4, 12, 6, 14);
            sure = __builtin_shufflevector(e, o, 1, 9, 3, 11, 5, 13, 7, 15);
        }
    }
}

/// So many places at a time: what is kept of a whole batch would not leave room for the layers in the nearest
/// cache.
constexpr std::size_t piece = 64;

/// Bits of a piece's draws, and of each whether it is decided.
struct Piece {
    alignas(64) std::uint64_t bits[piece];
    alignas(64) std::uint64_t decided[piece]; ///< all ones or none
};

/// Appends what is not decided of the piece that begins at place `first`.
template <int Width>
[[gnu::always_inline]] inline void leave_open(const Piece& p, std::size_t first, Undecided& undecided) {
    using Words = typename Vectors<Width>::Words;
    for (std::size_t k = 0; k < piece; k += Width) {
        if (!any<Width>(~load<Words>(&p.decided[k]))) continue;
        for (std::size_t l = k; l < k + Width; ++l) {
            if (p.decided[l]) continue;
            undecided.place[undecided.count] = static_cast<std::uint16_t>(first + l);
            undecided.bits[undecided.count++] = p.bits[l];
        }
    }
}

template <int Width, bool Cut>
[[gnu::always_inline]] inline void normal(Lanes& lanes, const Ziggurat& z, double factor, double cut,
                                          double* sums, Undecided& undecided) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    constexpr std::uint64_t magnitude = ~(std::uint64_t{1} << 63);
    Piece p;
    // Written, so that the layers' places are read from memory and not taken out of vectors one by one.
    alignas(64) std::uint64_t offset[piece];
    undecided.count = 0;
    for (std::size_t i = 0; i < draws_a_batch; i += piece) {
        run<Width, piece>(
            lanes, [&](std::size_t at, const Words& bits) __attribute__((always_inline)) {
                store(&p.bits[at], bits);
                store(&offset[at], (bits % Ziggurat::layers) * sizeof(Ziggurat::Layer));
            });
        Words all = ~Words{};
        for (std::size_t k = 0; k < piece; k += Width) {
            Numbers width, sure;
            layers_at<Width>(z, &offset[k], width, sure);
            const Numbers u = in_half<Width>(load<Words>(&p.bits[k])), draw = u * width;
            Words sound = same_bits<Words>(same_bits<Numbers>(same_bits<Words>(u) & magnitude) < sure);
            if constexpr (Cut)
                sound &= same_bits<Words>(same_bits<Numbers>(same_bits<Words>(draw) & magnitude) <= cut);
            const Words part = same_bits<Words>(factor * draw) & sound;
            store(&sums[i + k], load<Numbers>(&sums[i + k]) + same_bits<Numbers>(part));
            store(&p.decided[k], sound);
            all &= sound;
        }
        if (any<Width>(~all)) leave_open<Width>(p, i, undecided);
    }
}

template <int Width>
[[gnu::always_inline]] inline void whole_or_cut_normal(Lanes& lanes, const Ziggurat& z, double factor,
                                                       double cut, double* sums, Undecided& undecided) {
    if (cut < z.edge[0]) // else only the tail, which is never decided here, can lie beyond
        normal<Width, true>(lanes, z, factor, cut, sums, undecided);
    else
        normal<Width, false>(lanes, z, factor, cut, sums, undecided);
}

template <int Width>
[[gnu::always_inline]] inline void uniform(Lanes& lanes, double factor, double* sums) {
    using Numbers = typename Vectors<Width>::Numbers;
    run<Width, draws_a_batch>(
        lanes, [&](std::size_t at, const typename Vectors<Width>::Words& bits)
                   __attribute__((always_inline)) {
                       const Numbers draw = (in_half<Width>(bits) + 0x1p-53) * 2; // symmetric about zero
                       store(&sums[at], load<Numbers>(&sums[at]) + factor * draw);
                   });
}

template <int Width>
[[gnu::always_inline]] inline void triangular(Lanes& lanes, double factor, double* sums) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    run<Width, draws_a_batch>(
        lanes, [&](std::size_t at, const Words& bits) __attribute__((always_inline)) {
            // The sum of the two halves, exactly, as the last bits of 2^52.
            const Words both = ((bits >> 32) + (bits & 0xFFFFFFFFU)) | 0x4330000000000000U;
            const Numbers draw = (same_bits<Numbers>(both) - (0x1p52 + 0x1p32 - 1)) * 0x1p-32;
            store(&sums[at], load<Numbers>(&sums[at]) + factor * draw);
        });
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
#define KOLLEMA_DRAWS(SET, TARGET, WIDTH)                                                                    \
    TARGET void normal_##SET(Lanes& l, const Ziggurat& z, double f, double cut, double* s, Undecided& u) {   \
        whole_or_cut_normal<WIDTH>(l, z, f, cut, s, u);                                                      \
    }                                                                                                        \
    TARGET void uniform_##SET(Lanes& l, double f, double* s) { uniform<WIDTH>(l, f, s); }                    \
    TARGET void triangular_##SET(Lanes& l, double f, double* s) { triangular<WIDTH>(l, f, s); }              \
    TARGET void tally_##SET(const double* v, std::size_t n, double low, double high, BatchTally& t) {        \
        tally<WIDTH>(v, n, low, high, t);                                                                    \
    }                                                                                                        \
    constexpr DrawBatch SET{normal_##SET, uniform_##SET, triangular_##SET, tally_##SET};

KOLLEMA_FOR_EVERY_SET(KOLLEMA_DRAWS)
#undef KOLLEMA_DRAWS
// NOLINTEND(bugprone-macro-parentheses)

}

const DrawBatch& draw_batch(Instructions set) { return compiled_for(set, KOLLEMA_EVERY_SET); }
}
