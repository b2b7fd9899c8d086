#pragma once
#include "edit/edits.hpp"
#include "shape/cut_shapes.hpp"

/// Edits of what a person cuts into a part, beside what joints write.
namespace kollema::edit {

/// Cuts a shape into a part on one of its faces or cylinders, and anchors it there; under the id of an
/// earlier one it takes its place.  Errors: a seat that the part has not, sizes that cannot be.
Edited put_feature(const Project& project, const PartId& part, const FeatureId& seat,
                   const shape::CutPlace& place, const Shape& shape, std::string name,
                   const FeatureId& id = {});

/// Errors: what a joint or the body owns.
Edited remove_feature(const Project& project, const PartId& part, const FeatureId& feature);

}
