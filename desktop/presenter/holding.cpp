#include "presenter/holding.hpp"
#include "presenter/text.hpp"
#include <QStringList>

namespace kollema::desktop {
namespace {

QString short_words(contact::Motion motion) {
    switch (motion) {
    case contact::Motion::fixed:
        return "stands fast";
    case contact::Motion::turn:
        return "can turn";
    case contact::Motion::slide:
        return "can slide";
    case contact::Motion::helical:
        return "can screw";
    case contact::Motion::turn_and_slide:
        return "can turn and slide";
    case contact::Motion::planar:
        return "can shift on its face";
    case contact::Motion::ball:
        return "can turn every way";
    case contact::Motion::free:
        return "joined to nothing";
    case contact::Motion::other:
        break;
    }
    return "can move";
}

}

PartHold hold_of(const Results& results, const InstanceId& instance) {
    const auto& parts = results.holding.parts;
    const std::size_t at = results.project->instances.position(instance); // parts stand in this order
    if (at >= parts.size()) return {};
    const auto* part = &parts[at];
    PartHold hold{.note = short_words(part->freedom.motion),
                  .details = "Once the joints are tight it " + qt(contact::words(part->freedom)) + ".",
                  .moves = part->freedom.dof > 0};
    if (!hold.moves && part->by_friction) {
        hold.note = "held by friction";
        hold.details += " Some of that is held by friction alone.";
    }
    if (!part->rubbing.empty()) {
        QStringList joints;
        for (const auto& joint : part->rubbing)
            joints << qt(joint);
        hold.details += "\nFriction of " + joints.join(", ") + " holds it.";
    }
    if (!part->held_twice_by.empty()) {
        QStringList names;
        for (const auto& name : part->held_twice_by)
            names << qt(name);
        hold.details +=
            "\nHeld twice by " + names.join(", ") + ": their places must agree within the clearances.";
    }
    if (const auto found = results.idle_motions.find(instance); found != results.idle_motions.end())
        for (const auto& motion : found->second)
            hold.details += "\n" + qt(in_words(motion)) + ".";
    if (kollema::find(*results.project, instance)->may_come_off) hold.details += "\nIt is meant to come off.";
    for (const auto& finding : results.checked.findings)
        if (finding.rule == "comes-off" && finding.parts.front() == part_of(*results.project, instance)->id) {
            hold.note = "can come off";
            hold.details += "\n" + qt(in_words(finding.message)) + ".";
            hold.moves = true;
        }
    return hold;
}

}
