#include "pattern_sheet.hpp"
#include "panels.hpp"
#include "plot_style.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <qcustomplot.h>

namespace kollema::desktop {

PatternPicture::PatternPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(150);
    setAccessibleName("Holes of the pattern");
}

void PatternPicture::show_holes(std::vector<ShownHole> holes) {
    holes_ = std::move(holes);
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
        painter.drawEllipse(at, radius, radius);
        painter.setPen(theme().faint);
        QString text = QString::number(number);
        if (hole.share > 0) text += "  " + qt(fixed(100 * hole.share, 0)) + " %";
        painter.drawText(QRectF(at.x() - 40, at.y() + radius + 1, 80, 16), Qt::AlignHCenter, text);
    }
}

PatternSheet::PatternSheet(QWidget* parent)
    : QWidget(parent),
      name_(heading("")),
      plates_(new QLabel),
      yield_(new QLabel),
      verdict_(new QLabel),
      numbers_(new QLabel),
      picture_(new PatternPicture),
      by_hole_(new QCustomPlot),
      by_zone_(new QCustomPlot),
      classes_(new QListWidget),
      take_(new QPushButton("Take this class")) {
    plates_->setWordWrap(true);
    verdict_->setWordWrap(true);
    numbers_->setTextFormat(Qt::RichText);
    yield_->setObjectName("pattern_figure");
    yield_->setProperty("big", true);
    classes_->setObjectName("pattern_classes");
    classes_->setAccessibleName("Clearance classes");
    take_->setObjectName("take_class");
    take_->setToolTip("Changes the joint's clearance holes; undo takes it back");
    by_hole_->setAccessibleName("Yield by hole");
    by_zone_->setAccessibleName("Yield by position tolerance");
    auto* charts = new QHBoxLayout;
    charts->addWidget(by_hole_);
    charts->addWidget(by_zone_);
    auto* left = new QVBoxLayout;
    left->addWidget(name_);
    left->addWidget(plates_);
    left->addWidget(picture_, 5);
    left->addLayout(charts, 5);
    auto* right = new QVBoxLayout;
    right->addWidget(yield_);
    right->addWidget(verdict_);
    right->addWidget(numbers_);
    right->addWidget(heading("Clearance class"));
    right->addWidget(classes_, 1);
    right->addWidget(take_);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(side_by_side({framed(left), framed(right)}, {690, 340}));
    connect(classes_, &QListWidget::currentRowChanged, this, [this](int chosen) {
        const auto at = static_cast<std::size_t>(chosen);
        take_->setEnabled(chosen >= 0 && at < pattern_.classes.size() && !pattern_.classes[at].as_it_is);
    });
    connect(take_, &QPushButton::clicked, this, [this] {
        const int at = classes_->currentRow();
        if (at >= 0 && at < static_cast<int>(pattern_.classes.size()))
            emit class_wished(pattern_.classes[static_cast<std::size_t>(at)].key);
    });
}

void PatternSheet::show_message(const QString& name, const QString& message) {
    pattern_ = {};
    name_->setText(name);
    plates_->clear();
    yield_->clear();
    verdict_->setText(message);
    numbers_->clear();
    classes_->clear();
    take_->setEnabled(false);
    picture_->show_holes({});
    by_hole_->hide();
    by_zone_->hide();
}

void PatternSheet::show_pattern(const QString& name, const ShownPattern& pattern, LengthUnit unit) {
    pattern_ = pattern;
    unit_ = unit;
    name_->setText(name);
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
    verdict_->setText(pattern.always ? "✓ goes together whatever the combination within the limits"
                                     : "Not in every combination; the parts may shift and turn to suit");
    const auto& ci = pattern.yield.ci95;
    QString rows;
    const auto add = [&](const QString& label, const QString& value) {
        rows += QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
                    .arg(theme().faint.name(), label, value);
    };
    add("95 % of such trials", percent(ci.min) + " … " + percent(ci.max));
    for (const auto& plate : pattern.true_plates)
        add("were " + plate.text + " true", percent(plate.yield));
    numbers_->setText("<table cellspacing='0'>" + rows + "</table>");
    classes_->clear();
    for (const auto& c : pattern.classes)
        classes_->addItem(QString("%1\n    %2%3%4")
                              .arg(c.text, percent(c.yield), c.always ? ", always" : "",
                                   c.as_it_is ? "  ·  as it is" : ""));
    const auto is = std::ranges::find(pattern.classes, true, &ShownChoice::as_it_is);
    if (classes_->count() > 0)
        classes_->setCurrentRow(is == pattern.classes.end() ? 0
                                                            : static_cast<int>(is - pattern.classes.begin()));
    draw_charts();
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
    draw(*by_hole_, pattern_.classes, QString("least hole, %1").arg(qt(symbol(unit_))));
    draw(*by_zone_, pattern_.zones, "position zones, times what they are");
}

void PatternSheet::restyle() {
    draw_charts();
    picture_->update();
}

}
