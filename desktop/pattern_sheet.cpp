#include "pattern_sheet.hpp"
#include "panels.hpp"
#include "pattern_form.hpp"
#include "plot_style.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <qcustomplot.h>

namespace kollema::desktop {

namespace {

/// A round hole; a slot along its direction; of a flattened dowel what its lands leave of the circle.
void draw_hole(QPainter& painter, const ShownHole& hole, const QPointF& at, double radius) {
    painter.save();
    painter.translate(at);
    QPainterPath path;
    if (hole.slot_deg) {
        painter.rotate(-*hole.slot_deg);
        path.addRoundedRect(QRectF(-1.8 * radius, -radius, 3.6 * radius, 2 * radius), radius, radius);
    } else
        path.addEllipse(QPointF(), radius, radius);
    if (hole.flats_deg) {
        painter.rotate(-*hole.flats_deg);
        QPainterPath kept;
        kept.addRect(QRectF(-0.45 * radius, -radius, 0.9 * radius, 2 * radius));
        path = path.intersected(kept);
    }
    painter.drawPath(path);
    painter.restore();
}

}

PatternPicture::PatternPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(150);
    setAccessibleName("Holes of the pattern");
}

void PatternPicture::show_holes(std::vector<ShownHole> holes) {
    holes_ = std::move(holes);
    QStringList said;
    for (std::size_t i = 0; i < holes_.size(); ++i)
        said << QString("%1: %2 % of what does not go together")
                    .arg(i + 1)
                    .arg(qt(fixed(100 * holes_[i].share, 0)));
    setAccessibleDescription(said.join("; "));
    update();
}

void PatternPicture::paintEvent(QPaintEvent*) {
    if (holes_.empty()) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto [left, right] = std::ranges::minmax(holes_, {}, &ShownHole::x_mm);
    const auto [low, high] = std::ranges::minmax(holes_, {}, &ShownHole::y_mm);
    constexpr double margin = 34, radius = 9;
    const double wide = std::max(1.0, right.x_mm - left.x_mm), tall = std::max(1.0, high.y_mm - low.y_mm);
    const double scale = std::min((width() - 2 * margin) / wide, (height() - 2 * margin) / tall);
    const double most = std::max(1e-9, std::ranges::max_element(holes_, {}, &ShownHole::share)->share);
    const QPointF middle(width() / 2.0, height() / 2.0);
    int number = 0;
    for (const auto& hole : holes_) {
        ++number;
        const QPointF at = middle + scale * QPointF(hole.x_mm - (left.x_mm + right.x_mm) / 2,
                                                    (low.y_mm + high.y_mm) / 2 - hole.y_mm);
        QColor fill = theme().error;
        fill.setAlphaF(static_cast<float>(0.75 * hole.share / most));
        painter.setPen(QPen(theme().ink, hole.own ? 1.6 : 1.0, hole.own ? Qt::SolidLine : Qt::DashLine));
        painter.setBrush(hole.share > 0 ? QBrush(fill) : Qt::NoBrush);
        draw_hole(painter, hole, at, radius);
        painter.setPen(theme().faint);
        QString text = QString::number(number);
        if (hole.share > 0) text += "  " + qt(fixed(100 * hole.share, 0)) + " %";
        painter.drawText(QRectF(at.x() - 40, at.y() + radius + 1, 80, 16), Qt::AlignHCenter, text);
    }
}

PatternSheet::PatternSheet(QWidget* parent)
    : QWidget(parent),
      form_(new PatternForm),
      name_(heading("")),
      plates_(new QLabel),
      yield_(new QLabel),
      verdict_(new QLabel),
      numbers_(new QLabel),
      classes_title_(heading("Clearance class")),
      picture_(new PatternPicture),
      by_hole_(new QCustomPlot),
      by_zone_(new QCustomPlot),
      classes_(new QListWidget),
      take_(new QPushButton("Take this class")) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(side_by_side({build_left(), build_right()}, {690, 340}));
    connect(&compute_, &Job::failed, this, &PatternSheet::show_message);
    connect(form_, &PatternForm::pattern_wished, this, &PatternSheet::pattern_wished);
    connect(form_, &PatternForm::refused, this, &PatternSheet::refused);
    connect(take_, &QPushButton::clicked, this, &PatternSheet::take_class);
    connect(classes_, &QListWidget::currentRowChanged, this, [this](int chosen) {
        const auto at = static_cast<std::size_t>(chosen);
        take_->setEnabled(chosen >= 0 && at < pattern_.classes.size() && !pattern_.classes[at].as_it_is);
    });
}

QWidget* PatternSheet::build_left() {
    plates_->setWordWrap(true);
    by_hole_->setAccessibleName("Yield by hole");
    by_zone_->setAccessibleName("Yield by position tolerance");
    auto* charts = new QHBoxLayout;
    charts->addWidget(by_hole_);
    charts->addWidget(by_zone_);
    auto* column = new QVBoxLayout;
    column->addWidget(name_);
    column->addWidget(plates_);
    column->addWidget(form_, 7);
    auto* holes = new QHBoxLayout;
    holes->addWidget(form_->holes(), 5);
    holes->addWidget(picture_, 4);
    column->addLayout(holes, 5);
    column->addLayout(charts, 5);
    return framed(column);
}

QWidget* PatternSheet::build_right() {
    verdict_->setWordWrap(true);
    numbers_->setTextFormat(Qt::RichText);
    yield_->setObjectName("pattern_figure");
    yield_->setProperty("big", true);
    classes_->setObjectName("pattern_classes");
    classes_->setAccessibleName("Clearance classes");
    take_->setObjectName("take_class");
    take_->setToolTip("Changes the clearance holes; undo takes it back");
    auto* column = new QVBoxLayout;
    column->addWidget(yield_);
    column->addWidget(verdict_);
    column->addWidget(numbers_);
    column->addWidget(classes_title_);
    column->addWidget(classes_, 1);
    column->addWidget(take_);
    column->addStretch();
    return framed(column);
}

const TypedPattern* PatternSheet::typed() const {
    const auto* id = std::get_if<PatternId>(&now_.source);
    return id && now_.project ? now_.project->patterns.find(*id) : nullptr;
}

void PatternSheet::look_at(std::shared_ptr<const Project> project, const PatternSource& source,
                           LengthUnit unit) {
    now_ = {std::move(project), source, unit};
    const TypedPattern* pattern = typed();
    if (pattern) now_.unit = pattern->unit;
    for (auto* part : {static_cast<QWidget*>(form_), form_->holes()})
        part->setVisible(pattern);
    for (auto* label : {name_, plates_})
        label->setVisible(!pattern);
    if (pattern) form_->show_pattern(*pattern);
    compute();
    show_now();
}

/// A typed pattern does not change with the rest of the project.
bool PatternSheet::is_of_now(const Question& asked) const {
    if (asked.source != now_.source || asked.unit != now_.unit) return false;
    if (asked.project == now_.project) return true;
    const TypedPattern* now = typed();
    const TypedPattern* then = now ? asked.project->patterns.find(now->id) : nullptr;
    return now && then && now->typed == then->typed && asked.project->workshop == now_.project->workshop;
}

/// Only what is looked at: each chart draws some millions of assemblies.
void PatternSheet::compute() {
    if (compute_.is_running() && is_of_now(running_)) return;
    compute_.stop();
    if (answer_ && is_of_now(answer_->asked)) return;
    running_ = now_;
    compute_.start<std::shared_ptr<const Answer>>(
        [asked = now_](const Ticket& ticket) -> std::shared_ptr<const Answer> {
            auto shown =
                shown_pattern(*asked.project, asked.source, asked.unit, [&] { return ticket.is_wanted(); });
            if (!shown) return nullptr;
            return std::make_shared<const Answer>(Answer{asked, std::move(*shown)});
        },
        [this](std::shared_ptr<const Answer> answer) { take(std::move(answer)); });
}

/// What is not of now any more, because one went back meanwhile, is not kept.
void PatternSheet::take(std::shared_ptr<const Answer> answer) {
    if (answer && is_of_now(answer->asked)) answer_ = std::move(answer);
    show_now();
}

void PatternSheet::show_now() {
    if (!now_.project) return;
    if (const auto* joint = std::get_if<JointId>(&now_.source))
        if (const Joint* j = now_.project->joints.find(*joint)) name_->setText(qt(j->name));
    if (!answer_ || answer_->asked.source != now_.source) return show_message("…");
    const bool outdated = !is_of_now(answer_->asked);
    if (!answer_->shown) return show_message(outdated ? "…" : message(answer_->shown.error()));
    show_pattern(*answer_->shown);
    if (!outdated) return;
    yield_->setText("…");
    verdict_->setText("Computed anew; what stands below is of before");
    take_->setEnabled(false);
}

void PatternSheet::take_class() {
    const auto at = static_cast<std::size_t>(classes_->currentRow());
    if (classes_->currentRow() < 0 || at >= pattern_.classes.size()) return;
    const std::string& name = pattern_.classes[at].key;
    if (const auto* joint = std::get_if<JointId>(&now_.source)) return emit class_wished(*joint, name);
    if (!typed()) return;
    TypedPattern changed = *typed();
    changed.typed = pattern::with_class(std::move(changed.typed), name);
    emit pattern_wished(QString("Clearance holes: %1").arg(qt(name)), changed);
}

void PatternSheet::edit_first_cell() { form_->edit_first_cell(); }

void PatternSheet::show_message(const QString& message) {
    pattern_ = {};
    plates_->clear();
    yield_->clear();
    verdict_->setText(message);
    numbers_->clear();
    show_classes();
    picture_->show_holes({});
    by_hole_->hide();
    by_zone_->hide();
}

void PatternSheet::show_pattern(const ShownPattern& pattern) {
    pattern_ = pattern;
    QStringList lines;
    for (const auto& plate : pattern.plates)
        lines << plate;
    if (!pattern.beside.empty()) {
        QStringList names;
        for (const auto& joint : pattern.beside)
            names << joint;
        lines << "Counted with it, dashed: " + names.join(", ");
    }
    plates_->setText(lines.join("\n"));
    picture_->show_holes(pattern.holes);
    yield_->setText(percent(pattern.yield.yield));
    verdict_->setText(pattern.always     ? "✓ goes together whatever the combination within the limits"
                      : pattern.may_move ? "Not in every combination; the parts may shift and turn to suit"
                                         : "Not in every combination; the parts stay where they are");
    const auto& ci = pattern.yield.ci95;
    QString rows;
    const auto add = [&](const QString& label, const QString& value) {
        rows += QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
                    .arg(theme().faint.name(), label.toHtmlEscaped(), value.toHtmlEscaped());
    };
    add("95 % of such trials", percent(ci.min) + " … " + percent(ci.max));
    for (const auto& plate : pattern.true_plates)
        add("were " + plate.text + " true", percent(plate.yield));
    numbers_->setText("<table cellspacing='0'>" + rows + "</table>");
    show_classes();
    draw_charts();
}

void PatternSheet::show_classes() {
    classes_->clear();
    for (const auto& c : pattern_.classes)
        classes_->addItem(QString("%1\n    %2%3%4")
                              .arg(c.text, percent(c.yield), c.always ? ", always" : "",
                                   c.as_it_is ? "  ·  as it is" : ""));
    const auto is = std::ranges::find(pattern_.classes, true, &ShownChoice::as_it_is);
    if (classes_->count() > 0)
        classes_->setCurrentRow(
            is == pattern_.classes.end() ? 0 : static_cast<int>(is - pattern_.classes.begin()));
    for (QWidget* part : std::initializer_list<QWidget*>{classes_title_, classes_, take_})
        part->setVisible(!pattern_.classes.empty()); // dowels have none
}

namespace {

void draw(QCustomPlot& plot, const std::vector<ShownChoice>& choices, const QString& label) {
    plot.setVisible(choices.size() > 1);
    plot.clearPlottables();
    plot.clearItems();
    style_plot(plot);
    QVector<double> x, y, here_x, here_y;
    for (const auto& c : choices) {
        x << c.value;
        y << 100 * c.yield;
        if (c.as_it_is) {
            here_x << c.value;
            here_y << 100 * c.yield;
        }
    }
    auto* line = plot.addGraph();
    line->setPen(QPen(theme().accent, 1.6));
    line->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme().accent, 6));
    line->setData(x, y);
    auto* here = plot.addGraph();
    here->setLineStyle(QCPGraph::lsNone);
    here->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, theme().ink, 13));
    here->setData(here_x, here_y);
    plot.xAxis->setLabel(label);
    plot.yAxis->setVisible(true);
    plot.yAxis->setLabel("yield, %");
    plot.rescaleAxes();
    plot.xAxis->scaleRange(1.15);
    const auto range = plot.yAxis->range();
    const double spare = std::max(0.02, 0.08 * range.size());
    plot.yAxis->setRange(std::max(0.0, range.lower - spare), std::min(100.0, range.upper) + spare);
    plot.replot();
}

}

void PatternSheet::draw_charts() {
    draw(*by_hole_, pattern_.classes, QString("least hole, %1").arg(qt(symbol(now_.unit))));
    draw(*by_zone_, pattern_.zones, "position zones, times what they are");
}

void PatternSheet::restyle() {
    draw_charts();
    picture_->update();
}

}

#include "moc_pattern_sheet.cpp"
