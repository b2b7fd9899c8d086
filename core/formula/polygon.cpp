#include "formula/polygon.hpp"
#include "formula/closing.hpp"
#include "formula/steps.hpp"
#include <fmt/format.h>

namespace kollema::formula {

Result<std::vector<std::vector<Corner>>> polygons(Description description) {
    // Each side's figures are asked for as gaps: then they stand on the same tape.
    description.gaps.clear();
    const auto ask = [&](const std::string& text) {
        description.gaps.push_back({fmt::format("{}", description.gaps.size()), "", text, {}});
    };
    for (const auto& loop : description.loops)
        for (const auto& side : loop.sides) {
            ask(side.length);
            ask(side.angle);
            ask(side.elevation.value_or("0"));
        }
    if (description.gaps.empty()) return std::vector<std::vector<Corner>>{};
    const auto model = compile(description);
    if (!model) return tl::unexpected(model.error());
    Eigen::VectorXd sizes(static_cast<Eigen::Index>(model->sizes.size()));
    for (std::size_t i = 0; i < model->sizes.size(); ++i)
        sizes[static_cast<Eigen::Index>(i)] = model->sizes[i].nominal;
    Closing closing(*model);
    const auto closed = closing.from_guess(sizes);
    if (!closed) return tl::unexpected(closed.error());
    std::vector<std::vector<Corner>> all;
    std::size_t gap = 0;
    const auto next = [&] { return closed->values[model->gaps[gap++].value]; };
    for (const auto& loop : description.loops) {
        auto& corners = all.emplace_back();
        Eigen::Vector3d at = Eigen::Vector3d::Zero();
        for (const auto& side : loop.sides) {
            corners.push_back({at, side.length});
            const double length = next(), angle = next(), raised = next();
            at += length *
                  Eigen::Vector3d(cosine(raised) * cosine(angle), cosine(raised) * sine(angle), sine(raised));
        }
    }
    return all;
}

}
