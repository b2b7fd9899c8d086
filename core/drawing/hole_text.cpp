#include "drawing/hole_text.hpp"
#include <fmt/format.h>
#include <optional>

namespace kollema::drawing {
namespace {

std::string depth_text(const std::optional<double>& depth_mm, LengthUnit unit) {
    return depth_mm ? fmt::format(" ↧{}", plain(from_mm(*depth_mm, unit), 4)) : " through";
}

}

std::string hole_text(const Hole& hole, LengthUnit unit) {
    const auto shown = [&](double mm, int digits) { return plain(from_mm(mm, unit), digits); };
    std::string tolerance = hole.tolerance.zone.empty() ? "" : " " + hole.tolerance.zone;
    if (hole.tolerance.zone.empty() && (hole.tolerance.plus_mm != 0 || hole.tolerance.minus_mm != 0))
        tolerance = fmt::format(" {:+g}/{:+g}", from_mm(hole.tolerance.plus_mm, unit),
                                from_mm(hole.tolerance.minus_mm, unit));
    std::string text =
        fmt::format("ø{}{}{}", shown(hole.diameter_mm, 6), tolerance, depth_text(hole.depth_mm, unit));
    if (hole.thread)
        text = fmt::format("{}-{}{}, {}", hole.thread->name, hole.thread->tolerance_class,
                           depth_text(hole.thread->depth_mm, unit), text);
    if (hole.counterbore)
        text += fmt::format(", recess ø{} ↧{}", shown(hole.counterbore->diameter_mm, 4),
                            shown(hole.counterbore->depth_mm, 4));
    if (hole.countersink)
        text += fmt::format(", sink ø{} {}°", shown(hole.countersink->diameter_mm, 4),
                            plain(hole.countersink->angle_deg, 4));
    return text;
}

}
