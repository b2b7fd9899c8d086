#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// A register: a spigot in a recess locates two parts across, and the faces round them lie on each other.
/// Members: what has the recess (a bore of its own, or a face into which the joint writes it), then the
/// spigot, which begins at the shoulder that lies on that face.
struct Register {
    std::string zone = "H7"; ///< of a recess that the joint writes
    double deeper_mm = 2;    ///< such a recess, than the spigot is long
    bool operator==(const Register&) const = default;

    static Info info();
    static std::span<const Field<Register>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    std::vector<double> stands_mm(const Site&) const { return {0, 0}; }
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
