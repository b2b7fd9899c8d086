#pragma once
#include "contact/loose.hpp"
#include "stack/random.hpp"
#include <map>

namespace kollema::contact {

/// Where bodies come to rest among floats and openings.  Each push takes them as far as it can, the first
/// before all later; what could then still come off for ever is closed by hand; what is left is taken by
/// chance, any place as likely as any other (hit and run; Smith, Operations Research 32 (1984), in steps
/// drawn to the shape of what is left).
class RestingPlace {
public:
    /// `rows`: of `held.floating`; `pushes`: over the columns of `held.left`, in order.
    RestingPlace(const Toleranced& assembly, const HeldBlock& held, std::vector<Eigen::Index> rows,
                 const std::vector<Vector>& pushes);

    /// Writes the values of the rows into `floats`, given what the sizes do to them there already.  False
    /// where no place suits.
    bool draw(stack::RandomBlock& random, const Room& room, Vector& floats);

    /// Least and greatest of along·(values of the rows) over the places in which a draw may end; `shift`:
    /// what the sizes do to the rows.  Empty where no place suits.
    std::optional<stack::Interval> range(const Vector& along, const Room& room, const Vector& shift);

    const LooseRows& rows() const { return rows_; }
    const std::vector<Eigen::Index>& of_block() const { return of_block_; }
    const std::vector<Vector>& pushes() const { return pushes_; } ///< over w; that of the hand is the last
    bool endless() const { return endless_; }                     ///< nothing stops some push
    /// Contacts that nothing but the hand keeps closed.
    const std::vector<std::size_t>& by_hand() const { return by_hand_; }

private:
    using Fixed = std::vector<bool>; ///< by row: it has its value
    /// What is asked of a face again and again, by the rows that have their value.
    struct OfFace {
        Matrix span;
        std::vector<std::optional<FarthestPlace>> pushed; ///< by push; empty where it does nothing there
        std::optional<FarthestPlace> inside;
        struct Asked { ///< how far a gap goes there, both ways
            Vector along;
            FarthestPlace least, greatest;
        };
        std::optional<Asked> asked;
    };
    OfFace& of(const Fixed& fixed);
    bool goes_on(const Vector& along) const;
    void close_by_hand();
    bool push(const Room& room, const Vector& shift, Fixed& fixed, Vector& w);
    bool by_chance(stack::RandomBlock& random, const Room& room, const Vector& shift, Fixed fixed, Vector w,
                   Vector& values);
    Vector walk(stack::RandomBlock& random, const Room& room, const Vector& values,
                const Matrix& slope) const;

    std::vector<Eigen::Index> of_block_;
    LooseRows rows_;
    std::vector<Vector> pushes_;
    std::vector<std::size_t> by_hand_;
    bool endless_ = false;
    std::map<Fixed, OfFace> faces_;
};

}
