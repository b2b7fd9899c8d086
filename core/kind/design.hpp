#pragma once
#include "kind/contact.hpp"
#include "quantity/phrase.hpp"
#include "quantity/working.hpp"
#include "shape/feature.hpp"
#include <string>
#include <vector>

namespace kollema::kind {

/// A piece of the catalogue on the joint's axis.
struct PlacedPiece {
    std::string standard, size, strength; ///< strength: a property class, or empty
    double length_mm = 0;                 ///< nominal; 0 for what has none
    double at_mm = 0;     ///< where x = 0 of its drawing stands, from the head-side face into the members
    bool turned = false;  ///< its drawing runs against the axis
    double beside_mm = 0; ///< of its own axis from the joint's, along x: a key
    std::optional<double> closed_over_mm = {}; ///< of a rivet that is set
};

/// What a member gets at every place, if anything.
struct MatchedShape {
    std::optional<Shape> shape;
    std::string parameter; ///< the parameter or outcome that decides it, for a click on its figure
    double at_mm = 0;      ///< along the axis from the member's seat

    const Hole* hole() const { return shape ? std::get_if<Hole>(&*shape) : nullptr; }
};

/// A figure that follows from the others, at its place along the axis.
struct Outcome {
    std::string key, title, meaning;
    Unit unit = Unit::length;
    double least = 0, greatest = 0;    ///< equal for a single figure
    std::optional<double> wanted = {}; ///< at least this much
    double from_mm = 0, to_mm = 0;     ///< where the section shows it
    std::string changed_by;            ///< the parameter that changes it; "thickness": the first member's
};

/// What the assembler does, in order; torque, force and temperature are words of the phrase.
struct AssemblyStep {
    Phrase words;
    std::string caution; ///< empty: none
};

/// Which way along the axis a bearing's ring cannot move on its seat: a shoulder stops it, or it sits tight.
struct RingStops {
    bool minus = false, plus = false;
};

/// What a joint needs of its members and its hardware.
struct Design {
    std::string designation;          ///< of the fastener, short: "M6×20 - 8.8"
    std::vector<PlacedPiece> pieces;  ///< at every place; the fastener first
    std::vector<MatchedShape> shapes; ///< one a member, head side first
    std::vector<Contact> contacts;
    std::vector<RingStops> rings; ///< of a bearing's ring on each member; empty where there is none
    std::vector<Outcome> outcomes;
    std::vector<AssemblyStep> steps;
    Working working;
};

}
