#pragma once
#include "assembly/chain_ways.hpp"
#include "presenter/results.hpp"
#include "stack/page.hpp"
#include <QString>
#include <functional>
#include <optional>
#include <vector>

/// What the view of stacks shows, without the view.
namespace kollema::desktop {

/// A chain that would keep its requirement, and what it would cost to get there.
struct WayOut {
    QString text;       ///< "Tighten Spacer to ±0.012"
    QString after;      ///< what would hold then, and what it takes to make it so
    TypedChain changed; ///< the chain with that done
};

/// One contributor as the picture and the table show it; lengths in mm.
struct ShownLink {
    QString name, note; ///< note: "play", "general tolerance"; empty for a plain size
    bool angle = false; ///< figures are degrees
    double nominal_mm = 0, plus_mm = 0, minus_mm = 0, sensitivity = 1;
    double variance_share = 0, worst_case_share = 0;
    double yield_slope = 0;              ///< of the yield by its nominal, per mm
    std::optional<double> alone_half_mm; ///< half width up to which it alone may go; infinite: any
};

/// A corner of a loop in its plane; the expression is the length of the side that begins here.
struct ShownCorner {
    double x_mm = 0, y_mm = 0;
    QString along;
};
using ShownLoop = std::vector<ShownCorner>;

/// Everything that is shown of one chain.
struct ShownChain {
    std::vector<ShownLink> links;
    stack::Limits limits;
    double nominal_mm = 0;
    std::optional<stack::Interval> worst_case;
    std::optional<stack::Interval> worst_case_bound; ///< where it is found but not proven
    stack::Interval rss;
    stack::GapProbabilities distribution;
    bool exact = true;
    double yield = 0;              ///< that counts
    std::optional<double> drifted; ///< yield when the mean is off by assembly::usual_drift σ
    struct Sample {
        int pieces = 0;
        double yield = 0; ///< where each Cpk is as low as the sample allows
    };
    std::optional<Sample> sample;
    bool formula = false; ///< the gap is no sum of its sizes as they stand
    std::vector<ShownLoop> loops;
    std::optional<assembly::Curved> curved;
    QString at_assembly; ///< what is done then, and what it leaves over; empty: nothing
    stack::Verdict verdict;
    std::vector<CurvePoint> curve;
    std::vector<WayOut> ways;
};

/// Precondition: the gap has a result.
ShownChain shown_chain(const GapResult& gap);

/// How wide a size alone may be: "±0.2", "any", or a dash where no width is enough.
QString room_words(const ShownLink& link, LengthUnit unit);
QString nominal_words(const ShownLink& link, LengthUnit unit);
QString link_limits_words(const ShownLink& link, LengthUnit unit);
QString limits_words(double plus_mm, double minus_mm, LengthUnit unit);

/// Errors: as assembly::evaluate().  Empty when `keep_going` answers false.
std::optional<Result<ShownChain>> shown_chain(const TypedChain& chain, const Workshop& workshop,
                                              const std::function<bool()>& keep_going);

/// The whole answer, ready for a page.
stack::Page page_of(const QString& name, const ShownChain& chain, LengthUnit unit);

}
