#include "assembly/mass.hpp"
#include "assembly/piece_frames.hpp"
#include "piece/recipe.hpp"
#include "piece/view.hpp"
#include "standards/catalogue.hpp"
#include "standards/materials.hpp"

namespace kollema::assembly {
namespace {

/// Sums masses and their moments.
struct Sum {
    double kg = 0;
    Vector3 moment = Vector3::Zero();
    void add(double mass_kg, const Vector3& at) {
        kg += mass_kg;
        moment += mass_kg * at;
    }
};

void add_parts(const Project& project, const Placement& placement, const Mass* before, Mass& mass, Sum& sum) {
    constexpr double m3_per_mm3 = 1e-9;
    for (const auto& instance : project.instances) {
        const auto frame = placement.frames.find(instance.id);
        const Part& part = *find(project, instance.part);
        const auto material = standards::material(part.material);
        if (frame == placement.frames.end() || !material) continue;
        const auto& volume =
            mass.volumes.take(part.id, {std::make_shared<const shape::Recipe>(recipe_of(part))},
                              before ? &before->volumes : nullptr,
                              [](const Shared<shape::Recipe>& recipe) { return shape::volume_of(*recipe); });
        const double kg = volume.volume_mm3 * m3_per_mm3 * material->density_kg_m3;
        mass.of_part_kg[instance.id] = kg;
        mass.parts_kg += kg;
        sum.add(kg, frame->second.point(volume.centre));
    }
}

void add_hardware(const Project& project, const Placement& placement, const Joint& joint, Mass& mass,
                  Sum& sum) {
    const auto* design = placement.designs.find(joint.id);
    bool all_known = true;
    if (!design) return;
    for (const auto& piece : design->pieces) {
        const auto item = standards::hardware(piece.standard, piece.size);
        const auto length = piece.length_mm > 0 ? std::optional(piece.length_mm) : std::nullopt;
        const auto kg = item ? piece::mass_kg(*item, length) : std::nullopt;
        if (!kg) {
            all_known = false;
            continue;
        }
        const Vector3 centre =
            shape::volume_of(piece::recipe_of(*item, piece.length_mm, piece.closed_over_mm)).centre;
        for (const auto& frame : piece_frames(project, placement, joint, piece)) {
            mass.hardware_kg += *kg;
            sum.add(*kg, frame.point(centre));
        }
    }
    if (!all_known) mass.not_counted.push_back(joint.id);
}

}

Mass mass_of(const Project& project, const Placement& placement, const Mass* before) {
    Mass mass;
    Sum sum;
    add_parts(project, placement, before, mass, sum);
    for (const auto& joint : project.joints)
        add_hardware(project, placement, joint, mass, sum);
    if (sum.kg > 0) mass.centre = sum.moment / sum.kg;
    return mass;
}

}
