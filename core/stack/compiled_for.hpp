#pragma once
#include "stack/instructions.hpp"
#include <algorithm>
#include <array>
#include <cstddef>

namespace kollema::stack {

/// Of what was compiled for plain machines and for wider sets, slowest first, that of a set; the widest there
/// is where it was not compiled.  Precondition: the machine has the set.
template <class T, class... Wider>
const T& compiled_for(Instructions set, const T& plain, const Wider&... wider) {
    const std::array<const T*, 1 + sizeof...(Wider)> all{&plain, &wider...};
    return *all[std::min(static_cast<std::size_t>(set), all.size() - 1)];
}

}
