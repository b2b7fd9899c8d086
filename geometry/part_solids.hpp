#pragma once
#include "geometry/cut.hpp"
#include "geometry/mesh.hpp"
#include "model/part.hpp"
#include <memory>

namespace kollema::geometry {

/// The solids of parts and pieces, kept under what they are made of, whatever its steps are called: only what
/// changed is built again, and parts of one shape are built once.  What
/// was not asked for longest is given up where all together take too much memory.  May be shared by threads.
class PartSolids {
public:
    PartSolids();
    ~PartSolids();
    PartSolids(const PartSolids&) = delete;
    PartSolids& operator=(const PartSolids&) = delete;

    std::shared_ptr<const Built> of(const shape::Recipe& recipe);
    std::shared_ptr<const Mesh> mesh(const shape::Recipe& recipe);
    /// Faces of a cut through it, kept too.
    drawing::Cut cut(const Part& part, const Frame& placed, const Frame& plane,
                     const drawing::Strip& strip = {});
    /// As a section asks for it; this object must outlive the answer.
    drawing::Cutter cutter();
    /// How many solids were built and cuts made so far.
    struct Count {
        std::size_t solids = 0, cuts = 0, meshes = 0;
    };
    Count made() const;

private:
    struct Kept;
    std::unique_ptr<Kept> kept_;
};

}
