#include "check/evaluation.hpp"
#include "assembly/joint_blocks.hpp"
#include "assembly/surroundings.hpp"
#include "check/rules.hpp"
#include "joint/locating.hpp"
#include <algorithm>
#include <array>
#include <set>

namespace kollema::check {
namespace {

constexpr std::array joint_rules{matched_holes, joint_needs, edge_distance, clamps_only};

/// Pairs of instances that some joint locates against each other.
using LocatedPairs = std::set<std::pair<InstanceId, InstanceId>>;

LocatedPairs located_pairs(const Project& project, const joint::Designs& designs) {
    LocatedPairs pairs;
    for (const auto& joint : project.joints) {
        if (!joint::locates_across(designs, joint.id)) continue;
        for (const auto& a : joint.members)
            for (const auto& b : joint.members)
                if (a.instance != b.instance) pairs.emplace(a.instance, b.instance);
    }
    return pairs;
}

bool is_located(const LocatedPairs& pairs, const Joint& joint) {
    for (const auto& a : joint.members)
        for (const auto& b : joint.members)
            if (pairs.contains({a.instance, b.instance})) return true;
    return false;
}

std::vector<Findings> findings_of_joint(const JointId& id, const KeptResults::OfJoint& what) {
    std::vector<Findings> by_rule(joint_rules.size());
    const Project& around = *what.around;
    const auto placement = assembly::place(around);
    if (!placement || !placement->designs.find(id)) return by_rule;
    const auto& design = placement->designs.at(id);
    const Joint& joint = *find(around, id);
    const JointScene scene{around,       *placement,  joint, *design, joint::needs(around, joint, design),
                           what.located, what.matters};
    for (std::size_t r = 0; r < joint_rules.size(); ++r)
        by_rule[r] = joint_rules[r](scene);
    return by_rule;
}

Findings findings_of_block(const Project& block) {
    Findings all;
    const auto placement = assembly::place(block);
    if (!placement) return all;
    for (const auto rule : {fighting, stands_off, halves_meet, comes_off}) {
        const Findings found = rule(block, *placement);
        all.insert(all.end(), found.begin(), found.end());
    }
    return all;
}

class Evaluator {
public:
    Evaluator(const Project& project, const Evaluation* before, const std::function<bool()>& keep_going)
        : project_(project),
          before_(before ? &before->kept : nullptr),
          keep_going_(keep_going),
          surroundings_(project) {}

    Result<std::optional<Evaluation>> run() {
        if (!design_joints()) return std::nullopt;
        auto placement = assembly::place(project_, designs_);
        if (!placement) return tl::unexpected(placement.error());
        done_.placement = std::move(*placement);
        const assembly::JointBlocks blocks(project_, designs_);
        if (!answer_gaps(blocks) || !look_at_joints() || !look_at_parts() || !look_at_blocks(blocks))
            return std::nullopt;
        look_at_all();
        std::ranges::stable_sort(done_.findings, std::greater{}, &Finding::severity);
        return std::move(done_);
    }

private:
    bool goes_on() const { return !keep_going_ || keep_going_(); }
    template <class All>
    void add(const All& findings) {
        done_.findings.insert(done_.findings.end(), findings.begin(), findings.end());
    }

    bool design_joints() {
        for (const auto& joint : project_.joints) {
            if (!goes_on()) return false;
            done_.kept.designs.take(
                joint.id, surroundings_.of({joint.id}), before_ ? &before_->designs : nullptr,
                [&](const Project& around) { return joint::design(around, *find(around, joint.id)); });
            designs_.add(joint.id, done_.kept.designs.output(joint.id));
        }
        return true;
    }

    bool look_at_joints() {
        const auto located = located_pairs(project_, designs_);
        std::set<JointId> let_gaps_move;
        for (const auto& [id, gap] : done_.gaps)
            if (*gap)
                let_gaps_move.insert((*gap)->chain.only_clamps.begin(), (*gap)->chain.only_clamps.end());
        for (const auto& joint : project_.joints) {
            if (!goes_on()) return false;
            done_.kept.joints.take(
                joint.id,
                {{done_.kept.designs.input(joint.id)},
                 is_located(located, joint),
                 let_gaps_move.contains(joint.id)},
                before_ ? &before_->joints : nullptr,
                [&](const KeptResults::OfJoint& what) { return findings_of_joint(joint.id, what); });
        }
        for (std::size_t r = 0; r < joint_rules.size(); ++r)
            for (const auto& joint : project_.joints)
                add(done_.kept.joints[joint.id][r]);
        return true;
    }

    bool look_at_parts() {
        for (const auto& part : project_.parts) {
            if (!goes_on()) return false;
            add(done_.kept.parts.take(part.id, part, before_ ? &before_->parts : nullptr, hole_spacing));
        }
        return true;
    }

    bool look_at_blocks(const assembly::JointBlocks& blocks) {
        for (const auto& joints : blocks.all()) {
            if (!goes_on()) return false;
            auto around = joints.size() == 1 ? done_.kept.designs.input(joints.front())
                                             : std::make_shared<const Project>(surroundings_.of(joints));
            add(done_.kept.blocks.take(
                joints, {std::move(around)}, before_ ? &before_->blocks : nullptr,
                [](const Shared<Project>& block) { return findings_of_block(*block); }));
        }
        return true;
    }

    bool answer_gaps(const assembly::JointBlocks& blocks) {
        for (const auto& r : project_.requirements) {
            if (!goes_on()) return false;
            KeptResults::OfGap what{surroundings_.of(blocks.between(r.from.instance, r.to.instance)), {}, r};
            if (!find(what.around, r.from.instance) || !find(what.around, r.to.instance)) {
                done_.gaps[r.id] = // nothing connects them, and what is missing is told from the whole
                    std::make_shared<const Gap>(assembly::evaluate(project_, done_.placement, r));
                continue;
            }
            for (const auto& instance : what.around.instances)
                if (const auto frame = done_.placement.frames.find(instance.id);
                    frame != done_.placement.frames.end())
                    what.frames.insert(*frame);
            done_.gaps[r.id] =
                done_.kept.gaps.take(r.id, std::move(what), before_ ? &before_->gaps : nullptr,
                                     [&](const KeptResults::OfGap& gap) {
                                         assembly::Placement placement{.frames = gap.frames, .designs = {}};
                                         for (const auto& joint : gap.around.joints)
                                             placement.designs.add(joint.id, designs_.share(joint.id));
                                         return std::make_shared<const Gap>(
                                             assembly::evaluate(gap.around, placement, gap.requirement));
                                     });
        }
        return true;
    }

    void look_at_all() {
        const Snapshot snapshot{project_, done_.placement, done_.gaps};
        for (const auto rule : {patterns_apart, collisions, loose_parts, mixed_systems, requirement_met,
                                chains_met, not_in_stock})
            add(rule(snapshot));
    }

    const Project& project_;
    const KeptResults* before_;
    const std::function<bool()>& keep_going_;
    assembly::Surroundings surroundings_;
    joint::Designs designs_;
    Evaluation done_;
};

}

Result<std::optional<Evaluation>> evaluate(const Project& project, const Evaluation* before,
                                           const std::function<bool()>& keep_going) {
    return Evaluator(project, before, keep_going).run();
}

Result<Findings> all_rules(const Project& project) {
    auto evaluation = evaluate(project);
    if (!evaluation) return tl::unexpected(evaluation.error());
    return std::move((*evaluation)->findings);
}

}
