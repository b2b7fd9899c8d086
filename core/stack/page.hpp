#pragma once
#include "stack/exact.hpp"
#include "stack/monte_carlo.hpp"
#include "stack/verdict.hpp"
#include <string>
#include <utility>
#include <vector>

namespace kollema::stack {

/// A chain's whole answer, ready to be put on one page that a colleague understands.  All lengths in `unit`.
struct Page {
    struct Row {
        std::string name, limits; ///< limits as people write them: "±0.1"
        double nominal = 0, sensitivity = 1;
        double variance_share = 0, worst_case_share = 0;
        std::optional<double> yield_slope; ///< by its nominal, per unit
        std::string alone;                 ///< the widest that it alone may be: "±0.2"; empty: not told
    };
    std::string name, unit;
    std::vector<Row> rows;
    Limits limits;
    double nominal = 0;
    std::optional<Interval> worst_case; ///< none where nothing goes together
    Interval rss;
    GapProbabilities distribution;
    bool exact = true;
    std::vector<std::pair<double, double>> curve; ///< gap and density
    Verdict verdict;
    std::optional<MonteCarlo> drawn;
    std::optional<double> yield; ///< that counts, where it is not the distribution's
    std::vector<std::pair<std::string, std::string>> notes; ///< more figures: what, and how much
    std::vector<std::string> ways;                          ///< a line each
};

/// Upright A4 as SVG: verdict, arrows to scale, distribution, contributors, ways out.
std::string page_svg(const Page& page);
/// The same in words, 78 columns wide where names allow.
std::string page_text(const Page& page);

}
