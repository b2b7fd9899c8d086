#include "shape/channel.hpp"

namespace kollema::shape {
namespace {

const std::array<Field<Channel>, 6> channel_fields{
    {{"length", "Length", "Along the section", &Channel::length_mm, Unit::length},
     {"width", "Width", "Over the flanges", &Channel::width_mm, Unit::length},
     {"height", "Height", "From the underside of the web", &Channel::height_mm, Unit::length},
     {"web", "Web", "Its thickness", &Channel::web_mm, Unit::length},
     {"flange", "Flange", "Its thickness", &Channel::flange_mm, Unit::length},
     {"inside_radius", "Inside radius", "Where flange and web meet; 0: sharp", &Channel::inside_radius_mm,
      Unit::length}}};

}

BodyInfo Channel::info() { return {"channel", "Channel", "frames, guides, covers: a U section"}; }

std::span<const Field<Channel>> Channel::fields() { return channel_fields; }

std::optional<Failure> Channel::defect() const {
    return first_not_above(
        {{"length", length_mm},
         {"web", web_mm},
         {"flange", flange_mm},
         {"height", height_mm, "web and radius", web_mm + inside_radius_mm},
         {"width", width_mm, "both flanges and radii", 2 * (flange_mm + inside_radius_mm)}});
}

std::vector<Offer> Channel::offers() const {
    const Vector3 x = Vector3::UnitX(), y = Vector3::UnitY(), z = Vector3::UnitZ();
    const double l = length_mm, w = width_mm, r = inside_radius_mm, free = height_mm - web_mm - r;
    const auto flange = [&](const char* id, const char* name, double at_y, const Vector3& outward) {
        return face(id, name, {l / 2, at_y, web_mm + r + free / 2}, x, outward,
                    rectangle_about_origin(l, free), "flange");
    };
    return {face("underside", "underside", {l / 2, w / 2, 0}, x, -z, rectangle_about_origin(l, w), "web"),
            face("web", "web, inside", {l / 2, w / 2, web_mm}, x, z,
                 rectangle_about_origin(l, w - 2 * flange_mm - 2 * r), "web"),
            flange("left-outside", "left flange, outside", 0, -y),
            flange("left-inside", "left flange, inside", flange_mm, y),
            flange("right-inside", "right flange, inside", w - flange_mm, -y),
            flange("right-outside", "right flange, outside", w, y),
            face("first-end", "first end", {0, w / 2, web_mm / 2}, y, -x, rectangle_about_origin(w, web_mm),
                 "length"),
            face("last-end", "last end", {l, w / 2, web_mm / 2}, y, x, rectangle_about_origin(w, web_mm),
                 "length"),
            mid_plane("middle", "middle between the flanges", {l / 2, w / 2, height_mm / 2}, x, y)};
}

Recipe Channel::recipe() const {
    const double w = width_mm, h = height_mm, t = flange_mm, r = inside_radius_mm;
    // Along x; in this frame x is the part's y and y its z.
    return {{Prism{{{0, 0, 0}, Vector3::UnitY(), Vector3::UnitX()},
                   rounded({{{0, 0}},
                            {{w, 0}},
                            {{w, h}},
                            {{w - t, h}},
                            {{w - t, web_mm}, r},
                            {{t, web_mm}, r},
                            {{t, h}},
                            {{0, h}}}),
                   length_mm}}};
}

}
