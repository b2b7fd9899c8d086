#include "contact/tied.hpp"
#include "contact/subspaces.hpp"
#include <algorithm>
#include <map>
#include <numeric>

namespace kollema::contact {

std::vector<Tied> tied_groups(const Rows& rows, const Matrix& left_null) {
    std::vector<Tied> groups;
    if (left_null.cols() == 0) return groups;
    // The projector onto the null vectors falls into blocks: rows of different groups do not meet in it.
    const Matrix projector = left_null * left_null.transpose();
    std::vector<std::size_t> contacts; // each with its rows, in order
    std::map<std::size_t, std::vector<Eigen::Index>> rows_of;
    for (std::size_t r = 0; r < rows.owners.size(); ++r) {
        const std::size_t c = rows.owners[r].contact;
        if (contacts.empty() || contacts.back() != c) contacts.push_back(c);
        rows_of[c].push_back(static_cast<Eigen::Index>(r));
    }
    const auto meet = [&](std::size_t a, std::size_t b) {
        return projector(rows_of[a], rows_of[b]).cwiseAbs().maxCoeff() > zero;
    };
    std::vector<bool> seen(contacts.size(), false);
    for (std::size_t i = 0; i < contacts.size(); ++i) {
        if (seen[i] || !meet(contacts[i], contacts[i])) continue;
        std::vector<std::size_t> members{i};
        seen[i] = true;
        for (std::size_t next = 0; next < members.size(); ++next)
            for (std::size_t j = 0; j < contacts.size(); ++j)
                if (!seen[j] && meet(contacts[members[next]], contacts[j])) {
                    seen[j] = true;
                    members.push_back(j);
                }
        std::ranges::sort(members);
        Tied group;
        for (const std::size_t m : members) {
            group.contacts.push_back(contacts[m]);
            const auto& own = rows_of[contacts[m]];
            group.rows.insert(group.rows.end(), own.begin(), own.end());
        }
        group.null = subspaces(projector(group.rows, group.rows)).row_space;
        groups.push_back(std::move(group));
    }
    return groups;
}

}
