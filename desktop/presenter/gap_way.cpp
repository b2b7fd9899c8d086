#include "presenter/gap_way.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"

namespace kollema::desktop {

GapWay way_of(const Requirement& requirement, const GapResult& gap) {
    GapWay way{qt(requirement.name), requirement.from.instance, requirement.to.instance, {}};
    if (!*gap.result) return way;
    for (const auto& carrying : (*gap.result)->chain.way) {
        QString& line = way.carries[carrying.joint];
        line +=
            (line.isEmpty() ? QString("Of a force of 1 across %1 it bears: ").arg(way.gap) : QString(", ")) +
            qt(carrying.name) + " " + qt(fixed(carrying.force.norm(), 2));
    }
    return way;
}

}
