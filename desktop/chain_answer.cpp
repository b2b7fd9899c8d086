#include "chain_answer.hpp"
#include "gap_curve.hpp"
#include "panels.hpp"
#include "plot_style.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>
#include <qcustomplot.h>

namespace kollema::desktop {
namespace {

QString shown_figure(double mm, LengthUnit unit) {
    return qt(plain(from_mm(mm, unit), unit == LengthUnit::mm ? 5 : 6));
}

}

ChainAnswer::ChainAnswer(QWidget* parent)
    : QWidget(parent),
      yield_(new QLabel),
      verdict_(new QLabel),
      numbers_(new QLabel),
      at_assembly_(new QLabel),
      ways_title_(heading("")),
      remedy_(new QWidget),
      plot_(new QCustomPlot),
      way_list_(new QListWidget),
      do_way_(new QPushButton("Do this")) {
    yield_->setObjectName("chain_figure");
    yield_->setProperty("big", true);
    verdict_->setWordWrap(true);
    numbers_->setTextFormat(Qt::RichText);
    at_assembly_->setWordWrap(true);
    plot_->setMinimumHeight(130);
    plot_->setAccessibleName("Distribution of the chain's gap");
    way_list_->setObjectName("ways_out");
    way_list_->setAccessibleName("Ways out");
    way_list_->setWordWrap(true);
    way_list_->setSpacing(3);
    way_list_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn); // rows are measured with it
    do_way_->setObjectName("do_way");
    do_way_->setToolTip("Changes the chain; undo takes it back");
    auto* without = new QPushButton("Without it");
    without->setObjectName("without_remedy");
    without->setToolTip("Nothing is done at assembly; undo takes it back");
    auto* copy_words = new QPushButton("Copy as text");
    copy_words->setToolTip("The whole answer in words, for a colleague");
    auto* save_page = new QPushButton("Save page…");
    save_page->setToolTip("The whole answer on one page, as SVG or text");
    connect(copy_words, &QPushButton::clicked, this, &ChainAnswer::copy_wished);
    connect(save_page, &QPushButton::clicked, this, &ChainAnswer::page_wished);
    connect(without, &QPushButton::clicked, this, &ChainAnswer::nothing_at_assembly_wished);
    connect(way_list_, &QListWidget::itemActivated, this, &ChainAnswer::do_way);
    connect(do_way_, &QPushButton::clicked, this, &ChainAnswer::do_way);
    auto* remedy = new QHBoxLayout(remedy_);
    remedy->setContentsMargins(0, 0, 0, 0);
    remedy->addWidget(at_assembly_, 1);
    remedy->addWidget(without);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(do_way_);
    buttons->addStretch(1);
    buttons->addWidget(save_page);
    buttons->addWidget(copy_words);
    auto* column = new QVBoxLayout;
    column->addWidget(yield_);
    column->addWidget(verdict_);
    column->addWidget(remedy_);
    column->addWidget(numbers_);
    column->addWidget(plot_, 4);
    column->addWidget(ways_title_);
    column->addWidget(way_list_, 5);
    column->addLayout(buttons);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(framed(column));
}

void ChainAnswer::show_message(const QString& why) {
    plot_->hide();
    numbers_->hide();
    remedy_->hide();
    ways_.clear();
    way_list_->clear();
    do_way_->setEnabled(false);
    yield_->setText("");
    verdict_->setText(why);
    ways_title_->setText("");
}

void ChainAnswer::show_chain(const ShownChain& shown, LengthUnit unit, bool changes_here) {
    plot_->setVisible(!shown.curve.empty());
    numbers_->show();
    remedy_->setVisible(!shown.at_assembly.isEmpty());
    at_assembly_->setText("At every assembly: " + shown.at_assembly);
    const bool limited = shown.limits.lower || shown.limits.upper;
    yield_->setText(limited ? percent(shown.yield) : QString("no limits"));
    verdict_->setText(
        !limited ? "Give a limit, and what is missed is told"
                 : QString("%1 %2 by %3")
                       .arg(sign(shown.verdict), qt(stack::word(shown.verdict)), qt(shown.verdict.because)));
    numbers_->setText(numbers_of(shown, unit));
    style_plot(*plot_);
    plot_->yAxis->setVisible(false);
    draw_gap_curve(*plot_, {shown.curve, shown.limits, shown.worst_case, shown.rss, shown.nominal_mm}, unit);
    show_ways(shown, changes_here);
}

QString ChainAnswer::numbers_of(const ShownChain& shown, LengthUnit unit) const {
    const auto& d = shown.distribution;
    const auto range = [&](const stack::Interval& i) {
        return shown_figure(i.min, unit) + " … " + shown_figure(i.max, unit);
    };
    QString rows;
    const auto add = [&](const QString& label, const QString& value) {
        rows += QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
                    .arg(theme().faint.name(), label.toHtmlEscaped(), value.toHtmlEscaped());
    };
    add("nominal", shown_figure(shown.nominal_mm, unit) + " " + qt(symbol(unit)));
    add("worst case", shown.worst_case ? range(*shown.worst_case) : "not everywhere possible");
    if (const auto& bound = shown.worst_case_bound)
        add("proven within", std::isfinite(bound->max - bound->min) ? range(*bound) : "nothing");
    add("root sum square", range(shown.rss));
    add("mean ± σ", shown_figure(d.mean, unit) + " ± " + qt(plain(from_mm(d.sigma, unit), 4)));
    add("per million below, above", ppm(d.below) + ", " + ppm(d.above));
    if (shown.drifted) add("yield, mean off by 1.5 σ", percent(*shown.drifted));
    if (shown.sample)
        add(QString("yield, Cpk as low as %1 tell").arg(shown.sample->pieces), percent(shown.sample->yield));
    if (shown.curved) {
        const auto& c = *shown.curved;
        add("yield of the straight chain", percent(d.yield));
        add("the curve costs", qt(fixed(std::round(1e6 * (d.yield - c.drawn.yield)) + 0.0, 0)) + " ppm");
        add("95 % of such trials", percent(c.drawn.ci95.min) + " … " + percent(c.drawn.ci95.max));
        if (c.not_closed > 0)
            add("does not close", QString("%1 of %2").arg(c.not_closed).arg(c.drawn.samples));
        for (const auto& [name, value] : c.unknowns)
            add(qt(name), qt(plain(value, 6)));
    }
    return "<table cellspacing='0'>" + rows + "</table>";
}

void ChainAnswer::show_ways(const ShownChain& shown, bool changes_here) {
    ways_ = shown.ways;
    way_list_->clear();
    for (const auto& way : ways_) {
        const QString text = way.text + "\n" + way.after;
        auto* item = new QListWidgetItem(text, way_list_);
        // The list's own measure of a text of several lines that wrap is too low.
        const int width = way_list_->viewport()->width() - 14;
        const QRect needed =
            way_list_->fontMetrics().boundingRect(0, 0, width, 10'000, Qt::TextWordWrap, text);
        item->setSizeHint({width, needed.height() + 6});
    }
    if (!ways_.empty()) way_list_->setCurrentRow(0);
    do_way_->setEnabled(!ways_.empty());
    const bool limited = shown.limits.lower || shown.limits.upper;
    ways_title_->setText(!limited                             ? ""
                         : shown.verdict.met && ways_.empty() ? "Nothing needs to change"
                         : shown.verdict.met                  ? "Kept; it could be made for"
                         : !changes_here                      ? "Ways out are among the findings"
                         : ways_.empty()                      ? "No single change is enough"
                                                              : "Ways out");
}

void ChainAnswer::do_way() {
    const int row = way_list_->currentRow();
    if (row < 0 || row >= static_cast<int>(ways_.size())) return;
    const WayOut way = ways_[static_cast<std::size_t>(row)]; // the list goes while it is done
    emit way_wished(way);
}

void ChainAnswer::restyle() { style_plot(*plot_); }

}

#include "moc_chain_answer.cpp"
