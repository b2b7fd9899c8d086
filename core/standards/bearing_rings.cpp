#include "standards/bearing_rings.hpp"
#include "quantity/format.hpp"
#include "standards/table.hpp"
#include <fmt/format.h>

namespace kollema::standards {
namespace {

Result<double> deviation_um(double diameter_mm, const char* column) {
    const Table& table = built_in_table("iso492_bearing_rings");
    for (std::size_t row = 0; row < table.rows(); ++row)
        if (diameter_mm >= *table.number(row, "above") && diameter_mm <= *table.number(row, "upto"))
            return *table.number(row, column);
    return fail({.what = fmt::format("ring of {} mm", plain(diameter_mm)),
                 .why = "ISO 492 as held here has no such diameter",
                 .remedy = "Use a bearing from 3 to 250 mm"});
}

}

Result<RingDeviations> ring_deviations(double bore_mm, double outside_mm) {
    const auto bore = deviation_um(bore_mm, "bore"), outside = deviation_um(outside_mm, "outside"),
               width = deviation_um(bore_mm, "width");
    for (const auto* deviation : {&bore, &outside, &width})
        if (!*deviation) return tl::unexpected(deviation->error());
    return RingDeviations{*bore, *outside, *width};
}

}
