#include "shape/cut_shapes.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <array>
#include <cmath>
#include <concepts>

namespace kollema::shape {
namespace {

using kollema::Shape;

template <class S>
struct Cut; ///< title and sizes of what can be cut; of the rest none
template <>
struct Cut<Hole> {
    static constexpr std::string_view title = "Hole";
    static inline const std::array<Field<Hole>, 2> fields{
        {{"diameter", "Diameter", "", &Hole::diameter_mm, Unit::length},
         {"depth", "Depth", "Automatic: through", &Hole::depth_mm, Unit::length}}};
};
template <>
struct Cut<Slot> {
    static constexpr std::string_view title = "Slot";
    static inline const std::array<Field<Slot>, 3> fields{
        {{"length", "Length", "Between the middles of its round ends", &Slot::length_mm, Unit::length},
         {"width", "Width", "", &Slot::width_mm, Unit::length},
         {"depth", "Depth", "", &Slot::depth_mm, Unit::length}}};
};
template <>
struct Cut<Groove> {
    static constexpr std::string_view title = "Groove";
    static inline const std::array<Field<Groove>, 2> fields{
        {{"diameter", "Floor", "Its diameter", &Groove::diameter_mm, Unit::length},
         {"width", "Width", "Along the axis", &Groove::width_mm, Unit::length}}};
};
template <>
struct Cut<Keyway> {
    static constexpr std::string_view title = "Keyway";
    static inline const std::array<Field<Keyway>, 4> fields{
        {{"width", "Width", "", &Keyway::width_mm, Unit::length},
         {"depth", "Depth", "From the cylinder's surface", &Keyway::depth_mm, Unit::length},
         {"length", "Length", "Along the axis", &Keyway::length_mm, Unit::length},
         {"round_ends", "Round ends", "As an end mill leaves them", &Keyway::round_ends}}};
};
template <>
struct Cut<Flat> {
    static constexpr std::string_view title = "Flat";
    static inline const std::array<Field<Flat>, 2> fields{
        {{"height", "Height", "From the axis to the flat", &Flat::height_mm, Unit::length},
         {"length", "Length", "Along the axis", &Flat::length_mm, Unit::length}}};
};
template <>
struct Cut<Cone> {
    static constexpr std::string_view title = "Cone";
    static inline const std::array<Field<Cone>, 2> fields{
        {{"end_diameter", "End diameter", "At the shaft's end, or at the bore's mouth",
          &Cone::end_diameter_mm, Unit::length},
         {"length", "Length", "Along the axis", &Cone::length_mm, Unit::length}}};
};
template <>
struct Cut<ExternalThread> {
    static constexpr std::string_view title = "Thread";
    static inline const std::array<Field<ExternalThread>, 4> fields{
        {{"name", "Thread", "Such as M12", &ExternalThread::name},
         {"class", "Class", "Such as 6g", &ExternalThread::tolerance_class},
         {"length", "Length", "With its undercut", &ExternalThread::length_mm, Unit::length},
         {"undercut", "Undercut", "Its width at the end; 0: the thread runs out",
          &ExternalThread::undercut_mm, Unit::length}}};
};

template <class S>
concept IsCut = requires {
    Cut<S>::title;
};

template <class S>
concept HasLimits = requires(S s) {
    s.tolerance;
};

/// The coarse thread that is as thick as the cylinder, if there is one.
std::optional<ExternalThread> thread_on(const Round& shaft) {
    for (const auto& name : standards::coarse_threads())
        if (const auto thread = standards::thread(name);
            thread && std::abs(thread->major_mm - shaft.diameter_mm) < 1e-6)
            return ExternalThread{.name = name,
                                  .length_mm = std::min(shaft.length_mm, 2 * shaft.diameter_mm)};
    return std::nullopt;
}

std::vector<Shape> cuts_for(const Round& round) {
    const double d = round.diameter_mm, depth = d / 20, length = round.length_mm;
    std::vector<Shape> all{Groove{.inside = round.inside,
                                  .diameter_mm = round.inside ? d + 2 * depth : d - 2 * depth,
                                  .width_mm = std::min(length / 4, d / 10),
                                  .from_diameter_mm = d},
                           Keyway{.inside = round.inside,
                                  .width_mm = d / 4,
                                  .depth_mm = d / 8,
                                  .length_mm = round.inside ? length : std::max(d / 3, length / 2),
                                  .diameter_mm = d,
                                  .round_ends = !round.inside}};
    // 1:10 over half of the length.
    all.push_back(Cone{.inside = round.inside,
                       .end_diameter_mm = round.inside ? d + length / 20 : std::max(d / 2, d - length / 20),
                       .diameter_mm = d,
                       .length_mm = length / 2});
    if (round.inside) return all;
    all.push_back(Flat{.height_mm = 0.4 * d, .length_mm = length / 2, .diameter_mm = d});
    if (auto thread = thread_on(round)) all.push_back(std::move(*thread));
    return all;
}

}

std::vector<Shape> cuts_for(const Shape& seat) {
    if (std::holds_alternative<PlaneFace>(seat))
        return {Hole{.diameter_mm = 10}, Slot{.length_mm = 20, .width_mm = 10, .depth_mm = 5}};
    if (const auto* round = std::get_if<Round>(&seat)) return cuts_for(*round);
    return {};
}

std::string_view title(const Shape& shape) {
    return std::visit(
        []<class S>(const S&) -> std::string_view {
            if constexpr (IsCut<S>) return Cut<S>::title;
            return {};
        },
        shape);
}

std::vector<Parameter> parameters(const Shape& shape) {
    return std::visit(
        []<class S>(const S& s) {
            std::vector<Parameter> all;
            if constexpr (IsCut<S>) {
                for (const auto& field : Cut<S>::fields)
                    all.push_back(parameter_of(field, s));
                if constexpr (HasLimits<S>)
                    all.push_back({.key = "zone",
                                   .title = "Zone",
                                   .meaning = "Such as H7; empty: by the process",
                                   .value = s.tolerance.zone});
            }
            return all;
        },
        shape);
}

Result<Shape> with_parameter(Shape shape, std::string_view key, const Value& value) {
    const bool set = std::visit(
        [&]<class S>(S& s) {
            if constexpr (IsCut<S>) {
                if constexpr (HasLimits<S>)
                    if (const auto* zone = std::get_if<std::string>(&value); zone && key == "zone") {
                        s.tolerance = {.zone = *zone};
                        return true;
                    }
                for (const auto& field : Cut<S>::fields)
                    if (field.key == key) return set_value(field, s, value);
            }
            return false;
        },
        shape);
    if (set) return shape;
    return fail({.what = std::string(key),
                 .why = "this has no such size, or it takes another kind of value",
                 .remedy = "Give a value like the one that stands there",
                 .kind = FailureKind::argument});
}

Shape in_cylinder(Shape shape, double diameter_mm) {
    std::visit(
        [&]<class S>(S& s) {
            if constexpr (std::same_as<S, Groove>)
                s.from_diameter_mm = diameter_mm;
            else if constexpr (std::same_as<S, Keyway> || std::same_as<S, Flat> || std::same_as<S, Cone>)
                s.diameter_mm = diameter_mm;
        },
        shape);
    return shape;
}

Frame frame_of(const Shape& seat, const CutPlace& place) {
    if (std::holds_alternative<PlaneFace>(seat))
        return {{place.on_face_mm.x(), place.on_face_mm.y(), 0}, Vector3::UnitX(), -Vector3::UnitZ()};
    const Vector3 x(std::cos(place.turn_rad), std::sin(place.turn_rad), 0), z = Vector3::UnitZ();
    const auto* round = std::get_if<Round>(&seat);
    if (round && place.from_last_end) return {{0, 0, round->length_mm - place.along_mm}, x, -z};
    return {{0, 0, place.along_mm}, x, z};
}

CutPlace place_of(const Shape& seat, const Frame& frame) {
    CutPlace place{.turn_rad = std::atan2(frame.x.y(), frame.x.x())};
    const auto* round = std::get_if<Round>(&seat);
    if (!round) return {.on_face_mm = {frame.origin.x(), frame.origin.y()}};
    place.from_last_end = frame.z.z() < 0;
    place.along_mm = place.from_last_end ? round->length_mm - frame.origin.z() : frame.origin.z();
    return place;
}

}
