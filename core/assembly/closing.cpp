#include "assembly/closing.hpp"
#include "assembly/contacts.hpp"
#include "contact/held.hpp"
#include <Eigen/Geometry>
#include <algorithm>
#include <limits>

namespace kollema::assembly {
namespace {

using contact::Vector;

constexpr double rounding_mm = 1e-9;

/// All that holds as pins hold, without float, what clamps last.
contact::Toleranced without_floats(contact::Toleranced system) {
    for (std::size_t c = 0; c < system.behaviour.size(); ++c) {
        system.behaviour[c].clearance.reset();
        system.behaviour[c].one_sided.reset();
        if (system.mechanism.contacts[c].type == contact::Type::clamp)
            system.mechanism.contacts[c].type = contact::Type::pin;
    }
    return system;
}

/// A rigid motion of the surroundings.
struct Motion {
    Eigen::Matrix3d turn = Eigen::Matrix3d::Identity();
    Vector3 shift = Vector3::Zero();

    Frame of(const Frame& f) const { return {turn * f.origin + shift, turn * f.x, turn * f.z}; }
    Motion then(const Motion& outer) const { return {outer.turn * turn, outer.turn * shift + outer.shift}; }
};

Vector3 as_rotation_vector(const Eigen::Matrix3d& m) {
    const Eigen::AngleAxisd turn(m);
    return turn.angle() * turn.axis();
}

class Closing {
public:
    Closing(const Project& project, Placement& placement) : project_(project), placement_(placement) {
        for (const auto& joint : project.joints)
            if (auto views = joint::members_of(project, joint)) views_.emplace(joint.id, std::move(*views));
    }

    void run(const InstanceId& ground) {
        constexpr int most_steps = 60;
        constexpr double settled = 1e-11; // of the greatest length
        std::vector<const Joint*> joints;
        for (const auto& joint : project_.joints)
            joints.push_back(&joint);
        contacts_ = contacts_of(project_, placement_, joints, ground);
        for (std::size_t c = 0; c < contacts_.origins.size(); ++c)
            points_.push_back(point_in_joint(c));
        // The rows stay those of the start: faces that are parallel there would tilt into wedges, and closing
        // them by sliding along these comes first by level, and is nothing that anybody does.
        const auto held = contact::held(without_floats(contacts_.system));
        const auto start = placement_.frames;
        double before = std::numeric_limits<double>::infinity();
        for (int step = 0; step < most_steps; ++step) {
            const double now = move(held);
            if (now <= settled * held.scale.length_mm) return;
            if (now > before) break;
            before = now;
        }
        if (before > rounding_mm)
            placement_.frames = start; // it does not settle: as the joints were followed
    }

private:
    /// One step of all bodies, those nearer the ground first; answers the greatest of it.
    double move(const contact::Held& held) {
        std::vector<Motion> motions(contacts_.instances.size());
        double greatest = 0;
        for (std::size_t b = 0; b < held.all.size(); ++b) {
            const auto& block = held.blocks.all[b];
            const auto& firm = held.all[b].firm;
            Vector wanted(static_cast<Eigen::Index>(firm.owners.size()));
            for (std::size_t r = 0; r < firm.owners.size(); ++r)
                wanted[static_cast<Eigen::Index>(r)] = -open_by(firm.owners[r], held.scale.length_mm);
            const Vector twists = held.all[b].firm_to_motion * wanted;
            if (twists.size() > 0) greatest = std::max(greatest, twists.cwiseAbs().maxCoeff());
            for (std::size_t i = 0; i < block.bodies.size(); ++i) {
                const Vector own = twists.segment<6>(6 * static_cast<Eigen::Index>(i));
                motions[block.bodies[i]] = motion(own, held.scale).then(motions[block.root]);
            }
        }
        for (std::size_t body = 0; body < motions.size(); ++body)
            if (const auto at = placement_.frames.find(contacts_.instances[body]);
                at != placement_.frames.end())
                at->second = motions[body].of(at->second);
        return greatest;
    }

    static Motion motion(const Vector& twist, const contact::Scale& scale) {
        const Vector3 turn = twist.head<3>() / scale.length_mm;
        Motion m;
        if (turn.norm() > 0) m.turn = Eigen::AngleAxisd(turn.norm(), turn.normalized()).toRotationMatrix();
        m.shift = scale.centre - m.turn * scale.centre + twist.tail<3>();
        return m;
    }

    /// How far side b of a stop stands off side a: a slide in mm, a turn times the length.
    double open_by(const contact::Rows::Owner& owner, double length_mm) const {
        const auto& origin = contacts_.origins[owner.contact];
        if (!origin.member_a || !origin.member_b) return 0;
        const Frame a = frame_of(*origin.joint, *origin.member_a),
                    b = frame_of(*origin.joint, *origin.member_b);
        const Vector3& at = points_[owner.contact];
        if (!owner.stop.turns) return owner.stop.u.dot(b.point(at) - a.point(at));
        Eigen::Matrix3d axes_a, axes_b;
        axes_a << a.x, a.y(), a.z;
        axes_b << b.x, b.y(), b.z;
        return length_mm * owner.stop.u.dot(as_rotation_vector(axes_b * axes_a.transpose()));
    }

    Vector3 point_in_joint(std::size_t contact) const {
        const auto& origin = contacts_.origins[contact];
        if (!origin.member_b) return Vector3::Zero(); // of none of its joint's members
        return frame_of(*origin.joint, *origin.member_b)
            .local(contacts_.system.mechanism.contacts[contact].frame.origin);
    }

    Frame frame_of(const Joint& joint, std::size_t member) const {
        return joint_frame(views_.at(joint.id), member, placement_.frames.at(joint.members[member].instance));
    }

    const Project& project_;
    Placement& placement_;
    std::map<JointId, std::vector<joint::MemberView>> views_;
    JointContacts contacts_;
    std::vector<Vector3> points_; ///< of the contacts, in their joints' frames
};

}

Frame joint_frame(const std::vector<joint::MemberView>& views, std::size_t member, const Frame& instance) {
    Frame frame = in(instance, views[member].seat);
    frame.origin -= views[member].stands_mm * frame.z;
    return frame;
}

void close_joints(const Project& project, Placement& placement) {
    const auto ground = std::ranges::find(project.instances, true, &Instance::grounded);
    if (ground != project.instances.end()) Closing(project, placement).run(ground->id);
}

}
