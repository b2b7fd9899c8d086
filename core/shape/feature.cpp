#include "shape/feature.hpp"
#include "standards/threads.hpp"

namespace kollema {
namespace {

using shape::Recipe;

Recipe steps(const PlaneFace&, const Frame&, double, const std::string&) { return {}; }
Recipe steps(const MidPlane&, const Frame&, double, const std::string&) { return {}; }
Recipe steps(const Round&, const Frame&, double, const std::string&) { return {}; }

Recipe steps(const Hole& hole, const Frame& frame, double through_mm, const std::string& name) {
    return steps_of(hole, frame, through_mm, name);
}

Recipe one(std::variant<shape::Prism, shape::Turned> form, const std::string& name) {
    Recipe recipe;
    recipe.emplace_back(std::move(form), true, name);
    return recipe;
}

Recipe steps(const Groove& g, const Frame& frame, double, const std::string& name) {
    const double floor = g.diameter_mm / 2, rim = g.from_diameter_mm / 2;
    const auto ring = g.inside ? shape::rectangle({0, 0}, {floor, g.width_mm})
                               : shape::rectangle({floor, 0}, {rim + 1, g.width_mm});
    return one(shape::Turned{frame, ring}, name);
}

Recipe steps(const Keyway& k, const Frame& frame, double, const std::string& name) {
    const double surface = k.diameter_mm / 2, half = k.width_mm / 2;
    if (k.inside) { // along the axis, from within the bore to the keyway's floor
        const Frame end{frame.origin, frame.x, frame.z};
        return one(shape::Prism{end, shape::rectangle({0, -half}, {surface + k.depth_mm, half}), k.length_mm},
                   name);
    }
    // Looking down on the shaft: from its floor outward.
    const Frame floor{frame.origin + (surface - k.depth_mm) * frame.x, frame.z, frame.x};
    const auto outline = k.round_ends ? shape::slot({half, 0}, {k.length_mm - half, 0}, k.width_mm)
                                      : shape::rectangle({0, -half}, {k.length_mm, half});
    return one(shape::Prism{floor, outline, k.depth_mm + 1}, name);
}

Recipe steps(const Slot& s, const Frame& frame, double, const std::string& name) {
    const double half = s.length_mm / 2;
    return one(shape::Prism{frame, shape::slot({-half, 0}, {half, 0}, s.width_mm), s.depth_mm}, name);
}

Recipe steps(const Flat& f, const Frame& frame, double, const std::string& name) {
    const double reach = f.diameter_mm / 2 + 1;
    return one(shape::Prism{frame, shape::rectangle({f.height_mm, -reach}, {reach, reach}), f.length_mm},
               name);
}

Recipe steps(const Cone& c, const Frame& frame, double, const std::string& name) {
    const double end = c.end_diameter_mm / 2, wide = c.diameter_mm / 2,
                 beyond = 1; // past the end it cuts air
    // Straight past the end, so that the cone begins in a corner.
    if (c.inside)
        return one(
            shape::Turned{
                frame,
                {{{0, -beyond}}, {{end, -beyond}}, {{end, 0}}, {{wide, c.length_mm}}, {{0, c.length_mm}}}},
            name);
    const double rim = wide + 1;
    return one(
        shape::Turned{
            frame,
            {{{end, -beyond}}, {{rim, -beyond}}, {{rim, c.length_mm}}, {{wide, c.length_mm}}, {{end, 0}}}},
        name);
}

Recipe steps(const ExternalThread& t, const Frame& frame, double, const std::string& name) {
    const auto thread = standards::thread(t.name);
    if (t.undercut_mm <= 0 || !thread) return {};
    // DIN 76-1: the groove's floor stands a little below the thread's core.
    const double floor = thread->minor_external_mm / 2 - 0.1 * thread->pitch_mm, rim = thread->major_mm / 2;
    const Frame end{frame.origin + (t.length_mm - t.undercut_mm) * frame.z, frame.x, frame.z};
    return one(shape::Turned{end, shape::rectangle({floor, 0}, {rim + 1, t.undercut_mm})}, name);
}

}

shape::Recipe steps_of(const Shape& shape, const Frame& frame, double through_mm, const std::string& name) {
    return std::visit([&](const auto& s) { return steps(s, frame, through_mm, name); }, shape);
}

}
