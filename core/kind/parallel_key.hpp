#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// A parallel key between a shaft and a hub (DIN 6885-1): it drives, and holds nothing else.  Members: what
/// has the bore, then the shaft; both keyways are the joint's.  What locates the hub on the shaft is a joint
/// of its own.
struct ParallelKey {
    std::string size = {};                ///< "8x7"; empty: by the shaft's diameter
    std::optional<double> length_mm = {}; ///< empty: the longest standard length within the hub
    std::optional<double> begins_mm = {}; ///< from the hub's face; empty: in the middle of what both share
    std::string seat = "light";           ///< firm, light, sliding: the widths of the keyways
    double torque_Nm = 0;                 ///< that it has to carry; 0: not asked
    double safety = 1.5;                  ///< against yield of the flanks
    bool shoulder = true;                 ///< the shaft's shoulder lies against the hub, where it has one
    bool operator==(const ParallelKey&) const = default;

    static Info info();
    static std::span<const Field<ParallelKey>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view changed);
    std::vector<double> stands_mm(const Site& site) const;
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
