#pragma once
#include "algebra/linear_programme.hpp"
#include "contact/held.hpp"

/// What floats and openings allow: the places w of a block's free motions in which every float lies within
/// its radius and every one-sided contact is open or closes.
namespace kollema::contact {

/// How much the contacts of one assembly leave, by contact: the radius of each float, and how far each
/// one-sided contact stands open at nominal.
struct Room {
    std::vector<double> radius_mm, play_mm;
};

/// Some loose rows of a block: their values are slope·w + shift.
struct LooseRows {
    struct Own {
        std::size_t contact = 0;
        Eigen::Index first = 0, count = 0; ///< its rows
        bool opens = false; ///< each row by itself is −play or more; else all within a radius
    };
    std::vector<Own> own;
    Matrix slope;

    double limit(const Own& o, const Room& room) const {
        return o.opens ? room.play_mm[o.contact] : room.radius_mm[o.contact];
    }
};

/// These of the floating rows of a block, over a basis of the motions that they see.
LooseRows loose_rows(const Toleranced& assembly, const HeldBlock& held,
                     const std::vector<Eigen::Index>& rows);

/// Of the places w = base + span·v on a face, on which some rows have their value: the one that lies farthest
/// in some direction, or farthest from all that bounds it.
struct Farthest {
    enum class Is { found, endless, impossible } is = Is::found;
    Vector at;                   ///< v
    double inside_mm = 0;        ///< of the place farthest inside: how far; below zero none suits
    std::vector<bool> carries{}; ///< by row: it bears some of what pushes there
};

/// The same question for one assembly after the other.  A linear programme; a disc is taken by tangents,
/// which are added until none is overrun.  A disc on which nothing depends would take tangents without end,
/// from one corner of them to the next: so it counts a little how far within each disc the place lies.
class FarthestPlace {
public:
    /// Along a direction over v.
    FarthestPlace(const LooseRows& rows, const Matrix& span, const Vector& along);
    /// Inside: as far as can be from every limit.
    FarthestPlace(const LooseRows& rows, const Matrix& span);
    /// `values`: of the rows where v = 0.
    Farthest of(const Vector& values, const Room& room);

private:
    struct Wall {
        enum class Is {
            limit,        ///< −u·value ≥ −limit
            inside_most,  ///< nothing bounds it
            within_least, ///< a place in a disc lies no farther than 0
            within_most,  ///< and no farther than its radius within it
        } is = Is::limit;
        std::size_t own = 0;
        Eigen::Index first = 0;
        Vector u = {};
        double scale = 1; ///< of the programme's row
    };
    void set_walls();
    void set_programme(const Vector& along);
    void forget_tangents();
    Eigen::Index columns() const; ///< of v, how far inside, how far within each disc
    bool stands_in_the_way(const Vector& values, const Room& room) const;
    Eigen::RowVectorXd row_of(Wall& wall) const;
    void add(std::size_t own, Eigen::Index first, Vector u);
    double height(const Wall& wall, const Vector& values, const Room& room) const;
    /// Tangents where discs are overrun.
    std::vector<Wall> overrun(const algebra::Optimum& optimum, const Vector& values, const Room& room) const;
    Farthest told(const algebra::Optimum& optimum) const;
    struct Borne {                      ///< by which limits, and where
        Vector at, force;               ///< that of each of those that carry
        std::vector<std::size_t> walls; ///< that carry; of a disc the first one
    };
    /// By Newton's method from a place found before, where the same limits carry again: then it is the
    /// farthest, for all that bounds it is convex.
    std::optional<Farthest> borne_again(Borne& before, const Vector& values, const Room& room) const;
    std::size_t first_of(std::size_t own) const;
    bool allows(const Vector& at, const Room& room) const;
    void remember(const algebra::Optimum& optimum, const Farthest& found);

    LooseRows rows_;
    Matrix on_face_; ///< slope·span
    bool inside_ = false;
    std::vector<std::size_t> discs_; ///< of `own`
    std::vector<Wall> walls_; ///< first those that are always there, then tangents that were needed before
    std::size_t always_ = 0;
    std::vector<Borne> borne_; ///< those found before, the last first
    Vector wanted_;
    std::optional<algebra::LinearProgramme> programme_;
};

}
