#pragma once
#include "assembly/placement.hpp"
#include "model/kept.hpp"
#include "shape/volume.hpp"

namespace kollema::assembly {

/// Mass of the parts and of the hardware that joins them, and where its centre is.
struct Mass {
    double parts_kg = 0, hardware_kg = 0;
    Vector3 centre = Vector3::Zero(); ///< of all of it, in the assembly
    std::map<InstanceId, double> of_part_kg;
    std::vector<JointId> not_counted; ///< joints with a piece whose mass the catalogue cannot give
    Kept<PartId, Shared<shape::Recipe>, shape::Volume> volumes; ///< may stand for the next version

    double all_kg() const { return parts_kg + hardware_kg; }
};

/// Of what is placed: volumes from the recipes times the densities of the materials, hardware as the
/// catalogue weighs it, in steel.  What `before` computed from parts that have not changed is taken over.
Mass mass_of(const Project& project, const Placement& placement, const Mass* before = nullptr);

}
