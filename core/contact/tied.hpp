#pragma once
#include "contact/held.hpp"

namespace kollema::contact {

/// Contacts that a left null vector ties together: their rows depend on each other.
struct Tied {
    std::vector<std::size_t> contacts;
    std::vector<Eigen::Index> rows;
    Matrix null; ///< the null vectors of these rows, orthonormal columns
};
/// `left_null`: orthonormal columns over the rows.
std::vector<Tied> tied_groups(const Rows& rows, const Matrix& left_null);

}
