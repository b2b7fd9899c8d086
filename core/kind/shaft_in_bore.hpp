#pragma once
#include "kind/kind.hpp"

namespace kollema::kind {

/// A shaft in a bore: it runs, slides, is located or is pressed, as the fit decides.  Members: what has the
/// bore (a bore of its own, or a face into which the joint writes it), then the shaft.
struct ShaftInBore {
    std::string duty = "runs"; ///< runs, slides, locates, is pressed
    std::string bore_zone = "H7";
    bool shoulder = true; ///< the shaft's shoulder lies against the bore's far face, where it has one
    bool operator==(const ShaftInBore&) const = default;

    static Info info();
    static std::span<const Field<ShaftInBore>> fields();
    std::optional<Failure> defect() const;
    void follow(std::string_view) {}
    void suit(std::string_view what_it_must_do);
    std::vector<double> stands_mm(const Site& site) const;
    Result<Design> design(const Site& site) const;
    Needs needs(const Site& site, const Design& design, const AsMade& made) const;
};

}
