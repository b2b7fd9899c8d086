#pragma once
#include "assembly/joint_pattern.hpp"
#include "joint/design.hpp"
#include "pattern/choices.hpp"
#include <QString>
#include <functional>
#include <optional>
#include <variant>
#include <vector>

/// What is shown of the holes of a joint, without the view.
namespace kollema::desktop {

/// One choice with its yield: a clearance class, or position zones so many times as wide.
struct ShownChoice {
    QString text;     ///< "medium, ø 6.6"
    std::string key;  ///< of a class: "medium"
    double value = 0; ///< on the chart's axis
    double yield = 0;
    bool always = false; ///< goes together whatever the combination
    bool as_it_is = false;
};

struct ShownHole {
    double x_mm = 0, y_mm = 0;
    double share = 0;                          ///< of what does not go together
    bool own = true;                           ///< of the first fasteners; else of those beside them
    std::optional<double> slot_deg, flats_deg; ///< along a slot; along the flats of a dowel
};

struct ShownPattern {
    std::vector<ShownHole> holes;
    pattern::Yield yield;
    bool always = false, may_move = true;
    std::vector<ShownChoice> classes, zones, true_plates;
    std::vector<QString> plates; ///< "Base plate: ø 6.6 +0.15 0, position ø 0.2"
    std::vector<QString> beside; ///< names of the joints that are counted with it
};

/// A joint's own holes, or a typed pattern.
using PatternSource = std::variant<JointId, PatternId>;

/// Joints of the project that have a pattern, in its order.
std::vector<JointId> joints_with_patterns(const Project& project, const joint::Designs& designs);

/// Each class of clearance as it would be if it were taken.  Errors: as assembly::pattern_of(), or read() of
/// what is typed.  Empty when `keep_going` answers false.
std::optional<Result<ShownPattern>> shown_pattern(const Project& project, const PatternSource& source,
                                                  LengthUnit unit, const std::function<bool()>& keep_going);

}
