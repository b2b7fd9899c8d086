#pragma once
#include "kind/all_kinds.hpp"

namespace kollema::check {

/// The kind with the loosest usual slip fit, where it has one to choose and it is not chosen yet: F7 leaves a
/// pin a few micrometres, E8 some twenty (ISO 286-2).
inline std::optional<kind::AnyKind> with_looser_slip(const kind::AnyKind& kind) {
    for (const auto& parameter : kind::parameters(kind))
        if (parameter.key == "slip_zone" && parameter.value != Value("E8"))
            if (auto looser = kind::with_parameter(kind, "slip_zone", "E8")) return *looser;
    return std::nullopt;
}

/// To this the distance of two holes is held where both are reamed in one setting (common practice).
inline constexpr double reamed_together_mm = 0.01;
/// And the distance of holes drilled and reamed in one setting of the part (common practice).
inline constexpr double one_setting_mm = 0.05;
/// As many of a thousand parts as are asked of a gap go together.
inline constexpr double enough_go_together = 0.9973;

}
