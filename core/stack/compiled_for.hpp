#pragma once
#include "stack/instructions.hpp"
#include <algorithm>
#include <array>
#include <cstddef>

/// MAKE(name, attribute, width) for every set of instructions that such a text is compiled for, with as many
/// numbers a vector as the set holds; their names, slowest first.
// NOLINTBEGIN(cppcoreguidelines-macro-usage): attributes and names are not to be had otherwise.
#ifdef __x86_64__
#define KOLLEMA_FOR_EVERY_SET(MAKE)                                                                          \
    MAKE(plain, , 2)                                                                                         \
    MAKE(avx2, [[gnu::target("avx2")]], 4)                                                                   \
    MAKE(avx512, [[gnu::target("avx512f,avx512dq,avx512bw,avx512vl")]], 8)
#define KOLLEMA_EVERY_SET plain, avx2, avx512
#else
#define KOLLEMA_FOR_EVERY_SET(MAKE) MAKE(plain, , 2)
#define KOLLEMA_EVERY_SET plain
#endif
// NOLINTEND(cppcoreguidelines-macro-usage)

namespace kollema::stack {

/// Of what was compiled for plain machines and for wider sets, slowest first, that of a set; the widest there
/// is where it was not compiled.  Precondition: the machine has the set.
template <class T, class... Wider>
const T& compiled_for(Instructions set, const T& plain, const Wider&... wider) {
    const std::array<const T*, 1 + sizeof...(Wider)> all{&plain, &wider...};
    return *all[std::min(static_cast<std::size_t>(set), all.size() - 1)];
}

}
