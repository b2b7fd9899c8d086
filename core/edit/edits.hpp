#pragma once
#include "model/project.hpp"

/// The edits: each takes a project and gives a new one, with every joint's matched features written anew, or
/// says in the user's words why it cannot be.  A failed edit changes nothing.
namespace kollema::edit {

using Edited = Result<Project>;

// Parts
Edited add_part(const Project& project, std::string name, const Body& body, std::string material,
                std::string process);
Edited rename_part(const Project& project, const PartId& part, std::string name);
/// A size of the body, under its key; what stands on its faces and axes follows.
Edited set_size(const Project& project, const PartId& part, std::string_view key, const Value& value);
Edited set_body(const Project& project, const PartId& part, const Body& body);
Edited set_material(const Project& project, const PartId& part, const std::string& material);
Edited set_process(const Project& project, const PartId& part, const std::string& process);

// Dimensions and requirements
Edited add_dimension(const Project& project, const PartId& part, std::string name, const FeatureId& from,
                     const FeatureId& to, const Vector3& direction, double plus_mm, double minus_mm);
Edited set_dimension_tolerance(const Project& project, const PartId& part, const DimensionId& dimension,
                               double plus_mm, double minus_mm);
Edited add_requirement(const Project& project, Requirement requirement); ///< its id is given anew
/// The requirement of the same id becomes this one: its rules, its place, its limits.
Edited change_requirement(const Project& project, const Requirement& requirement);
Edited set_limits(const Project& project, const RequirementId& requirement, std::optional<double> lower_mm,
                  std::optional<double> upper_mm);

/// Gives the distances between a joint's holes, from the first on, limits of ± this in every member.
Edited set_hole_distances(const Project& project, const JointId& joint, double half_mm);
/// The same for the distances, across the holes, from one joint's first hole to another's in the parts they
/// share.
Edited set_hole_offsets(const Project& project, const JointId& from, const JointId& to, double half_mm);

// Joints
Edited add_joint(const Project& project, Joint joint); ///< its id is given anew
Edited remove_joint(const Project& project, const JointId& joint);
Edited rename_joint(const Project& project, const JointId& joint, std::string name);
Edited set_places(const Project& project, const JointId& joint, std::vector<Vector2> places);
Edited move_member(const Project& project, const JointId& joint, std::size_t member, const Vector2& at);

/// One parameter of the joint's kind; Value() lets the joint choose.  Errors: as kind::with_parameter().
Edited set_parameter(const Project& project, const JointId& joint, std::string_view key, const Value& value);
/// What a member measures along the joint's axis.  Errors: a part whose shape has no such size.
Edited set_thickness(const Project& project, const JointId& joint, std::size_t member, double thickness_mm);

// Holes
/// Gives one hole a shape of its own, which the joint then leaves alone.
Edited set_hole(const Project& project, const PartId& part, const FeatureId& feature, const Hole& hole);
/// Lets the joint write the hole again.
Edited match_hole(const Project& project, const PartId& part, const FeatureId& feature);

/// An id that is not yet taken: the name in small letters and dashes, with a number where needed.
std::string new_id(const Project& project, const std::string& name);

}
