#include "presenter/chains.hpp"
#include "assembly/allocation.hpp"
#include "assembly/chain_remedies.hpp"
#include "formula/polygon.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "stack/typed_angle.hpp"
#include <QStringList>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

std::vector<CurvePoint> curve_of(const stack::ExactDistribution& gap,
                                 const std::optional<stack::Interval>& worst_case) {
    if (gap.sigma() == 0) return {};
    const double far = 5 * gap.sigma();
    const auto worst = worst_case.value_or(stack::Interval{gap.mean() - far, gap.mean() + far});
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
    QString text = QString("yield %1").arg(percent(after.yield));
    if (after.worst_case && !after.remedied)
        text += QString(", worst case %1 to %2 %3")
                    .arg(qt(plain(from_mm(after.worst_case->min, unit), 4)),
                         qt(plain(from_mm(after.worst_case->max, unit), 4)), qt(symbol(unit)));
    if (!making.empty()) text += "; " + qt(making);
    return text;
}

/// What is done at every assembly, and what it leaves over.
QString at_assembly_words(const TypedChain& chain, const assembly::TypedChainResult& result) {
    if (!result.remedied) return {};
    QString text = qt(assembly::words(chain.at_assembly, chain.unit));
    if (result.remedied->left_over > 0) text += ", " + percent(result.remedied->left_over) + " left over";
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

namespace {

LengthUnit unit_of(const ShownLink& link, LengthUnit unit) { return link.angle ? LengthUnit::mm : unit; }

/// Of a chain whose loops close; else none, for why is told already.
std::vector<ShownLoop> loops_of(const TypedChain& chain, const assembly::TypedChainResult& result) {
    std::vector<stack::Contributor> rows(result.chain.begin(),
                                         result.chain.begin() +
                                             static_cast<std::ptrdiff_t>(result.contributions.size()));
    const auto description = assembly::described(chain, std::move(rows), result.limits);
    const auto polygons = description ? formula::polygons(*description) : tl::unexpected(description.error());
    std::vector<ShownLoop> all;
    if (!polygons) return all;
    for (const auto& polygon : *polygons) {
        auto& loop = all.emplace_back();
        for (const auto& corner : polygon)
            loop.push_back({corner.at.x(), corner.at.y(), qt(corner.along)});
    }
    return all;
}

}

QString nominal_words(const ShownLink& link, LengthUnit unit) {
    return qt(plain(from_mm(link.nominal_mm, unit_of(link, unit)), 6)) + (link.angle ? "°" : "");
}

QString link_limits_words(const ShownLink& link, LengthUnit unit) {
    return limits_words(link.plus_mm, link.minus_mm, unit_of(link, unit)) + (link.angle ? "°" : "");
}

QString room_words(const ShownLink& link, LengthUnit unit_of_lengths) {
    const LengthUnit unit = unit_of(link, unit_of_lengths);
    if (!link.alone_half_mm) return link.plus_mm == link.minus_mm ? QString() : QString("–");
    if (std::isinf(*link.alone_half_mm)) return "any";
    return "±" + qt(plain(from_mm(*link.alone_half_mm, unit), 3));
}

ShownChain shown_chain(const GapResult& gap) {
    const auto& result = **gap.result;
    ShownChain shown{
        .limits = result.limits,
        .nominal_mm = result.nominal,
        .worst_case = result.worst_case,
        .worst_case_bound = {},
        .rss = result.rss,
        .distribution = result.distribution,
        .exact = result.exact,
        .yield = result.distribution.yield,
        .drifted = {},
        .sample = {},
        .loops = {},
        .curved = {},
        .at_assembly = {},
        .verdict = {result.decided_by_worst_case, result.decided_because, result.met, result.undecided},
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
                               .worst_case_share = link.worst_case_share,
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
                     .worst_case_bound = result->worst_case_bound,
                     .rss = result->rss,
                     .distribution = result->distribution,
                     .exact = !result->curved,
                     .yield = result->yield,
                     .drifted = result->drifted,
                     .sample = {},
                     .formula = !chain.gap.empty() || !chain.closing.empty(),
                     .loops = chain.closing.empty() ? std::vector<ShownLoop>{} : loops_of(chain, *result),
                     .curved = result->curved,
                     .at_assembly = at_assembly_words(chain, *result),
                     .verdict = result->verdict,
                     .curve = curve_of(stack::ExactDistribution(result->chain), result->worst_case),
                     .ways = {}};
    if (result->at_lowest_cpk) shown.sample = {chain.measured_on, *result->at_lowest_cpk};
    const bool limited = result->limits.lower || result->limits.upper;
    for (std::size_t i = 0; i < result->contributions.size(); ++i) {
        const auto& c = result->chain[i];
        shown.links.push_back(
            {.name = qt(chain.rows[i].name),
             .note = {},
             .angle = stack::is_angle(chain.rows[i]),
             .nominal_mm = c.nominal,
             .plus_mm = c.plus,
             .minus_mm = c.minus,
             .sensitivity = c.sensitivity,
             .variance_share = result->contributions[i].variance_share,
             .worst_case_share = result->contributions[i].worst_case_share,
             .yield_slope = limited ? stack::yield_slope(result->chain, i, result->limits) : 0,
             .alone_half_mm = {}});
    }
    if (!limited) return shown;
    const auto goal = assembly::goal_of(chain, *result);
    for (const std::size_t i : assembly::greatest_contributors(chain, *result)) {
        if (!keep_going()) return std::nullopt;
        if (const auto factor = stack::width_factor(result->chain, i, result->limits, goal))
            shown.links[i].alone_half_mm = *factor * stack::half_width(result->chain[i]);
    }
    if (const auto best = assembly::allocate(chain, *result, workshop, keep_going);
        best && best->changed != chain)
        shown.ways.push_back(allocation_way(chain, *best));
    for (const auto& way : assembly::every_way_out(chain, *result, workshop, keep_going))
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
                     .drawn = chain.curved ? std::optional(chain.curved->drawn) : std::nullopt,
                     .yield = chain.yield,
                     .notes = {},
                     .ways = {}};
    if (page.drawn) {
        page.drawn->mean = in(page.drawn->mean);
        page.drawn->sigma = in(page.drawn->sigma);
    }
    if (chain.drifted)
        page.notes.emplace_back("yield, mean off by 1.5 sigma", percent(*chain.drifted).toStdString());
    if (chain.sample)
        page.notes.emplace_back(
            fmt::format("yield, each Cpk as low as {} pieces allow", chain.sample->pieces),
            percent(chain.sample->yield).toStdString());
    if (chain.curved)
        page.notes.emplace_back(
            "the curve costs",
            fmt::format("{:.0f} ppm",
                        std::round(1e6 * (chain.distribution.yield - chain.curved->drawn.yield)) + 0.0));
    if (!chain.at_assembly.isEmpty())
        page.notes.emplace_back("at every assembly", chain.at_assembly.toStdString());
    if (chain.worst_case) page.worst_case = interval(*chain.worst_case);
    page.distribution.mean = in(chain.distribution.mean);
    page.distribution.sigma = in(chain.distribution.sigma);
    for (const auto& link : chain.links)
        page.rows.push_back(
            {.name = link.name.toStdString(),
             .limits = assembly::limits_text(link.plus_mm, link.minus_mm, unit),
             .nominal = in(link.nominal_mm),
             .sensitivity = link.sensitivity,
             .variance_share = link.variance_share,
             .worst_case_share = link.worst_case_share,
             .yield_slope = chain.drifted ? std::optional(link.yield_slope / from_mm(1, unit_of(link, unit)))
                                          : std::nullopt,
             .alone = room_words(link, unit).toStdString()});
    for (const auto& point : chain.curve)
        page.curve.emplace_back(in(point.gap_mm), point.density);
    for (const auto& way : chain.ways)
        page.ways.push_back((way.text + ": " + way.after).toStdString());
    return page;
}

}
