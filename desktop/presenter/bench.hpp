#pragma once
#include "fit/adviser.hpp"
#include "fit/bearing_seat.hpp"
#include "fit/family.hpp"
#include "fit/play.hpp"
#include "fit/press_fit.hpp"
#include "model/project.hpp"
#include "presenter/figures.hpp"
#include "presenter/results.hpp"
#include "stack/pair.hpp"

namespace kollema::desktop {

struct TemperaturePoint {
    double celsius = 0, min_mm = 0, max_mm = 0;
};

/// Everything that the fit bench shows of one pair; a pure function of it.
struct BenchResult {
    standards::Fit fit;
    fit::Clearance clearance;
    double sigma_mm = 0;                 ///< of the clearance
    std::vector<CurvePoint> curve;       ///< density of the clearance
    stack::PairShares shares;            ///< at least and at most the clearance asked for
    double share_with_play = 0;          ///< pairs with any clearance at all
    fit::Play play;                      ///< at the greatest clearance
    std::optional<fit::Clearance> axial; ///< play along the axis, where both lengths are given
    std::vector<TemperaturePoint> temperatures;
    std::optional<double> seizes_C;
    std::optional<Result<fit::PressFit>> press; ///< only where the fit can be tight
    fit::WallStresses walls;
    std::optional<Result<fit::SeatFit>> seat; ///< only for a bearing's seat
    std::vector<fit::SeatRemark> seat_remarks;
    Working working;
};

inline constexpr double coldest_C = -40; ///< where the curve over temperature begins

/// Errors: a fit that is not defined at the pair's size.
Result<BenchResult> bench_result(const FitPair& pair, const fit::SeatTask& seat = {});

/// The pair's figures as fields; values in the unit shown.
std::vector<Figure> figures_of(const FitPair& pair, LengthUnit unit);

/// What a typed or chosen value makes of the project.
Result<Project> with_pair_figure(const Project& project, const PairId& pair, const QString& key,
                                 const QString& value, LengthUnit unit);

/// The press fit's pair for the calculator.
fit::PressPair press_pair(const FitPair& pair, const standards::Fit& fit);

/// "clearance 7 to 41 µm", "interference 1 to 35 µm", "16 µm tight to 19 µm loose"
QString clearance_words(const fit::Clearance& clearance, LengthUnit unit);

/// "20 ±0.05" or "20 -0.02 -0.07" in the unit shown; empty where it is not given.
QString toleranced_text(const TolerancedLength& length, LengthUnit unit);
/// Reads such a text; empty is "not given".
Result<TolerancedLength> parse_toleranced(const QString& text, LengthUnit unit);

/// A small length for people: micrometres, or thousandths of an inch.
QString small_length(double mm, LengthUnit unit);

}
