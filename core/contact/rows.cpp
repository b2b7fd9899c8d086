#include "contact/rows.hpp"
#include <algorithm>

namespace kollema::contact {
namespace {

using Wrench = Eigen::Matrix<double, 6, 1>;

/// What the motion of a body's point along u is of its scaled twist.
Wrench slide_row(const Scale& scale, const Vector3& at, const Vector3& u) {
    Wrench row;
    row << (at - scale.centre).cross(u) / scale.length_mm, u;
    return row;
}

Wrench row_of(const Scale& scale, const Vector3& at, const Stop& stop) {
    Wrench row;
    if (stop.turns)
        row << stop.u, Vector3::Zero();
    else {
        row = slide_row(scale, at, stop.u);
        row.head<3>() -= stop.lead_per_radian_mm / scale.length_mm * stop.u;
    }
    return row;
}

}

Scale scale_of(const Mechanism& mechanism) {
    Scale scale;
    if (mechanism.contacts.empty()) return scale;
    for (const auto& c : mechanism.contacts)
        scale.centre += c.frame.origin / static_cast<double>(mechanism.contacts.size());
    double greatest = 0, size = 0;
    for (const auto& c : mechanism.contacts) {
        greatest = std::max(greatest, (c.frame.origin - scale.centre).norm());
        size = std::max(size, c.frame.origin.norm());
    }
    if (greatest > 1e-12 * size) scale.length_mm = greatest; // else all stand in one point
    return scale;
}

std::optional<Eigen::Index> column_of(const Blocks& blocks, std::size_t block, std::size_t body) {
    const auto& home = blocks.home[body];
    if (home.block != block) return std::nullopt;
    return 6 * static_cast<Eigen::Index>(home.position);
}

Eigen::Index columns(const Block& block) { return 6 * static_cast<Eigen::Index>(block.bodies.size()); }

Rows rows_for(const Mechanism& mechanism, const Scale& scale, const Blocks& blocks, std::size_t block,
              std::vector<Rows::Owner> owners) {
    Rows rows;
    rows.owners = std::move(owners);
    rows.matrix = Matrix::Zero(static_cast<Eigen::Index>(rows.owners.size()), columns(blocks.all[block]));
    Eigen::Index r = 0;
    for (const auto& owner : rows.owners) {
        const Contact& c = mechanism.contacts[owner.contact];
        const Wrench row = row_of(scale, owner.at, owner.stop);
        if (const auto b = column_of(blocks, block, c.b)) rows.matrix.row(r).segment<6>(*b) = row;
        if (const auto a = column_of(blocks, block, c.a)) rows.matrix.row(r).segment<6>(*a) = -row;
        ++r;
    }
    return rows;
}

Rows rows_of(const Mechanism& mechanism, const Scale& scale, const Blocks& blocks, std::size_t block,
             const std::vector<std::size_t>& contacts) {
    std::vector<Rows::Owner> owners;
    for (const std::size_t i : contacts)
        for (const auto& stop : stops(mechanism.contacts[i]))
            owners.push_back({i, stop, mechanism.contacts[i].frame.origin});
    return rows_for(mechanism, scale, blocks, block, std::move(owners));
}

MotionRows motion_rows(const Scale& scale, const Blocks& blocks, std::size_t from, const Vector3& from_at,
                       std::size_t to, const Vector3& to_at, const Vector3& u) {
    MotionRows rows;
    const auto add = [&](std::size_t body, const Wrench& row) {
        for (const auto& carrier : way_to_ground(blocks, body)) {
            auto& sum = rows.try_emplace(carrier.block, Vector::Zero(columns(blocks.all[carrier.block])))
                            .first->second;
            sum.segment<6>(*column_of(blocks, carrier.block, carrier.body)) += row;
        }
    };
    add(to, slide_row(scale, to_at, u));
    add(from, -slide_row(scale, from_at, u));
    std::erase_if(rows,
                  [](const auto& entry) { return entry.second.isZero(0); }); // beyond both ways' meeting
    return rows;
}

Matrix of_unit_rows(const Matrix& m) {
    Matrix unit = m;
    for (Eigen::Index r = 0; r < m.rows(); ++r)
        if (const double norm = m.row(r).norm(); norm > 0) unit.row(r) /= norm;
    return unit;
}

}
