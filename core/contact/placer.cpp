#include "contact/placer.hpp"
#include "stack/float_law.hpp"
#include <algorithm>
#include <set>

namespace kollema::contact {

Made made_nominal(const Toleranced& assembly) {
    Made made{.deviation_mm = std::vector<double>(assembly.sizes.size(), 0), .room = {}};
    for (const auto& b : assembly.behaviour) {
        made.room.radius_mm.push_back(b.clearance ? stack::radius_of(b.clearance->size.nominal) : 0);
        made.room.play_mm.push_back(b.one_sided ? b.one_sided->play.nominal : 0);
    }
    return made;
}

Placer::Placer(const Toleranced& assembly, const Effects& effects) : effects_(&effects) {
    std::vector<double> radius;
    for (const auto& b : assembly.behaviour)
        radius.push_back(b.clearance ? stack::radius_of(stack::zone_middle(b.clearance->size)) : 0);
    for (std::size_t b = 0; b < effects.held.all.size(); ++b) {
        floats_.emplace_back(Vector::Zero(effects.held.all[b].floating.matrix.rows()));
        tie(b, radius);
    }
    pull(effects.held);
}

void Placer::tie(std::size_t block, const std::vector<double>& radius) {
    const HeldBlock& held = effects_->held.all[block];
    std::set<std::size_t> tied;
    const auto add = [&](std::variant<PlaceByChance, RestingPlace> place,
                         const std::vector<std::size_t>& contacts) {
        ties_.push_back({block, std::move(place)});
        groups_.push_back(contacts);
        tied.insert(contacts.begin(), contacts.end());
    };
    for (const auto& resting : effects_->blocks[block].resting) {
        std::vector<std::size_t> contacts;
        for (const auto& own : resting.rows().own)
            contacts.push_back(own.contact);
        add(resting, contacts);
        if (resting.pushes().empty() || resting.rows().slope.rows() == resting.rows().slope.cols()) continue;
        for (const auto& own : resting.rows().own) {
            if (!own.opens) continue;
            standing_off_.push_back(own.contact);
            auto& rows = opening_.emplace_back(block, std::vector<Eigen::Index>()).second;
            for (Eigen::Index r = own.first; r < own.first + own.count; ++r)
                rows.push_back(resting.of_block()[static_cast<std::size_t>(r)]);
        }
    }
    for (const auto& group : tied_groups(held.floating, held.spaces.left_null))
        if (std::ranges::none_of(group.contacts, [&](std::size_t c) { return tied.contains(c); }))
            add(PlaceByChance(held, group, radius), group.contacts);
    if (!tied.empty()) tied_blocks_.push_back(block);
    for (std::size_t r = 0; r < held.floating.owners.size(); ++r) {
        const std::size_t c = held.floating.owners[r].contact;
        if (tied.contains(c)) continue;
        const bool known = !alone_.empty() && alone_.back().contact == c;
        if (!known) alone_.push_back({c, block, {}});
        alone_.back().rows.push_back(static_cast<Eigen::Index>(r));
    }
}

void Placer::pull(const Held& held) {
    std::map<std::size_t, Pull> floating; // by contact
    for (std::size_t b = 0; b < held.all.size(); ++b)
        for (std::size_t r = 0; r < held.all[b].floating.owners.size(); ++r) {
            auto& pull = floating[held.all[b].floating.owners[r].contact];
            pull.block = b;
            pull.rows.push_back(static_cast<Eigen::Index>(r));
        }
    for (const auto& gap : effects_->gaps) {
        auto& pulls = pulls_.emplace_back();
        for (const auto& [contact, force] : gap.pulls.of_float) {
            pulls.push_back(floating.at(contact));
            pulls.back().force = force;
        }
    }
}

bool Placer::draw(Tie& tie, stack::RandomBlock& random, const Room& room) {
    if (auto* resting = std::get_if<RestingPlace>(&tie.place))
        return resting->draw(random, room, floats_[tie.block]);
    return std::get<PlaceByChance>(tie.place).draw(random, room.radius_mm, floats_[tie.block]);
}

bool Placer::place(stack::RandomBlock& random, const Made& made, std::span<double> apart) {
    for (const std::size_t b : tied_blocks_) { // what the sizes do to the floats, before these are placed
        const auto& shifts = effects_->blocks[b];
        floats_[b].setZero();
        for (const auto& shift : shifts.sizes)
            floats_[b] += made.deviation_mm[shift.by] * shift.floating;
        for (const auto& shift : shifts.pushes)
            floats_[b] += made.room.radius_mm[shift.by] * shift.floating;
    }
    bool all = true;
    for (std::size_t t = 0; t < ties_.size(); ++t) // each touches its own rows only
        if (!draw(ties_[t], random, made.room)) {
            apart[t] += 1;
            all = false;
        }
    for (const auto& alone : alone_) {
        Vector at(static_cast<Eigen::Index>(alone.rows.size()));
        place_alone(random, made.room.radius_mm[alone.contact], at);
        floats_[alone.block](alone.rows) = at;
    }
    return all;
}

double Placer::stands_off(std::size_t i, const Made& made) const {
    const auto& [block, rows] = opening_[i];
    return std::max(0.0, floats_[block](rows).maxCoeff() + made.room.play_mm[standing_off_[i]]);
}

double Placer::gap(std::size_t g, const Made& made) const {
    const auto& pulls = effects_->gaps[g].pulls;
    double sum = 0;
    for (const auto& pull : pulls_[g])
        for (std::size_t r = 0; r < pull.rows.size(); ++r)
            sum += pull.force[static_cast<Eigen::Index>(r)] * floats_[pull.block][pull.rows[r]];
    for (const auto& [size, pull] : pulls.of_size)
        sum += pull * made.deviation_mm[size];
    for (const auto& [contact, pull] : pulls.of_push)
        sum += pull * made.room.radius_mm[contact];
    return sum;
}

}
