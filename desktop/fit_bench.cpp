#include "fit_bench.hpp"
#include "figure_strip.hpp"
#include "panels.hpp"
#include "plot_style.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include "zones_view.hpp"
#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <fmt/format.h>
#include <qcustomplot.h>

namespace kollema::desktop {
FitBench::FitBench(QWidget* parent)
    : QWidget(parent),
      pairs_(new QListWidget),
      figures_(new FigureStrip(100, 2)),
      zones_(new ZonesView),
      title_(heading("")),
      verdict_(new QLabel),
      shares_(new QLabel),
      asked_(new ValueEdit),
      plot_(new QCustomPlot),
      sheet_buttons_(new QButtonGroup(this)),
      sheets_(new QStackedWidget),
      play_(new PlaySheet),
      press_(new PressSheet),
      bearing_(new BearingSheet),
      advice_(new AdviceSheet),
      processes_(new ProcessSheet) {
    setAccessibleName("Fit bench");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 6, 6);
    row->addWidget(side_by_side({build_left(), build_middle(), build_right()}, {262, 540, 440}));
}

QWidget* FitBench::build_left() {
    pairs_->setAccessibleName("Pairs on the bench");
    pairs_->setObjectName("pairs");
    pairs_->setMaximumHeight(150);
    pairs_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    figures_->setObjectName("pair_figures");
    figures_->setAccessibleName("Figures of the pair");
    figures_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* add = new QPushButton("New pair");
    auto* remove = new QPushButton("Take off");
    remove->setToolTip("Takes the chosen pair off the bench");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove);
    buttons->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setWidget(figures_);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* column = new QVBoxLayout;
    column->addWidget(heading("Pairs on the bench"));
    column->addWidget(pairs_);
    column->addLayout(buttons);
    column->addWidget(scroll, 1);
    connect(add, &QPushButton::clicked, this, &FitBench::pair_wished);
    connect(remove, &QPushButton::clicked, this, [this] { emit pair_unwished(chosen_); });
    connect(pairs_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0 || row >= static_cast<int>(project_pairs_.size())) return;
        choose(project_pairs_[static_cast<std::size_t>(row)].id);
    });
    connect(figures_, &FigureStrip::change_wished, this,
            [this](const QString& pair, const QString& key, const QString& value) {
                emit figure_wished({pair.toStdString()}, key, value);
            });
    return framed(column);
}

QWidget* FitBench::build_middle() {
    verdict_->setProperty("big", true);
    verdict_->setWordWrap(true);
    asked_->setObjectName("asked");
    asked_->setFixedWidth(88);
    asked_->setAccessibleName("Clearance asked for");
    asked_->setToolTip(
        "A clearance; negative for an interference. Expressions such as 12 um or 0.5 thou are read");
    shares_->setObjectName("shares");
    shares_->setTextFormat(Qt::RichText);
    for (auto* line : {title_, shares_})
        line->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    shares_->setWordWrap(true);
    plot_->setAccessibleName("Distribution of the clearance");
    plot_->setMinimumHeight(130);
    plot_->yAxis->setVisible(false);
    auto* ask = new QHBoxLayout;
    ask->addWidget(new QLabel("Pairs with at least"));
    ask->addWidget(asked_);
    ask->addWidget(shares_, 1);
    auto* column = new QVBoxLayout;
    column->addWidget(title_);
    column->addWidget(verdict_);
    column->addWidget(zones_, 3);
    column->addWidget(plot_, 2);
    column->addLayout(ask);
    connect(zones_, &ZonesView::fit_wished, this,
            [this](const QString& fit) { emit figure_wished(chosen_, "fit", fit); });
    connect(asked_, &ValueEdit::committed, this,
            [this](const QString& text) { emit figure_wished(chosen_, "asked", text); });
    return framed(column);
}

QWidget* FitBench::build_right() {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    int index = 0;
    for (const auto& [name, meaning, sheet] :
         {std::tuple{"Play", "Play, tilt, movement at a reach, and temperature",
                     static_cast<QWidget*>(play_)},
          {"Press", "Press and shrink fit: pressure, forces, stress, heating", press_},
          {"Bearing", "Seats of a ball bearing", bearing_},
          {"Advice", "From what the pair must do to a fit", advice_},
          {"Processes", "What each way of making holds", processes_}}) {
        auto* button = new QToolButton;
        button->setText(name);
        button->setToolTip(meaning);
        button->setCheckable(true);
        button->setChecked(index == 0);
        row->addWidget(button);
        sheet_buttons_->addButton(button, index++);
        sheets_->addWidget(sheet);
    }
    row->addStretch(1);
    auto* column = new QVBoxLayout;
    column->addLayout(row);
    column->addWidget(sheets_, 1);
    connect(sheet_buttons_, &QButtonGroup::idClicked, sheets_, &QStackedWidget::setCurrentIndex);
    const auto take_fit = [this](const QString& fit) { emit figure_wished(chosen_, "fit", fit); };
    connect(advice_, &AdviceSheet::fit_wished, this, take_fit);
    connect(bearing_, &BearingSheet::fit_wished, this, take_fit);
    connect(bearing_, &BearingSheet::task_changed, this, &FitBench::show_pair);
    connect(processes_, &ProcessSheet::process_wished, this, &FitBench::process_wished);
    connect(processes_, &ProcessSheet::reset_wished, this, &FitBench::process_reset_wished);
    connect(processes_, &ProcessSheet::refused, this, &FitBench::refused);
    return framed(column);
}

void FitBench::show_sheet(int index) {
    sheet_buttons_->button(index)->setChecked(true);
    sheets_->setCurrentIndex(index);
}

const FitPair* FitBench::pair() const { return project_pairs_.find(chosen_); }

void FitBench::choose(const PairId& id) {
    asked_->commit();
    chosen_ = id;
    const QSignalBlocker quiet(pairs_);
    for (int row = 0; row < pairs_->count(); ++row)
        if (project_pairs_[static_cast<std::size_t>(row)].id == id) pairs_->setCurrentRow(row);
    show_pair();
}

void FitBench::show_project(const Project& project, LengthUnit unit) {
    const bool same = project.pairs == project_pairs_ && project.workshop == workshop_ && unit == unit_;
    project_pairs_ = project.pairs;
    workshop_ = project.workshop;
    unit_ = unit;
    if (same && result_) return;
    const QSignalBlocker quiet(pairs_);
    pairs_->clear();
    if (!pair()) chosen_ = project_pairs_.empty() ? PairId{} : project_pairs_.front().id;
    for (const auto& p : project_pairs_) {
        pairs_->addItem(
            QString("%1 %2   %3").arg(qt(plain(from_mm(p.nominal_mm, unit_), 6)), qt(p.fit), qt(p.name)));
        pairs_->item(pairs_->count() - 1)->setToolTip(qt(p.name));
        if (p.id == chosen_) pairs_->setCurrentRow(pairs_->count() - 1);
    }
    show_pair();
}

void FitBench::show_pair() {
    const FitPair* p = pair();
    for (QWidget* content : {static_cast<QWidget*>(plot_), static_cast<QWidget*>(sheets_),
                             static_cast<QWidget*>(asked_), static_cast<QWidget*>(shares_)})
        content->setEnabled(p);
    if (!p) {
        result_.reset();
        title_->setText("No pair yet");
        verdict_->clear();
        figures_->show_figures({}, {});
        zones_->show_message(
            "A pair is a hole and a shaft of one size. Put one on the bench with \"New pair\".");
        plot_->clearGraphs();
        plot_->replot();
        return;
    }
    figures_->show_figures(qt(p->id.text), figures_of(*p, unit_));
    result_ = bench_result(*p, bearing_->task());
    QString preferred;
    if (const auto fit = standards::preferred_fit(p->fit)) {
        if (fit->iso) preferred += "  ·  preferred in ISO 286-1";
        if (!fit->b42.empty()) preferred += "  ·  ASME B4.2: " + qt(fit->b42);
    }
    title_->setText(qt(p->name) + preferred);
    if (!*result_) {
        verdict_->setText(message(result_->error()));
        return zones_->show_message(message(result_->error()));
    }
    const BenchResult& r = **result_;
    verdict_->setText(
        QString("%1 %2:  %3")
            .arg(qt(fmt::format("{} {}", plain(from_mm(p->nominal_mm, unit_), 6), symbol(unit_))),
                 shown_fit(r.fit), clearance_words(r.clearance, unit_)));
    zones_->show_fit(p->nominal_mm, r.fit, unit_);
    show_curve(*p, r);
    play_->show_pair(*p, r, unit_);
    press_->show_pair(*p, r, unit_);
    bearing_->show_pair(*p, r, unit_);
    advice_->show_pair(*p, processes_at_hand(workshop_), unit_);
    processes_->show_processes(workshop_, *p, unit_);
}

/// A bearing's ring is no zone of ISO 286: "ring/j6".
QString FitBench::shown_fit(const standards::Fit& fit) {
    const bool ring = fit.hole_zone == "ring" || fit.shaft_zone == "ring";
    return qt(ring ? fit.hole_zone + "/" + fit.shaft_zone : fit.text);
}

void FitBench::show_curve(const FitPair& p, const BenchResult& r) {
    const Theme& t = theme();
    style_plot(*plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    const double scale = unit_ == LengthUnit::mm ? 1000 : 1000 / mm_per_inch;
    double top = 0;
    for (const auto& point : r.curve)
        top = std::max(top, point.density);
    const QColor loose = t.tints[0];
    const auto area = [&](double from, double to, const QBrush& brush) {
        auto* graph = plot_->addGraph();
        for (const auto& point : r.curve)
            if (point.gap_mm >= from && point.gap_mm <= to)
                graph->addData(point.gap_mm * scale, point.density);
        graph->setPen(QPen(t.ink, 1.3));
        graph->setBrush(brush);
    };
    area(-1e9, 0, QBrush(t.ink, Qt::BDiagPattern)); // hatched: tight
    area(0, 1e9, loose);
    const auto upright = [&](double mm, const QString& text, const QColor& colour, double height,
                             Qt::Alignment align) {
        auto* line = new QCPItemLine(plot_);
        line->start->setCoords(mm * scale, 0);
        line->end->setCoords(mm * scale, top * height);
        line->setPen(QPen(colour, 1.4));
        auto* label = new QCPItemText(plot_);
        label->position->setCoords(mm * scale, top * height);
        label->setText(text);
        label->setColor(colour);
        label->setFont(QFont(font().family(), 8));
        label->setPositionAlignment(Qt::AlignBottom | align);
    };
    const double from = std::min(r.curve.front().gap_mm, p.asked_mm),
                 to = std::max(r.curve.back().gap_mm, p.asked_mm), pad = 0.05 * (to - from);
    if (from < 0 && to > 0) upright(0, "◂ tight   loose ▸", t.faint, 1.22, Qt::AlignHCenter);
    upright(p.asked_mm, "asked", t.accent, 1.05,
            p.asked_mm > (from + to) / 2 ? Qt::AlignRight : Qt::AlignLeft);
    plot_->xAxis->setRange((from - pad) * scale, (to + pad) * scale);
    plot_->yAxis->setRange(0, 1.42 * top);
    plot_->xAxis->setLabel(unit_ == LengthUnit::mm ? "clearance (µm), tight below zero"
                                                   : "clearance (thou), tight below zero");
    plot_->replot();
    asked_->show_value(unit_ == LengthUnit::mm
                           ? qt(fmt::format("{} um", plain(p.asked_mm * 1000, 6)))
                           : qt(fmt::format("{} thou", plain(p.asked_mm / mm_per_inch * 1000, 4))));
    shares_->setText(
        QString("clearance:  <b>%1</b>  ·  at most:  %2  ·  any play:  %3")
            .arg(percent(r.shares.at_least), percent(r.shares.at_most), percent(r.share_with_play)));
}

Working FitBench::working() const { return result_ && *result_ ? (**result_).working : Working{}; }

void FitBench::restyle() { show_pair(); }

}

#include "moc_fit_bench.cpp"
