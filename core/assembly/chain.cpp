#include "assembly/chain.hpp"
#include "assembly/joint_blocks.hpp"
#include "assembly/open_seats.hpp"
#include "assembly/part_sizes.hpp"
#include "quantity/format.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::assembly {
namespace {

/// Contacts that are placed together, since one depends on the other or only pushes.
std::set<std::size_t> placed_together(const contact::Held& held) {
    std::set<std::size_t> all;
    for (std::size_t b = 0; b < held.all.size(); ++b)
        if (held.all[b].one_sided() || held.all[b].spaces.left_null.cols() > 0)
            all.insert(held.blocks.all[b].contacts.begin(), held.blocks.all[b].contacts.end());
    return all;
}

/// Apart or together is the extreme of the gap: a float alone lies at its rim, what is placed together goes
/// as far along the gap as all of it allows.
void set_resting(contact::Toleranced& system, Resting resting, const contact::Effects& by_chance,
                 std::size_t point) {
    if (resting == Resting::chance) return;
    const bool centred = resting == Resting::centred;
    const double sign = resting == Resting::to_wider ? 1 : -1;
    const auto together = placed_together(by_chance.held);
    const auto& forces = by_chance.gaps[point].forces;
    for (std::size_t c = 0; c < system.behaviour.size(); ++c) {
        auto& [level, clearance, one_sided] = system.behaviour[c];
        const bool is_wall = one_sided && one_sided->corners.size() > 1;
        if (centred && is_wall) one_sided.reset(); // both walls as far
        if (!clearance || (together.contains(c) && !centred)) continue;
        const auto force = forces.find(c);
        const bool carries = force != forces.end() && force->second.norm() > 1e-9;
        clearance->rest = carries && !centred ? contact::Rest::pushed : contact::Rest::centred;
        if (carries) clearance->push = sign * force->second.normalized();
    }
    if (centred || together.empty()) return;
    const auto& gap = system.gaps[point];
    system.pushes.push_back( // what fasteners press is pressed first
        {{gap.to.body, gap.to.at, sign * gap.along}, {gap.from.body, gap.from.at, -sign * gap.along}});
}

/// How far a point's worst case lies beyond the limits; without limits how wide it is.
double badness(const contact::GapAnswer& answer, const stack::Limits& limits) {
    if (!answer.worst_case) return 0;
    if (!limits.lower && !limits.upper) return answer.worst_case->max - answer.worst_case->min;
    double most = -1e300;
    if (limits.lower) most = std::max(most, *limits.lower - answer.worst_case->min);
    if (limits.upper) most = std::max(most, answer.worst_case->max - *limits.upper);
    return most;
}

class ChainBuilder {
public:
    ChainBuilder(const Project& project, const Placement& placement, const Requirement& requirement)
        : project_(project),
          placement_(placement),
          requirement_(requirement) {}

    Result<Chain> build() {
        auto place = gap_place(project_, placement_, requirement_);
        if (!place) return tl::unexpected(place.error());
        chain_.place = std::move(*place);
        for (const auto& id : JointBlocks(project_, placement_.designs)
                                  .between(requirement_.from.instance, requirement_.to.instance))
            joints_.push_back(find(project_, id));
        contacts_ = contacts_of(project_, placement_, joints_, requirement_.from.instance);
        if (!contacts_.body_of(requirement_.to.instance)) return unheld();
        add_gaps();
        let_clamps_hold();
        std::vector<GapEnd> ends;
        for (std::size_t g = 0; g < chain_.place.at.size(); ++g) {
            ends.push_back({g, false, requirement_.from});
            ends.push_back({g, true, requirement_.to});
        }
        auto sizes = add_part_sizes(project_, placement_, contacts_, ends);
        if (!sizes) return tl::unexpected(sizes.error());
        sizes_ = std::move(*sizes);
        open_disputed_seats(project_, placement_, contacts_);
        if (auto done = solve(); !done) return tl::unexpected(done.error());
        tell();
        return std::move(chain_);
    }

private:
    tl::unexpected<Failure>
    unheld(std::string why = "no chain of joints fixes their distance in the direction of the gap") const {
        return fail({.what = requirement_.name,
                     .why = std::move(why),
                     .remedy = "Join the parts so that they are located in that direction"});
    }

    void add_gaps() {
        for (const auto& at : chain_.place.at)
            contacts_.system.gaps.push_back({.id = requirement_.id.text,
                                             .name = requirement_.name,
                                             .from = {*contacts_.body_of(requirement_.from.instance), at},
                                             .to = {*contacts_.body_of(requirement_.to.instance),
                                                    at + chain_.place.nominal_mm * chain_.place.along},
                                             .along = chain_.place.along,
                                             .limits = {requirement_.lower_mm, requirement_.upper_mm}});
    }

    /// Where nothing else holds the gap the clearance of what clamps is all that does.
    void let_clamps_hold() {
        const auto held = contact::held(contacts_.system);
        std::set<JointId> pins;
        for (const auto& gap : contacts_.system.gaps)
            for (const std::size_t block : contact::open_blocks(held, gap))
                for (const std::size_t c : held.blocks.all[block].contacts)
                    if (contacts_.system.mechanism.contacts[c].type == contact::Type::clamp)
                        pins.insert(contacts_.origins[c].joint->id);
        if (pins.empty()) return;
        contacts_ = contacts_of(project_, placement_, joints_, requirement_.from.instance, pins);
        add_gaps();
        clamps_ = pins;
    }

    Result<void> solve() {
        auto effects = contact::effects(contacts_.system);
        if (!effects) return unheld(effects.error().why);
        const auto answer_all = [&] {
            chain_.answers.clear();
            for (std::size_t g = 0; g < contacts_.system.gaps.size(); ++g)
                chain_.answers.push_back(contact::answer(contacts_.system, *effects, g));
        };
        answer_all();
        const auto& limits = contacts_.system.gaps.front().limits;
        chain_.worst_point = static_cast<std::size_t>(
            std::ranges::max_element(chain_.answers, {}, [&](const auto& a) { return badness(a, limits); }) -
            chain_.answers.begin());
        if (requirement_.resting != Resting::chance) {
            set_resting(contacts_.system, requirement_.resting, *effects, chain_.worst_point);
            effects = contact::effects(contacts_.system);
            if (!effects) return unheld(effects.error().why);
            answer_all();
        }
        chain_.effects = std::move(*effects);
        return {};
    }

    void tell() {
        constexpr double nothing = 1e-9, least_share = 1e-6;
        const auto& effects = chain_.effects.gaps[chain_.worst_point];
        const auto& answer = chain_.answers[chain_.worst_point];
        const auto& system = contacts_.system;
        for (std::size_t s = 0; s < system.sizes.size(); ++s) {
            const auto& c = answer.contributions[s];
            if (std::abs(c.sensitivity) > nothing) chain_.links.push_back(link_of_size(s, c));
        }
        std::size_t next = system.sizes.size();
        for (std::size_t c = 0; c < system.behaviour.size(); ++c) {
            const auto& one_sided = system.behaviour[c].one_sided;
            if (!system.behaviour[c].clearance && !(one_sided && one_sided->given)) continue;
            const auto& contribution = answer.contributions[next++];
            const bool only_by_place = contribution.worst_case_share > least_share;
            if (std::abs(contribution.sensitivity) > nothing || only_by_place)
                chain_.links.push_back(link_of_play(c, contribution));
        }
        std::ranges::stable_sort(chain_.links, std::greater{}, &Link::variance_share);
        for (const auto& [c, force] : effects.forces)
            if (force.norm() > nothing) {
                const auto& origin = contacts_.origins[c];
                chain_.way.push_back(
                    {origin.joint->id, origin.name, system.mechanism.contacts[c].frame.origin, force});
                if (std::ranges::find(chain_.joints, origin.joint->id) == chain_.joints.end())
                    chain_.joints.push_back(origin.joint->id);
            }
        for (const auto& joint : chain_.joints)
            if (clamps_.contains(joint)) only_clamps(joint);
        double thread_play = 0;
        for (std::size_t c = 0; c < system.behaviour.size(); ++c)
            if (system.behaviour[c].clearance && effects.pulls.of_float.contains(c))
                thread_play = std::max(thread_play, contacts_.origins[c].thread_play_mm);
        if (thread_play > 0)
            chain_.remarks.push_back(fmt::format(
                "screws are taken as centred in their threads: their play there, up to ±{} mm, is left out",
                fixed(thread_play, 3)));
        if (!chain_.place.remark.empty()) chain_.remarks.push_back(chain_.place.remark);
        if (!answer.exact)
            chain_.remarks.emplace_back(
                effects.exact ? "the exact distribution does not converge here: it is simulated"
                : effects.one_sided
                    ? "some contacts only push: the distribution is simulated, sensitivities are means"
                    : "several floats depend on each other: the distribution is simulated");
        chain_.system = system;
    }

    void only_clamps(const JointId& joint) {
        const bool carries_across =
            std::ranges::any_of(chain_.links, [&](const Link& l) { return l.joint == joint; });
        if (!carries_across) return; // its faces carry
        chain_.only_clamps.push_back(joint);
        chain_.remarks.push_back(
            fmt::format("{} only clamp: the gap moves with their clearance until they are tight",
                        find(project_, joint)->name));
    }

    Link link_of_size(std::size_t s, const stack::Contribution& c) const {
        const PartSize& size = sizes_[s].size;
        return {.kind = size.dimension ? LinkKind::dimension : LinkKind::general,
                .name = size.name,
                .part = sizes_[s].part->id,
                .dimension = size.dimension ? size.dimension->id : DimensionId{},
                .nominal_mm = size.size.nominal,
                .plus_mm = size.size.plus,
                .minus_mm = size.size.minus,
                .sensitivity = c.sensitivity,
                .distribution = size.size.distribution,
                .cpk = size.size.cpk,
                .variance_share = c.variance_share,
                .worst_case_share = c.worst_case_share,
                .working = size.working};
    }

    Link link_of_play(std::size_t contact, const stack::Contribution& c) const {
        const auto& behaviour = contacts_.system.behaviour[contact];
        if (behaviour.one_sided) return link_of_opening(contact, behaviour.one_sided->play, c);
        const double radius =
            std::max(0.0, behaviour.clearance->size.nominal + behaviour.clearance->size.plus) / 2;
        return {.kind = LinkKind::play,
                .name = contacts_.origins[contact].name,
                .joint = contacts_.origins[contact].joint->id,
                .plus_mm = radius,
                .minus_mm = -radius,
                .sensitivity = 2 * c.sensitivity,
                .distribution = Distribution::uniform,
                .variance_share = c.variance_share,
                .worst_case_share = c.worst_case_share,
                .working = contacts_.origins[contact].working};
    }

    /// How far a ring or a shoulder stands off, and where what is left to chance stands.
    Link link_of_opening(std::size_t contact, const stack::Contributor& play,
                         const stack::Contribution& c) const {
        return {.kind = LinkKind::play,
                .name = contacts_.origins[contact].name,
                .joint = contacts_.origins[contact].joint->id,
                .nominal_mm = play.nominal,
                .plus_mm = play.plus,
                .minus_mm = play.minus,
                .sensitivity = c.sensitivity,
                .distribution = play.distribution,
                .variance_share = c.variance_share,
                .worst_case_share = c.worst_case_share,
                .working = contacts_.origins[contact].working};
    }

    const Project& project_;
    const Placement& placement_;
    const Requirement& requirement_;
    std::vector<const Joint*> joints_;
    JointContacts contacts_;
    std::set<JointId> clamps_;
    std::vector<SizeOrigin> sizes_; ///< by size of the system
    Chain chain_;
};

}

Result<Chain> chain_of(const Project& project, const Placement& placement, const Requirement& requirement) {
    return ChainBuilder(project, placement, requirement).build();
}

}
