#pragma once
#include "contact/effects.hpp"
#include "contact/place_by_chance.hpp"
#include <variant>

namespace kollema::contact {

/// One assembly as it is made.
struct Made {
    std::vector<double> deviation_mm; ///< by size, from its nominal
    Room room;
};
/// All sizes, clearances and plays at nominal.
Made made_nominal(const Toleranced& assembly);

/// Places one assembly after the other within what floats and openings allow, and tells its gaps.
class Placer {
public:
    Placer(const Toleranced& assembly, const Effects& effects);

    /// Contacts that are placed together.
    const std::vector<std::vector<std::size_t>>& groups() const { return groups_; }
    /// False where no place suits; `apart` counts by group.
    bool place(stack::RandomBlock& random, const Made& made, std::span<double> apart);
    double gap(std::size_t g, const Made& made) const; ///< of what is placed, from its nominal

    /// Contacts that a push or a hand would close, but that others may keep open.
    const std::vector<std::size_t>& standing_off() const { return standing_off_; }
    double stands_off(std::size_t i, const Made& made) const; ///< at the corner that is farthest open

private:
    struct Tie {
        std::size_t block = 0;
        std::variant<PlaceByChance, RestingPlace> place;
    };
    struct Alone { ///< a float on which no other depends
        std::size_t contact = 0, block = 0;
        std::vector<Eigen::Index> rows;
    };
    struct Pull { ///< of a contact's rows on a gap
        std::size_t block = 0;
        std::vector<Eigen::Index> rows;
        Vector force;
    };
    void tie(std::size_t block, const std::vector<double>& radius);
    void pull(const Held& held);
    bool draw(Tie& tie, stack::RandomBlock& random, const Room& room);

    const Effects* effects_;
    std::vector<Tie> ties_;
    std::vector<std::vector<std::size_t>> groups_;
    std::vector<std::size_t> tied_blocks_;
    std::vector<Alone> alone_;
    std::vector<std::size_t> standing_off_;
    std::vector<std::pair<std::size_t, std::vector<Eigen::Index>>> opening_; ///< their block and rows there
    std::vector<std::vector<Pull>> pulls_;                                   ///< by gap
    std::vector<Vector> floats_;                                             ///< by block
};

}
