#pragma once
#include "shape/body.hpp"

namespace kollema::shape {

/// A turned part along z: steps from its first end on, and a bore from the same end, with steps of its own.
struct TurnedPart {
    std::vector<TurnedStep> steps{{20, 40}};
    std::vector<TurnedStep> bore = {}; ///< as long as the part or longer: through
    bool operator==(const TurnedPart&) const = default;

    static BodyInfo info();
    static std::span<const Field<TurnedPart>> fields() { return {}; }
    static std::span<const Rows<TurnedPart>> rows();
    std::optional<Failure> defect() const;
    std::vector<Offer> offers() const;
    Recipe recipe() const;
};

}
