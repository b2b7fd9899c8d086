#pragma once
#include <cmath>
#include <cstdint>
#include <cstring>

/// Vectors of numbers, for texts that are compiled once for every set of instructions.  What is called in
/// such a text is inlined always and has no name outside, so that no linker can take the code of a wider set
/// for a machine that lacks it.  Plain arithmetic only: the same bits with every width.
namespace kollema::stack {

// NOLINTBEGIN(modernize-use-using): g++ 12 forgets this attribute of an alias that depends on a parameter.
template <int Width>
struct Vectors {
    typedef std::uint64_t Words __attribute__((vector_size(Width * 8)));
    typedef double Numbers __attribute__((vector_size(Width * 8)));
};
// NOLINTEND(modernize-use-using)

template <class V>
[[gnu::always_inline]] inline V load(const void* from) {
    V v;
    std::memcpy(&v, from, sizeof v);
    return v;
}

template <class V>
[[gnu::always_inline]] inline void store(void* to, const V& v) {
    std::memcpy(to, &v, sizeof v);
}

template <class V, class W>
[[gnu::always_inline]] inline V same_bits(const W& from) {
    static_assert(sizeof(V) == sizeof(W));
    return load<V>(&from);
}

/// Where the mask is all ones a, elsewhere b.
template <class V, class M>
[[gnu::always_inline]] inline V select(const M& mask, const V& a, const V& b) {
    return same_bits<V>((mask & same_bits<M>(a)) | (~mask & same_bits<M>(b)));
}

template <class V>
[[gnu::always_inline]] inline V greater_of(const V& a, const V& b) {
    return a > b ? a : b;
}
template <class V>
[[gnu::always_inline]] inline V lesser_of(const V& a, const V& b) {
    return a < b ? a : b;
}

template <class V>
[[gnu::always_inline]] inline V square_root(const V& v) {
    constexpr int count = sizeof(V) / sizeof(double);
    double each[count];
    store(each, v);
    for (double& e : each)
        e = __builtin_sqrt(e);
    return load<V>(each);
}

/// To the nearest whole number; |v| < 2^51.
template <class V>
[[gnu::always_inline]] inline V nearest_whole(const V& v) {
    return (v + 0x1.8p52) - 0x1.8p52;
}

template <int Width, class M>
[[gnu::always_inline]] inline bool any(const M& mask) {
    std::uint64_t all = 0;
    for (int l = 0; l < Width; ++l)
        all |= mask[l];
    return all != 0;
}

/// Sine and cosine of whole quarter turns and an angle within ±45°, in radians, beside them; within two units
/// of the last place; series of Taylor.  |quarters| < 2^51.
template <int Width>
[[gnu::always_inline]] inline void
sine_cosine(const typename Vectors<Width>::Numbers& quarters, const typename Vectors<Width>::Numbers& angle,
            typename Vectors<Width>::Numbers& sine, typename Vectors<Width>::Numbers& cosine) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    const Words whole = same_bits<Words>(quarters + 0x1.8p52); // its last bits count them
    const Numbers square = angle * angle;
    Numbers s = square * (-1.0 / 1307674368000) + 1.0 / 6227020800;
    s = s * square - 1.0 / 39916800;
    s = s * square + 1.0 / 362880;
    s = s * square - 1.0 / 5040;
    s = s * square + 1.0 / 120;
    s = s * square - 1.0 / 6;
    s = angle + angle * square * s;
    Numbers c = square * (1.0 / 20922789888000) - 1.0 / 87178291200;
    c = c * square + 1.0 / 479001600;
    c = c * square - 1.0 / 3628800;
    c = c * square + 1.0 / 40320;
    c = c * square - 1.0 / 720;
    c = c * square + 1.0 / 24;
    c = 1 - (square * 0.5 - square * square * c);
    const Words odd = 0 - (whole & 1), minus_sine = (whole & 2) << 62, minus_cosine = ((whole + 1) & 2) << 62;
    sine = same_bits<Numbers>(same_bits<Words>(select(odd, c, s)) ^ minus_sine);
    cosine = same_bits<Numbers>(same_bits<Words>(select(odd, s, c)) ^ minus_cosine);
}

/// Natural logarithm of normal numbers above 0, as plain_log().
template <int Width>
[[gnu::always_inline]] inline typename Vectors<Width>::Numbers
logarithm(const typename Vectors<Width>::Numbers& x) {
    using Words = typename Vectors<Width>::Words;
    using Numbers = typename Vectors<Width>::Numbers;
    constexpr double ln2_high = 0x1.62e42fefap-1, ln2_low = 0x1.cf79abc9e3b3ap-40;
    const Words bits = same_bits<Words>(x);
    Numbers part = same_bits<Numbers>((bits & 0x000FFFFFFFFFFFFFU) | 0x3FE0000000000000U); // in [½, 1)
    Numbers exponent = same_bits<Numbers>((bits >> 52) | 0x4330000000000000U) - (0x1p52 + 1022);
    const Words low = same_bits<Words>(part < 0.7071067811865476);
    exponent = select(low, exponent - 1, exponent);
    part = select(low, part * 2, part);
    const Numbers s = (part - 1) / (part + 1), square = s * s;
    Numbers series = square * 0;
    for (int k = 25; k >= 3; k -= 2)
        series = (series + 1.0 / k) * square;
    return exponent * ln2_high + (exponent * ln2_low + 2 * (s + s * series));
}

}
