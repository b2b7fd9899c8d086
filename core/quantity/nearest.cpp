#include "quantity/nearest.hpp"
#include <algorithm>
#include <numeric>
#include <vector>

namespace kollema {
namespace {

std::size_t distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t diagonal = row[0];
        row[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const std::size_t exchanged = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
            diagonal = row[j];
            row[j] = std::min({exchanged, row[j] + 1, row[j - 1] + 1});
        }
    }
    return row.back();
}

}

std::string_view nearest(std::string_view word, std::span<const std::string_view> known) {
    constexpr std::size_t longest = 64; // a longer word is no misspelling
    word = word.substr(0, longest);
    return *std::ranges::min_element(known, {}, [&](std::string_view k) { return distance(word, k); });
}

}
