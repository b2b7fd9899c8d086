#include "presenter/chains.hpp"
#include "assembly/allocation.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <QStringList>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

std::vector<CurvePoint> curve_of(const stack::ExactDistribution& gap, const stack::Interval& worst) {
    if (gap.sigma() == 0) return {};
    std::vector<CurvePoint> curve;
    const double reach = 4.2 * gap.sigma(), margin = 0.02 * (worst.max - worst.min);
    const double from = std::max(gap.mean() - reach, worst.min - margin),
                 to = std::min(gap.mean() + reach, worst.max + margin);
    constexpr int points = 160;
    for (int i = 0; i <= points; ++i) {
        const double x = from + (to - from) * i / points;
        curve.push_back({x, gap.density(x)});
    }
    return curve;
}

QString after_words(const assembly::TypedChainResult& after, const std::string& making, LengthUnit unit) {
    QString text =
        QString("yield %1, worst case %2 to %3 %4")
            .arg(percent(after.distribution.yield), qt(plain(from_mm(after.worst_case.min, unit), 4)),
                 qt(plain(from_mm(after.worst_case.max, unit), 4)), qt(symbol(unit)));
    if (!making.empty()) text += "; " + qt(making);
    return text;
}

/// All rows at once, at what it costs.
WayOut allocation_way(const TypedChain& chain, const assembly::Allocation& best) {
    QStringList grades;
    for (std::size_t i = 0; i < best.rows.size(); ++i)
        if (best.rows[i])
            grades << QString("%1 IT%2 (%3)")
                          .arg(qt(chain.rows[i].name))
                          .arg(best.rows[i]->grade)
                          .arg(qt(best.rows[i]->process).toLower());
    return {QString("All at the cheapest grades: cost %1 in all%2")
                .arg(qt(plain(best.cost, 3)), best.proven ? QString() : ", as far as was searched"),
            grades.join(", ") + "; " + after_words(best.after, {}, chain.unit), best.changed};
}

}

QString limits_words(double plus_mm, double minus_mm, LengthUnit unit) {
    return qt(assembly::limits_text(plus_mm, minus_mm, unit));
}

QString room_words(const ShownLink& link, LengthUnit unit) {
    if (!link.alone_half_mm) return link.plus_mm == link.minus_mm ? QString() : QString("–");
    if (std::isinf(*link.alone_half_mm)) return "any";
    return "±" + qt(plain(from_mm(*link.alone_half_mm, unit), 3));
}

ShownChain shown_chain(const GapResult& gap) {
    const auto& result = **gap.result;
    ShownChain shown{.limits = result.limits,
                     .nominal_mm = result.nominal,
                     .worst_case = result.worst_case,
                     .rss = result.rss,
                     .distribution = result.distribution,
                     .exact = result.exact,
                     .verdict = {result.decided_by_worst_case, result.decided_because, result.met},
                     .curve = gap.curve,
                     .ways = {}};
    for (const auto& link : result.chain.links)
        shown.links.push_back({.name = qt(link.name),
                               .note = link.kind == assembly::LinkKind::play      ? "play"
                                       : link.kind == assembly::LinkKind::general ? "general tolerance"
                                                                                  : "",
                               .nominal_mm = link.nominal_mm,
                               .plus_mm = link.plus_mm,
                               .minus_mm = link.minus_mm,
                               .sensitivity = link.sensitivity,
                               .variance_share = link.variance_share,
                               .alone_half_mm = {}});
    return shown;
}

std::optional<Result<ShownChain>> shown_chain(const TypedChain& chain, const Workshop& workshop,
                                              const std::function<bool()>& keep_going) {
    const auto result = assembly::evaluate(chain, workshop);
    if (!result) return tl::unexpected(result.error());
    ShownChain shown{.limits = result->limits,
                     .nominal_mm = result->nominal,
                     .worst_case = result->worst_case,
                     .rss = result->rss,
                     .distribution = result->distribution,
                     .verdict = result->verdict,
                     .curve = curve_of(stack::ExactDistribution(result->chain), result->worst_case),
                     .ways = {}};
    for (std::size_t i = 0; i < result->chain.size(); ++i) {
        const auto& c = result->chain[i];
        shown.links.push_back({.name = qt(c.name),
                               .note = {},
                               .nominal_mm = c.nominal,
                               .plus_mm = c.plus,
                               .minus_mm = c.minus,
                               .sensitivity = c.sensitivity,
                               .variance_share = result->contributions[i].variance_share,
                               .alone_half_mm = {}});
    }
    if (!result->limits.lower && !result->limits.upper) return shown;
    const auto goal = assembly::goal_of(chain, *result);
    for (const std::size_t i : assembly::greatest_contributors(*result)) {
        if (!keep_going()) return std::nullopt;
        if (const auto factor = stack::width_factor(result->chain, i, result->limits, goal))
            shown.links[i].alone_half_mm = *factor * stack::half_width(result->chain[i]);
    }
    if (const auto best = assembly::allocate(chain, *result, workshop, keep_going);
        best && best->changed != chain)
        shown.ways.push_back(allocation_way(chain, *best));
    for (const auto& way : assembly::ways_out(chain, *result, workshop, keep_going))
        shown.ways.push_back({qt(in_words(way.text, chain.unit)),
                              after_words(way.after, way.making, chain.unit), way.changed});
    if (!keep_going()) return std::nullopt;
    return shown;
}

stack::Page page_of(const QString& name, const ShownChain& chain, LengthUnit unit) {
    const auto in = [unit](double mm) { return from_mm(mm, unit); };
    const auto interval = [&](const stack::Interval& i) { return stack::Interval{in(i.min), in(i.max)}; };
    const auto limit = [&](const std::optional<double>& mm) {
        return mm ? std::optional(in(*mm)) : std::nullopt;
    };
    stack::Page page{.name = name.toStdString(),
                     .unit = std::string(symbol(unit)),
                     .rows = {},
                     .limits = {limit(chain.limits.lower), limit(chain.limits.upper)},
                     .nominal = in(chain.nominal_mm),
                     .worst_case = {},
                     .rss = interval(chain.rss),
                     .distribution = chain.distribution,
                     .exact = chain.exact,
                     .curve = {},
                     .verdict = chain.verdict,
                     .drawn = {},
                     .ways = {}};
    if (chain.worst_case) page.worst_case = interval(*chain.worst_case);
    page.distribution.mean = in(chain.distribution.mean);
    page.distribution.sigma = in(chain.distribution.sigma);
    for (const auto& link : chain.links)
        page.rows.push_back({.name = link.name.toStdString(),
                             .limits = assembly::limits_text(link.plus_mm, link.minus_mm, unit),
                             .nominal = in(link.nominal_mm),
                             .sensitivity = link.sensitivity,
                             .variance_share = link.variance_share,
                             .alone = room_words(link, unit).toStdString()});
    for (const auto& point : chain.curve)
        page.curve.emplace_back(in(point.gap_mm), point.density);
    for (const auto& way : chain.ways)
        page.ways.push_back((way.text + ": " + way.after).toStdString());
    return page;
}

}
