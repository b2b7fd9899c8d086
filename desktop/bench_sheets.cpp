#include "bench_sheets.hpp"
#include "plot_style.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "steady_table.hpp"
#include "theme.hpp"
#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QVBoxLayout>
#include <fmt/format.h>
#include <numbers>
#include <qcustomplot.h>

namespace kollema::desktop {
namespace {

QLabel* text_label(QWidget* parent) {
    auto* label = new QLabel(parent);
    label->setWordWrap(true);
    label->setTextFormat(Qt::RichText);
    label->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

/// Rows of name and figure as a table for a label.
class Rows {
public:
    Rows& add(const QString& name, const QString& figure) {
        html_ += QString("<tr><td style='color:%1; padding-right:12px'>%2</td><td>%3</td></tr>")
                     .arg(theme().faint.name(), name.toHtmlEscaped(), figure);
        return *this;
    }
    QString html() const { return "<table cellspacing='1'>" + html_ + "</table>"; }

private:
    QString html_;
};

QString lines(const std::vector<std::string>& texts, const QString& bullet) {
    QString all;
    for (const auto& text : texts)
        all += QString("<p style='margin:2px 0'>%1 %2</p>").arg(bullet, qt(text).toHtmlEscaped());
    return all;
}

QCustomPlot* new_plot(const QString& name, QWidget* parent) {
    auto* plot = new QCustomPlot(parent);
    plot->setAccessibleName(name);
    plot->setMinimumHeight(150);
    return plot;
}

QCPGraph* add_line(QCustomPlot& plot, const QColor& colour, Qt::PenStyle style, double width = 1.6) {
    auto* graph = plot.addGraph();
    QPen pen(colour, width);
    pen.setStyle(style);
    graph->setPen(pen);
    return graph;
}

void add_text(QCustomPlot& plot, double x, double y, const QString& text, Qt::Alignment align,
              const QColor& colour) {
    auto* item = new QCPItemText(&plot);
    item->position->setCoords(x, y);
    item->setText(text);
    item->setColor(colour);
    item->setFont(QFont(plot.font().family(), 8));
    item->setPositionAlignment(align);
}

QComboBox* choice(const QStringList& entries, const QString& name, QWidget* parent) {
    auto* box = new QComboBox(parent);
    box->addItems(entries);
    box->setAccessibleName(name);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(12);
    return box;
}

/// What stands in a vertical plot line at a place on the horizontal axis.
void add_upright(QCustomPlot& plot, double x, double from, double to, const QColor& colour) {
    auto* line = new QCPItemLine(&plot);
    line->start->setCoords(x, from);
    line->end->setCoords(x, to);
    line->setPen(QPen(colour, 1, Qt::DashLine));
}

}

PlaySheet::PlaySheet(QWidget* parent)
    : QWidget(parent),
      numbers_(text_label(this)),
      plot_(new_plot("Clearance over temperature", this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(numbers_);
    column->addWidget(plot_, 1);
}

void PlaySheet::show_pair(const FitPair& p, const BenchResult& r, LengthUnit unit) {
    const auto small = [&](double mm) { return small_length(mm, unit); };
    Rows rows;
    if (r.clearance.max_mm > 0) {
        rows.add("pairs with any play", percent(r.share_with_play));
        rows.add("off the middle", "up to " + small(r.play.radial_mm));
        rows.add("tilt", qt(fmt::format("up to {} mrad = {}°", fixed(r.play.tilt_rad * 1000, 2),
                                        fixed(r.play.tilt_rad * 180 / std::numbers::pi, 3))));
        rows.add("at a reach of " + qt(rounded_length(p.reach_mm, unit)),
                 small(r.play.at_reach_mm) + " from side to side");
        rows.add("drift when rolling",
                 qt(fmt::format("{} mm per metre of way", plain(r.play.drift_mm_per_m, 3))));
    } else
        rows.add("play", "none: the fit is tight at every size");
    const auto& hot = r.temperatures.back();
    if (r.axial) rows.add("along the axis", clearance_words(*r.axial, unit));
    if (r.seizes_C)
        rows.add("seizes at",
                 QString("<b>%1 °C</b>: the smallest clearance is used up").arg(qt(fixed(*r.seizes_C, 0))));
    rows.add(qt(fmt::format("at {} °C", plain(hot.celsius, 4))),
             clearance_words({hot.max_mm, hot.min_mm}, unit));
    numbers_->setText(rows.html());

    const Theme& t = theme();
    style_plot(*plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    const double scale = unit == LengthUnit::mm ? 1000 : 1000 / mm_per_inch;
    auto* upper = add_line(*plot_, t.accent, Qt::SolidLine);
    auto* lower = add_line(*plot_, t.accent, Qt::SolidLine);
    double low = 0, high = 0;
    for (const auto& point : r.temperatures) {
        upper->addData(point.celsius, point.max_mm * scale);
        lower->addData(point.celsius, point.min_mm * scale);
        low = std::min(low, point.min_mm * scale);
        high = std::max(high, point.max_mm * scale);
    }
    QColor band = t.accent;
    band.setAlphaF(0.18F);
    upper->setBrush(band);
    upper->setChannelFillGraph(lower);
    const double from = r.temperatures.front().celsius, to = hot.celsius, pad = 0.08 * (high - low + 1e-9);
    auto* zero = new QCPItemLine(plot_);
    zero->start->setCoords(from, 0);
    zero->end->setCoords(to, 0);
    zero->setPen(QPen(t.error, 1.2));
    add_upright(*plot_, fit::room_temperature_C, low - pad, high + pad, t.faint);
    add_text(*plot_, fit::room_temperature_C, high + pad, " 20 °C", Qt::AlignLeft | Qt::AlignTop, t.faint);
    add_text(*plot_, from, 0, " tight below this line",
             Qt::AlignLeft | (low < 0 ? Qt::AlignTop : Qt::AlignBottom), t.error);
    plot_->xAxis->setRange(from, to);
    plot_->yAxis->setRange(low - pad, high + pad);
    plot_->xAxis->setLabel("temperature (°C)");
    plot_->yAxis->setLabel(unit == LengthUnit::mm ? "clearance (µm)" : "clearance (thou)");
    plot_->replot();
}

PressSheet::PressSheet(QWidget* parent)
    : QWidget(parent),
      numbers_(text_label(this)),
      cautions_(text_label(this)),
      plot_(new_plot("Stress across shaft and hub", this)) {
    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 4, 0);
    column->addWidget(numbers_);
    column->addWidget(plot_, 1);
    column->addWidget(cautions_);
    plot_->setMinimumHeight(165);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setWidget(content);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(scroll);
}

void PressSheet::show_pair(const FitPair& p, const BenchResult& r, LengthUnit unit) {
    const bool there = r.press && *r.press;
    plot_->setVisible(there);
    if (!there) {
        numbers_->setText(!r.press ? "This fit has clearance at every size: nothing is pressed."
                                   : message(r.press->error()).toHtmlEscaped());
        cautions_->clear();
        return;
    }
    const fit::PressFit& f = **r.press;
    const auto range = [](fit::Range v, int decimals, const char* unit_name) {
        return qt(fmt::format("{} to {} {}", fixed(v.min, decimals), fixed(v.max, decimals), unit_name));
    };
    const auto safe = [](double stress, double safety) {
        return qt(
            fmt::format("{:.0f} MPa, safety {}{}", stress, fixed(safety, 2), safety < 1 ? "  ✕ yields" : ""));
    };
    Rows rows;
    rows.add(qt(fmt::format("effective interference at {} °C", plain(p.working_C, 4))),
             small_length(f.interference_mm.min, unit) + " to " + small_length(f.interference_mm.max, unit));
    rows.add("pressure", range(f.pressure_MPa, 1, "MPa"));
    rows.add("holds along the axis",
             range({f.axial_force_N.min / 1000, f.axial_force_N.max / 1000}, 2, "kN"));
    rows.add("holds a torque", range(f.torque_Nm, 1, "N·m"));
    rows.add("stress in the hub", safe(f.hub_stress_MPa, f.hub_safety));
    rows.add("stress in the shaft", safe(f.shaft_stress_MPa, f.shaft_safety));
    rows.add("force to press in", qt(fmt::format("up to {} kN", fixed(f.press_in_force_N / 1000, 2))));
    rows.add("heat the hub to", qt(fmt::format("{:.0f} °C", f.heat_hub_to_C)));
    rows.add("or cool the shaft to", f.cool_shaft_to_C ? qt(fmt::format("{:.0f} °C", *f.cool_shaft_to_C))
                                                       : QString("no cold is enough"));
    if (f.bore_change_mm) {
        rows.add("the bush closes in by", small_length(-f.bore_change_mm->max, unit) + " to " +
                                              small_length(-f.bore_change_mm->min, unit));
        rows.add("make its bore before",
                 qt(rounded_length(fit::bore_before_pressing_mm(p.shaft_bore_mm, f), unit)) +
                     ", or ream to size after");
    }
    numbers_->setText(rows.html());
    cautions_->setText(lines(f.cautions, "▲"));
    show_walls(p, r, unit);
}

void PressSheet::show_walls(const FitPair& p, const BenchResult& r, LengthUnit unit) {
    const Theme& t = theme();
    style_plot(*plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    double low = 0, high = 0;
    const auto draw = [&](const std::vector<fit::WallStress>& wall) {
        auto* along = add_line(*plot_, t.accent, Qt::SolidLine);
        auto* radial = add_line(*plot_, t.ink, Qt::DashLine);
        auto* mises = add_line(*plot_, t.error, Qt::DotLine, 2.2);
        for (const auto& s : wall) {
            const double x = from_mm(s.radius_mm, unit);
            along->addData(x, s.tangential_MPa);
            radial->addData(x, s.radial_MPa);
            mises->addData(x, s.mises_MPa);
            low = std::min({low, s.radial_MPa, s.tangential_MPa});
            high = std::max({high, s.mises_MPa, s.tangential_MPa});
        }
    };
    draw(r.walls.shaft);
    draw(r.walls.hub);
    const double pad = 0.1 * (high - low), from = from_mm(p.shaft_bore_mm / 2, unit),
                 joint = from_mm(p.nominal_mm / 2, unit), to = from_mm(p.hub_outer_mm / 2, unit);
    add_upright(*plot_, joint, low - pad, high + pad, t.faint);
    add_text(*plot_, joint, low - pad, "shaft ", Qt::AlignRight | Qt::AlignBottom, t.faint);
    add_text(*plot_, joint, low - pad, " hub", Qt::AlignLeft | Qt::AlignBottom, t.faint);
    const auto& inner = r.walls.hub[r.walls.hub.size() / 3];
    const double x = from_mm(inner.radius_mm, unit);
    add_text(*plot_, x, inner.tangential_MPa, " around", Qt::AlignLeft | Qt::AlignTop, t.accent);
    add_text(*plot_, x, inner.radial_MPa, " outward", Qt::AlignLeft | Qt::AlignTop, t.ink);
    add_text(*plot_, x, inner.mises_MPa, " equivalent", Qt::AlignLeft | Qt::AlignBottom, t.error);
    plot_->xAxis->setRange(from, to);
    plot_->yAxis->setRange(low - pad, high + pad);
    plot_->xAxis->setLabel(qt(fmt::format("radius ({})", symbol(unit))));
    plot_->yAxis->setLabel("stress (MPa)");
    plot_->replot();
}

BearingSheet::BearingSheet(QWidget* parent)
    : QWidget(parent),
      direction_(
          choice({"the shaft turns under a steady load", "the hub turns on a fixed axle", "not certain"},
                 "How the load travels", this)),
      load_(choice({"light", "normal", "heavy"}, "Load", this)),
      precise_(new QCheckBox("runs precisely or fast", this)),
      split_(new QCheckBox("housing is split", this)),
      zones_(text_label(this)),
      remarks_(text_label(this)) {
    direction_->setObjectName("load_direction");
    load_->setCurrentIndex(1);
    auto* form = new QFormLayout;
    form->addRow("Load", direction_);
    form->addRow("Level", load_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(form);
    column->addWidget(precise_);
    column->addWidget(split_);
    column->addWidget(zones_);
    column->addWidget(remarks_);
    column->addStretch(1);
    for (auto* box : {direction_, load_})
        connect(box, &QComboBox::activated, this, &BearingSheet::task_changed);
    for (auto* box : {precise_, split_})
        connect(box, &QCheckBox::clicked, this, &BearingSheet::task_changed);
    connect(zones_, &QLabel::linkActivated, this, &BearingSheet::fit_wished);
}

fit::SeatTask BearingSheet::task() const {
    return {.direction = static_cast<fit::LoadDirection>(direction_->currentIndex()),
            .load = static_cast<fit::LoadLevel>(load_->currentIndex()),
            .precise_or_fast = precise_->isChecked(),
            .split_housing = split_->isChecked()};
}

void BearingSheet::show_pair(const FitPair& p, const BenchResult& r, LengthUnit unit) {
    if (!r.seat) {
        zones_->setText("Type a ball bearing such as 6204 or 608 into the field Bearing: then its seats are "
                        "chosen here.");
        remarks_->clear();
        return;
    }
    if (!*r.seat) {
        zones_->setText(message(r.seat->error()).toHtmlEscaped());
        remarks_->clear();
        return;
    }
    const fit::SeatFit& s = **r.seat;
    const auto bearing = standards::hardware("ISO 15", p.bearing);
    const auto mm = [&](const char* symbol_name) {
        return qt(plain(from_mm((*bearing)[symbol_name].value_or(0), unit), 5));
    };
    Rows rows;
    rows.add("bearing", QString("%1:  %2 × %3 × %4").arg(qt(p.bearing), mm("d"), mm("D"), mm("B")));
    rows.add(
        "shaft",
        QString("<b>%1</b>  %2")
            .arg(qt(s.shaft_zone),
                 clearance_words({s.shaft_clearance_max_um / 1000, s.shaft_clearance_min_um / 1000}, unit)));
    rows.add("housing", QString("<b>%1</b>  %2")
                            .arg(qt(s.housing_zone), clearance_words({s.housing_clearance_max_um / 1000,
                                                                      s.housing_clearance_min_um / 1000},
                                                                     unit)));
    rows.add("shoulders", QString("shaft at least %1, housing at most %2").arg(mm("da"), mm("Da")));
    rows.add("fillet", "at most " + mm("ra"));
    QString text = rows.html() + lines(s.reasons, "–") +
                   "<p style='margin:2px 0'>Rings of class Normal (ISO 492); zones after DIN 5425-1.</p>";
    const std::string fit = "H7/" + s.shaft_zone;
    if (std::abs(p.nominal_mm - (*bearing)["d"].value_or(0)) < 1e-6 && p.fit != fit)
        text += QString("<p><a href='%1'>Draw the shaft's zone %2 on the bench</a></p>")
                    .arg(qt(fit), qt(s.shaft_zone));
    zones_->setText(text);
    QString remarks;
    for (const auto& remark : r.seat_remarks)
        remarks += QString("<p style='margin:3px 0'><span style='color:%1'><b>%2</b></span> %3<br><span "
                           "style='color:%4'>%5</span></p>")
                       .arg((remark.wrong ? theme().error : theme().note).name(), remark.wrong ? "✕" : "●",
                            qt(remark.message).toHtmlEscaped(), theme().faint.name(),
                            qt(remark.because).toHtmlEscaped());
    remarks_->setText(remarks.isEmpty() ? QString("✓ Shoulder, fillet, length and chamfer suit the bearing.")
                                        : remarks);
}

AdviceSheet::AdviceSheet(QWidget* parent) : QWidget(parent), cards_(new QVBoxLayout) {
    using fit::Duty, fit::LoadHeldBy, fit::TakenApart;
    QStringList duties, loads, aparts;
    for (const auto d :
         {Duty::turn, Duty::slide, Duty::locate, Duty::press_by_hand, Duty::press, Duty::shrink})
        duties << qt(fit::title(d));
    for (const auto l : {LoadHeldBy::nothing, LoadHeldBy::key_or_pin, LoadHeldBy::fit})
        loads << qt(fit::title(l));
    for (const auto a : {TakenApart::never, TakenApart::seldom, TakenApart::often})
        aparts << qt(fit::title(a));
    duty_ = choice(duties, "What the pair must do", this);
    duty_->setObjectName("duty");
    load_ = choice(loads, "Who holds the load", this);
    apart_ = choice(aparts, "How often it is taken apart", this);
    apart_->setCurrentIndex(1);
    basis_ =
        choice({"one hole, many shafts (hole basis)", "one shaft, many holes (shaft basis)"}, "Basis", this);
    auto* form = new QFormLayout;
    form->addRow("It must", duty_);
    form->addRow("Load", load_);
    form->addRow("Service", apart_);
    form->addRow("Basis", basis_);
    auto* content = new QWidget;
    cards_->setContentsMargins(0, 0, 4, 0);
    content->setLayout(cards_);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setWidget(content);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(form);
    column->addWidget(scroll, 1);
    for (auto* box : {duty_, load_, apart_, basis_})
        connect(box, &QComboBox::activated, this, &AdviceSheet::advise);
}

void AdviceSheet::show_pair(const FitPair& pair, const std::vector<standards::Process>& processes,
                            LengthUnit unit) {
    pair_ = pair;
    processes_ = processes;
    unit_ = unit;
    advise();
}

void AdviceSheet::advise() {
    while (auto* item = cards_->takeAt(0)) {
        if (auto* widget = item->widget()) {
            widget->hide();
            widget->deleteLater();
        }
        delete item;
    }
    const auto advice =
        fit::advise({.diameter_mm = pair_.nominal_mm,
                     .duty = static_cast<fit::Duty>(duty_->currentIndex()),
                     .load = static_cast<fit::LoadHeldBy>(load_->currentIndex()),
                     .apart = static_cast<fit::TakenApart>(apart_->currentIndex()),
                     .basis = basis_->currentIndex() == 0 ? standards::Basis::hole : standards::Basis::shaft,
                     .hub_material = pair_.hub_material,
                     .shaft_material = pair_.shaft_material},
                    processes_);
    const auto note = [&](const QString& text) {
        auto* label = text_label(this);
        label->setText(text);
        cards_->addWidget(label);
    };
    if (!advice) note(message(advice.error()).toHtmlEscaped());
    if (advice && advice->empty())
        note("No common fit does all of this: take it apart less often, or let a key or pin hold the load.");
    for (const auto& a : advice.value_or(std::vector<fit::Advice>{})) {
        auto* card = new QFrame;
        card->setObjectName("card");
        auto* column = new QVBoxLayout(card);
        auto* text = text_label(card);
        text->setText(QString("<b>%1</b>&nbsp; %2<br>%3<p style='margin:2px 0'>%4</p>%5%6")
                          .arg(qt(a.fit.text),
                               clearance_words(
                                   {a.fit.clearance_max_um() / 1000, a.fit.clearance_min_um() / 1000}, unit_),
                               qt(a.character).toHtmlEscaped(), "Costs: " + qt(a.cost).toHtmlEscaped(),
                               lines(a.reasons, "✓"), lines(a.watch, "▲")));
        column->addWidget(text);
        auto* take = new QPushButton("Take " + qt(a.fit.text), card);
        take->setEnabled(a.fit.text != pair_.fit);
        connect(take, &QPushButton::clicked, this, [this, fit = qt(a.fit.text)] { emit fit_wished(fit); });
        column->addWidget(take, 0, Qt::AlignLeft);
        cards_->addWidget(card);
    }
    cards_->addStretch(1);
}

namespace {
enum ProcessColumn {
    title_column,
    usual_column,
    finest_column,
    least_column,
    held_column,
    roughness_column,
    cost_column,
    process_columns
};
}

ProcessSheet::ProcessSheet(QWidget* parent)
    : QWidget(parent),
      table_(new SteadyTable(0, process_columns, this)) {
    auto* hint = new QLabel(
        "IT grade held every day and with care, the ± it never beats, the ± at this size, roughness Ra in "
        "µm, cost against milling. Type your workshop's own figures; they are saved with the project.",
        this);
    hint->setWordWrap(true);
    hint->setObjectName("faint");
    table_->setObjectName("processes");
    table_->setAccessibleName("Processes");
    table_->setHorizontalHeaderLabels({"Process", "Usual", "Finest", "Least ±", "Here ±", "Ra", "Cost"});
    for (int c = usual_column; c < process_columns; ++c)
        table_->setColumnWidth(c, c == least_column || c == held_column ? 52 : 45);
    table_->horizontalHeader()->setSectionResizeMode(title_column, QHeaderView::Stretch);
    table_->horizontalHeader()->setMinimumSectionSize(30);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(21);
    table_->setShowGrid(false);
    auto* reset = new QAction("Back to the built-in figures", table_);
    reset->setShortcut(Qt::Key_Delete);
    reset->setShortcutContext(Qt::WidgetShortcut);
    table_->addAction(reset);
    table_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(hint);
    column->addWidget(table_, 1);
    connect(table_, &QTableWidget::cellChanged, this, &ProcessSheet::take);
    connect(reset, &QAction::triggered, this, [this] {
        const auto row = static_cast<std::size_t>(std::max(0, table_->currentRow()));
        if (row < processes_.size()) emit reset_wished(qt(processes_[row].id));
    });
}

void ProcessSheet::show_processes(const Workshop& workshop, const FitPair& pair, LengthUnit unit) {
    const QSignalBlocker quiet(table_);
    processes_ = processes_at_hand(workshop);
    unit_ = unit;
    table_->setRowCount(static_cast<int>(processes_.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto& p = processes_[static_cast<std::size_t>(row)];
        const bool own =
            std::ranges::find(workshop.processes, p.id, &standards::Process::id) != workshop.processes.end();
        const auto held = standards::held_tolerance_mm(p, pair.nominal_mm);
        const QString cells[] = {qt(p.title) + (own ? "  (own)" : ""),
                                 QString::number(p.usual_grade),
                                 QString::number(p.finest_grade),
                                 p.least_mm ? qt(plain(from_mm(*p.least_mm, unit), 3)) : QString("–"),
                                 held ? qt(plain(from_mm(*held, unit), 2)) : QString("–"),
                                 qt(plain(p.roughness_um, 3)),
                                 qt(plain(p.cost, 3))};
        for (int c = 0; c < process_columns; ++c) {
            if (table_->is_typed_into(row, c)) continue;
            auto* item = new QTableWidgetItem(cells[c]);
            const bool fixed_cell = c == title_column || c == held_column;
            item->setFlags(fixed_cell ? Qt::ItemIsEnabled | Qt::ItemIsSelectable
                                      : Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable);
            if (c != title_column) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            item->setToolTip(
                c == title_column ? qt(p.title)
                : c == held_column
                    ? "± at this pair's size, every day"
                    : "Double-click to type your own figure; Delete brings the built-in ones back");
            table_->setItem(row, c, item);
        }
    }
}

void ProcessSheet::take(int row, int column) {
    standards::Process p = processes_[static_cast<std::size_t>(row)];
    const std::string text = table_->item(row, column)->text().trimmed().toStdString();
    if (column == least_column && (text.empty() || text == "–")) {
        p.least_mm.reset();
        emit process_wished(p);
        return;
    }
    const auto number = column == least_column ? parse_length_mm(text, unit_) : parse_number(text);
    if (!number) {
        emit refused(message(number.error()));
        return;
    }
    switch (column) {
    case usual_column:
        p.usual_grade = static_cast<int>(std::lround(std::clamp(*number, -99.0, 99.0)));
        break;
    case finest_column:
        p.finest_grade = static_cast<int>(std::lround(std::clamp(*number, -99.0, 99.0)));
        break;
    case least_column:
        p.least_mm = *number;
        break;
    case roughness_column:
        p.roughness_um = *number;
        break;
    default:
        p.cost = *number;
    }
    emit process_wished(p);
}

}

#include "moc_bench_sheets.cpp"
