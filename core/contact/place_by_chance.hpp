#pragma once
#include "contact/tied.hpp"
#include "stack/random.hpp"

namespace kollema::contact {

/// A place that the floats of one group of tied contacts allow, any as likely as any other.
///
/// Their rows give slope·z + shift, z the bodies' free motion; each contact allows its part up to its radius.
/// Coordinates are taken from the tightest contacts, drawn within these, and thrown away where another
/// contact does not allow the place; where that hardly ever succeeds, a walk from the middle of what is
/// allowed (hit and run; Smith, Operations Research 32 (1984)) does it, if there is anything.
class PlaceByChance {
public:
    /// `radius_mm`: usual ones, by contact of the mechanism.
    PlaceByChance(const HeldBlock& held, const Tied& group, const std::vector<double>& radius_mm);

    /// Writes the floats of the group's rows into `floats` (the floating rows of the block), given what the
    /// sizes do to them there already.  False where no place suits.
    bool draw(stack::RandomBlock& random, const std::vector<double>& radius_mm, Vector& floats) const;

private:
    struct Own {
        std::size_t contact = 0;
        Eigen::Index first = 0, count = 0; ///< its rows within the group
    };
    /// Coordinates: rows of the group (or one direction of a contact's two), each within its radius.
    struct Coordinates {
        struct Part {
            std::size_t own = 0;
            Matrix directions; ///< one a coordinate, over the contact's rows
        };
        std::vector<Part> parts;
        Matrix pick;    ///< coordinates = pick·floats
        Matrix to_rows; ///< floats = shift + to_rows·(coordinates − pick·shift)
    };
    Coordinates coordinates(const std::vector<std::size_t>& order) const;
    std::vector<std::size_t> tightest_first(const std::vector<double>& radius_mm) const;
    bool try_once(stack::RandomBlock& random, const Coordinates& by, const std::vector<double>& radius_mm,
                  const Vector& shift, Vector& floats) const;
    bool walk(stack::RandomBlock& random, const Coordinates& by, const std::vector<double>& radius_mm,
              const Vector& shift, Vector& floats) const;
    bool allowed(const std::vector<double>& radius_mm, const Vector& floats) const;
    bool cannot_suit(const std::vector<double>& radius_mm, const Vector& shift) const;

    std::vector<Eigen::Index> rows_;
    std::vector<Own> own_;
    Matrix null_;  ///< null vectors of the rows
    Matrix slope_; ///< the group's rows on a basis of the motions they see
    Coordinates usual_;
};

/// A place in a disc or on a line of this radius, any as likely; size 1 or 2.
void place_alone(stack::RandomBlock& random, double radius_mm, Eigen::Ref<Vector> place);

}
