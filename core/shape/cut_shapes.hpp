#pragma once
#include "quantity/field.hpp"
#include "shape/feature.hpp"
#include <span>

/// Shapes that a person cuts into a part by pointing at a face or a cylinder.
namespace kollema::shape {

/// What can be cut there, with sizes that suit it: into a face holes and slots, into a shaft grooves,
/// keyways, cones, flats and threads, into a bore grooves, keyways and cones; into anything else nothing.
std::vector<kollema::Shape> cuts_for(const kollema::Shape& seat);

/// "Hole", "Slot", …
std::string_view title(const kollema::Shape& shape);
/// Its sizes; those of a place or of what a body offers are not its own.
std::vector<Parameter> parameters(const kollema::Shape& shape);
/// Errors: no such size, a value of another type.
Result<kollema::Shape> with_parameter(kollema::Shape shape, std::string_view key, const Value& value);

/// The shape as it is in a cylinder of that diameter: depths and heights stay, the surface is the cylinder's.
kollema::Shape in_cylinder(kollema::Shape shape, double diameter_mm);

/// Where it stands on its seat, in the seat's frame: on a face from its middle and into the material, on a
/// cylinder `along_mm` from one of its ends, running into it, and turned about its axis.
struct CutPlace {
    Vector2 on_face_mm = Vector2::Zero();
    double along_mm = 0, turn_rad = 0;
    bool from_last_end = false;
};
/// Where such a frame stands, read back.
CutPlace place_of(const kollema::Shape& seat, const Frame& frame);
Frame frame_of(const kollema::Shape& seat, const CutPlace& place);

}
