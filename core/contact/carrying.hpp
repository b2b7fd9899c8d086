#pragma once
#include "contact/loose.hpp"

namespace kollema::contact {

/// What bears some of a push: an opening that is closed, a float at its limit.  u·(values of the rows) is so
/// much of the limit; an opening's is 0.
struct Borne {
    Eigen::Index row = 0; ///< the first of them, as many as u has
    Vector u;
    double of_limit = 0;

    Eigen::RowVectorXd in(const Matrix& slope) const {
        return u.transpose() * slope.middleRows(row, u.size());
    }
};
using Carrying = std::vector<Borne>;

enum class Discs {
    anywhere,    ///< where one may bear some of it any place has to be reckoned with
    as_octagons, ///< within them: places up to a thirteenth of a radius short of the rim
};

/// Every set that can bear the pushes, one after the other, whatever the sizes: each push is a sum of theirs
/// with no share below zero.  One empty set where there are too many to try: then any place has to be
/// reckoned with.
std::vector<Carrying> all_carrying(const LooseRows& rows, const std::vector<Vector>& pushes, Discs discs);

}
