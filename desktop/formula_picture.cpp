#include "formula_picture.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kollema::desktop {
namespace {

constexpr double picture_margin = 16, most_lane = 40;
constexpr std::size_t most_swings = 40;

}

FormulaPicture::FormulaPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(120);
    setAccessibleName("Loops to scale and what each size does");
}

void FormulaPicture::show_chain(const ShownChain& chain, LengthUnit unit) {
    loops_ = chain.loops;
    swings_.clear();
    QStringList said;
    for (std::size_t i = 0; i < chain.links.size() && i < most_swings; ++i) {
        const auto& link = chain.links[i];
        const double half = std::abs(link.sensitivity) * (link.plus_mm - link.minus_mm) / 2;
        const QString text = QString("%1  %2 %3:  gap ±%4")
                                 .arg(link.name, nominal_words(link, unit), link_limits_words(link, unit),
                                      qt(plain(from_mm(half, unit), 3)));
        swings_.push_back({text, half});
        said << text;
    }
    setAccessibleDescription(said.join("; "));
    update();
}

void FormulaPicture::choose(int row) {
    chosen_ = row;
    update();
}

QRectF FormulaPicture::loops_area() const {
    return loops_.empty() ? QRectF() : QRectF(0, 0, 0.55 * width(), height());
}
QRectF FormulaPicture::swings_area() const {
    const double left = loops_area().right();
    return {left, 0, width() - left, static_cast<double>(height())};
}
double FormulaPicture::lane_height() const {
    return std::min(most_lane,
                    (height() - 8.0) / static_cast<double>(std::max<std::size_t>(1, swings_.size())));
}

void FormulaPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().sheet);
    if (!loops_.empty()) draw_loops(painter, loops_area());
    draw_swings(painter, swings_area());
}

/// Seen along z; every side with its length's expression beside its middle.
void FormulaPicture::draw_loops(QPainter& painter, const QRectF& area) const {
    double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
    for (const auto& loop : loops_)
        for (const auto& corner : loop) {
            left = std::min(left, corner.x_mm);
            right = std::max(right, corner.x_mm);
            low = std::min(low, corner.y_mm);
            high = std::max(high, corner.y_mm);
        }
    const double scale = std::min((area.width() - 3 * picture_margin) / std::max(1e-9, right - left),
                                  (area.height() - 3 * picture_margin) / std::max(1e-9, high - low));
    const auto point = [&](const ShownCorner& c) {
        return area.center() + scale * QPointF(c.x_mm - (left + right) / 2, (low + high) / 2 - c.y_mm);
    };
    QPointF middle = area.center();
    for (const auto& loop : loops_)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const QPointF from = point(loop[i]), to = point(loop[(i + 1) % loop.size()]);
            const QPointF way = to - from;
            const double length = std::hypot(way.x(), way.y());
            painter.setPen(QPen(theme().ink, 1.5));
            painter.setBrush(theme().ink);
            painter.drawLine(from, to);
            painter.drawEllipse(from, 2.2, 2.2);
            if (length < 8) continue;
            const QPointF along = way / length, across(-along.y(), along.x());
            painter.drawPolygon(QPolygonF{to, to - 9 * along + 3.5 * across, to - 9 * along - 3.5 * across});
            QPointF out = across;
            const QPointF half = (from + to) / 2;
            if (QPointF::dotProduct(out, half - middle) < 0) out = -out;
            painter.setPen(theme().faint);
            painter.drawText(QRectF(half + 11 * out - QPointF(60, 8), QSizeF(120, 16)), Qt::AlignCenter,
                             loop[i].along);
        }
}

void FormulaPicture::draw_swings(QPainter& painter, const QRectF& area) const {
    double most = 1e-12;
    for (const auto& swing : swings_)
        most = std::max(most, swing.half);
    const double lane = lane_height(), middle = area.center().x(), reach = area.width() / 2 - picture_margin;
    QFont small = font();
    small.setPointSizeF(std::clamp(lane * 0.3, 6.5, 8.5));
    painter.setFont(small);
    for (std::size_t i = 0; i < swings_.size(); ++i) {
        const bool hot = static_cast<int>(i) == chosen_;
        const double top = 4 + static_cast<double>(i) * lane, half = reach * swings_[i].half / most;
        const QRectF bar(middle - half, top + lane * 0.55, 2 * half, std::max(2.0, lane * 0.26));
        painter.fillRect(bar, hot ? theme().accent : theme().hardware);
        painter.setPen(hot ? theme().accent : theme().ink);
        painter.drawText(QRectF(area.left() + 4, top, area.width() - 8, lane * 0.52),
                         Qt::AlignHCenter | Qt::AlignBottom, swings_[i].text);
    }
    painter.setPen(QPen(theme().line, 1, Qt::DotLine));
    painter.drawLine(QPointF(middle, 4), QPointF(middle, 4 + lane * static_cast<double>(swings_.size())));
}

void FormulaPicture::mousePressEvent(QMouseEvent* event) {
    if (!swings_area().contains(event->position())) return;
    const auto row = static_cast<std::size_t>(std::max(0.0, (event->position().y() - 4) / lane_height()));
    if (row < swings_.size()) emit row_clicked(static_cast<int>(row));
}

}

#include "moc_formula_picture.cpp"
