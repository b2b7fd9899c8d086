#pragma once
#include "standards/fits.hpp"
#include "standards/materials.hpp"
#include <string>
#include <vector>

namespace kollema::fit {

/// What a pair must do.
enum class Duty { turn, slide, locate, press_by_hand, press, shrink };
/// Who holds the load along or about the axis.
enum class LoadHeldBy { nothing, key_or_pin, fit };
enum class TakenApart { never, seldom, often };

std::string_view title(Duty duty);
std::string_view title(LoadHeldBy load);
std::string_view title(TakenApart apart);

struct Task {
    double diameter_mm = 25;
    Duty duty = Duty::turn;
    LoadHeldBy load = LoadHeldBy::nothing;
    TakenApart apart = TakenApart::seldom;
    standards::Basis basis = standards::Basis::hole;
    std::string hub_material = "s235", shaft_material = "c45";
};

/// A fit for a task, with why and what it costs.
struct Advice {
    standards::Fit fit;
    int mark = 0; ///< how well it suits; the first of a list suits best
    std::string character;
    std::vector<std::string> reasons;
    std::string cost;         ///< in words: the processes that reach both grades
    double relative_cost = 0; ///< sum of both, milling = 1 each
    std::vector<std::string> watch;
};

/// The two or three fits that suit a task best, after the table fit_advice (common practice on the preferred
/// fits of ISO 286-1 and ASME B4.2).  `processes` are those at hand.  Errors: a size that ISO 286-1 does not
/// give these fits, an unknown material.
Result<std::vector<Advice>> advise(const Task& task, const std::vector<standards::Process>& processes);

}
