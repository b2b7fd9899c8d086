#include "gap_curve.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QApplication>
#include <algorithm>
#include <fmt/format.h>
#include <qcustomplot.h>

namespace kollema::desktop {

void draw_gap_curve(QCustomPlot& plot, const GapCurve& gap, LengthUnit unit) {
    const Theme& t = theme();
    const auto limits = gap.limits;
    const auto shown = [unit](double mm) { return from_mm(mm, unit); };
    plot.clearGraphs();
    plot.clearItems();
    QColor miss = t.error, hit = t.good;
    miss.setAlphaF(0.75F);
    hit.setAlphaF(0.35F);
    const auto add_area = [&](std::optional<double> lower, std::optional<double> upper, const QBrush& brush) {
        auto* area = plot.addGraph();
        for (const auto& p : gap.points)
            if ((!lower || p.gap_mm >= *lower) && (!upper || p.gap_mm <= *upper))
                area->addData(shown(p.gap_mm), p.density);
        area->setPen(QPen(t.ink, 1.4));
        area->setBrush(brush);
    };
    if (limits.lower)
        add_area({}, limits.lower,
                 QBrush(miss, Qt::DiagCrossPattern)); // hatched: misses, also without colour
    if (limits.upper) add_area(limits.upper, {}, QBrush(miss, Qt::DiagCrossPattern));
    add_area(limits.lower, limits.upper, hit);
    double top = 0;
    for (const auto& p : gap.points)
        top = std::max(top, p.density);
    double from = gap.points.empty() ? gap.nominal_mm - 0.1 : gap.points.front().gap_mm;
    double to = gap.points.empty() ? gap.nominal_mm + 0.1 : gap.points.back().gap_mm;
    const auto text = [&](double x, double y, const QString& words, Qt::Alignment align,
                          const QColor& colour) {
        auto* item = new QCPItemText(&plot);
        item->position->setCoords(x, y);
        item->setText(words);
        item->setColor(colour);
        item->setFont(QFont(qApp->font().family(), 8));
        item->setPositionAlignment(align);
    };
    for (const auto& limit : {limits.lower, limits.upper})
        if (limit) {
            from = std::min(from, *limit);
            to = std::max(to, *limit);
        }
    // Their names stand between the limits, or outside where there is no room.
    const bool narrow = limits.lower && limits.upper && *limits.upper - *limits.lower < 0.4 * (to - from);
    for (const auto& limit : {limits.lower, limits.upper}) {
        if (!limit) continue;
        auto* line = new QCPItemLine(&plot);
        line->start->setCoords(shown(*limit), 0);
        line->end->setCoords(shown(*limit), top * 1.12);
        line->setPen(QPen(t.error, 1.8));
        const bool lower = limit == limits.lower;
        text(shown(*limit), top * 1.13,
             QString("%1 %2").arg(lower ? "at least" : "at most", qt(plain(shown(*limit), 7))),
             Qt::AlignBottom | (lower != narrow ? Qt::AlignLeft : Qt::AlignRight), t.error);
    }
    const auto bar = [&](const stack::Interval& interval, double y, const QString& name) {
        auto* line = new QCPItemLine(&plot);
        line->start->setCoords(shown(interval.min), y);
        line->end->setCoords(shown(interval.max), y);
        line->setHead(QCPLineEnding(QCPLineEnding::esBar, 7, 7));
        line->setTail(QCPLineEnding(QCPLineEnding::esBar, 7, 7));
        line->setPen(QPen(t.faint, 1.4));
        text(shown((interval.min + interval.max) / 2), y, name, Qt::AlignBottom | Qt::AlignHCenter, t.faint);
        from = std::min(from, interval.min);
        to = std::max(to, interval.max);
    };
    bar(gap.rss, -0.22 * top, "root sum square");
    if (gap.worst_case) bar(*gap.worst_case, -0.5 * top, "worst case");
    const double margin = 0.03 * (to - from);
    plot.xAxis->setRange(shown(from - margin), shown(to + margin));
    plot.yAxis->setRange(-0.6 * top, 1.32 * top);
    plot.xAxis->setLabel(qt(fmt::format("gap ({})", symbol(unit))));
    plot.replot();
}

}
