#include "fit/clearance.hpp"
#include "standards/limits_and_fits.hpp"

namespace kollema::fit {

Result<SizeLimits> size_limits(double nominal_mm, const SizeTolerance& tolerance) {
    if (tolerance.zone.empty())
        return SizeLimits{nominal_mm + tolerance.plus_mm, nominal_mm + tolerance.minus_mm};
    const auto limits = standards::limit_deviations(nominal_mm, tolerance.zone);
    if (!limits) return tl::unexpected(limits.error());
    return SizeLimits{nominal_mm + limits->upper_um / 1000, nominal_mm + limits->lower_um / 1000};
}

}
