#include "joint/locating.hpp"
#include "fit/clearance.hpp"
#include "joint/matched_features.hpp"
#include "quantity/format.hpp"
#include "standards/hardware.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <fmt/format.h>

namespace kollema::joint {
namespace {

struct Shaft {
    fit::SizeLimits limits;
    std::string name, source;
};

Result<Shaft> shaft_of(const JointKind& kind) {
    if (const auto* screw = std::get_if<CapScrewJoint>(&kind)) {
        const auto thread = standards::thread(screw->thread);
        if (!thread) return tl::unexpected(thread.error());
        const auto limits = standards::thread_limits(*thread, "6g");
        if (!limits) return tl::unexpected(limits.error());
        return Shaft{
            {*limits->major.max_mm, *limits->major.min_mm}, "screw " + screw->thread, "ISO 965-1, 6g"};
    }
    const auto pin = standards::parallel_pin(std::get<DowelPinJoint>(kind).diameter_mm);
    if (!pin) return tl::unexpected(pin.error());
    return Shaft{{pin->d_max, pin->d_min}, fmt::format("pin {}", plain(pin->d)), "ISO 8734, m6"};
}

double greatest_float(const std::vector<PlaceFloat>& floats) {
    double sum = 0;
    for (const auto& f : floats)
        sum += f.radius_mm;
    return sum;
}

}

std::string words(Freedom freedom) {
    switch (freedom) {
    case Freedom::along_x:
        return "slide along x";
    case Freedom::along_y:
        return "slide along y";
    case Freedom::along_z:
        return "lift along the fastener";
    case Freedom::about_x:
        return "tilt about x";
    case Freedom::about_y:
        return "tilt about y";
    case Freedom::about_z:
        break;
    }
    return "turn about the fastener's axis";
}

std::string words(Hold hold) {
    switch (hold) {
    case Hold::located:
        return "located";
    case Hold::clamped:
        return "clamped";
    case Hold::free:
        break;
    }
    return "free";
}

bool locates_across(const Joint& joint) { return std::holds_alternative<DowelPinJoint>(joint.kind); }

Result<std::vector<PlaceFloat>> floats_at(const Project& project, const Joint& joint, std::size_t place) {
    const auto shaft = shaft_of(joint.kind);
    if (!shaft) return tl::unexpected(shaft.error());
    std::vector<PlaceFloat> floats;
    for (std::size_t m = 0; m < joint.members.size(); ++m) {
        const Hole* hole = actual_hole(project, joint, m, place);
        if (!hole || hole->thread) continue;
        const auto limits = fit::size_limits(hole->diameter_mm, hole->tolerance);
        if (!limits) return tl::unexpected(limits.error());
        const double radius = fit::greatest_float_mm(fit::clearance(*limits, shaft->limits));
        if (radius == 0) continue;
        const std::string& part = part_of(project, joint.members[m].instance)->name;
        PlaceFloat f{.member = m, .place = place, .radius_mm = radius};
        f.name = fmt::format("{} {}: float in {}", joint.name, place + 1, part);
        f.working = {f.name,
                     "(largest hole − smallest " + shaft->name + ") / 2",
                     fmt::format("({:.4f} − {:.4f}) / 2", limits->max_mm, shaft->limits.min_mm),
                     radius,
                     "mm",
                     (hole->tolerance.zone.empty() ? "hole as entered; " : "ISO 286-1; ") + shaft->source};
        floats.push_back(f);
    }
    return floats;
}

Result<Holds> holds(const Project& project, const Joint& joint) {
    double across_float = 0;
    for (std::size_t p = 0; p < joint.places.size(); ++p) {
        const auto floats = floats_at(project, joint, p);
        if (!floats) return tl::unexpected(floats.error());
        across_float = p == 0 ? greatest_float(*floats) : std::min(across_float, greatest_float(*floats));
    }
    Holds all;
    const auto set = [&](Freedom freedom, Hold hold, std::string by, double float_mm) {
        all[static_cast<std::size_t>(freedom)] = {hold, std::move(by), float_mm};
    };
    const bool several = joint.places.size() > 1;
    if (locates_across(joint)) {
        for (const auto freedom : {Freedom::along_x, Freedom::along_y})
            set(freedom, Hold::located, "pin in its reamed holes", across_float);
        set(Freedom::about_z, several ? Hold::located : Hold::free,
            several ? "the second pin" : "one pin is an axis to turn about", several ? across_float : 0);
        for (const auto freedom : {Freedom::along_z, Freedom::about_x, Freedom::about_y})
            set(freedom, Hold::free, "a pin in a slip fit does not hold the faces together", 0);
        return all;
    }
    for (const auto freedom : {Freedom::along_z, Freedom::about_x, Freedom::about_y})
        set(freedom, Hold::located, "the faces that the screws press together", 0);
    for (const auto freedom : {Freedom::along_x, Freedom::along_y, Freedom::about_z})
        set(freedom, Hold::clamped, "friction under the screws; before tightening the holes' clearance",
            across_float);
    return all;
}

}
