#include "piece_view.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QAction>
#include <QFileDialog>
#include <QPainter>
#include <QPainterPath>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>
#include <vector>

namespace kollema::desktop {
namespace {

constexpr double arrow = 6, overhang = 3;

void arrow_head(QPainter& painter, QPointF tip, QPointF from) {
    const QPointF d = tip - from;
    const double length = std::hypot(d.x(), d.y());
    if (length < 1e-9) return;
    const QPointF along = d / length, across(-along.y(), along.x());
    QPolygonF head{tip, tip - arrow * along + arrow / 4 * across, tip - arrow * along - arrow / 4 * across};
    painter.drawPolygon(head);
}

}

PieceView::PieceView(QWidget* parent) : QWidget(parent) {
    auto* save = new QAction("Save the drawing as SVG…", this);
    connect(save, &QAction::triggered, this, [this] {
        const QString path =
            QFileDialog::getSaveFileName(this, "Save the drawing as SVG", {}, "SVG pictures (*.svg)");
        if (!path.isEmpty()) save_svg(path);
    });
    addAction(save);
    setContextMenuPolicy(Qt::ActionsContextMenu);
    setAccessibleName("Drawing of the piece");
    setAccessibleDescription("The piece true to scale, its dimensions named by the letters of its standard");
}

void PieceView::show_piece(const piece::PieceView& view, LengthUnit unit) {
    view_ = view;
    unit_ = unit;
    update();
}

void PieceView::clear() {
    view_.reset();
    update();
}

bool PieceView::save_svg(const QString& path) {
    QSvgGenerator svg;
    svg.setFileName(path);
    svg.setSize(size());
    svg.setViewBox(rect());
    QPainter painter;
    if (!painter.begin(&svg)) return false;
    paint(painter, rect());
    return painter.end();
}

void PieceView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint(painter, rect());
}

void PieceView::paint(QPainter& painter, const QRectF& room) const {
    const Theme& t = theme();
    if (!view_ || view_->outlines.empty()) {
        painter.setPen(t.faint);
        painter.drawText(room, Qt::AlignCenter, "Choose a standard and a size.");
        return;
    }
    const auto& w = view_->window;
    const double width_mm = std::max(1e-6, w.right - w.left), height_mm = std::max(1e-6, w.top - w.bottom);
    const double scale = std::min((room.width() - 90) / width_mm, (room.height() - 60) / height_mm);
    const QPointF middle =
        room.center() - QPointF(scale * (w.left + w.right) / 2, -scale * (w.bottom + w.top) / 2);
    const auto at = [&](Point p) { return QPointF(middle.x() + scale * p.x, middle.y() - scale * p.y); };
    const auto polygon = [&](const Polygon& points) {
        QPolygonF all;
        for (const auto& p : points)
            all << at(p);
        return all;
    };
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.hardware);
    for (const auto& fill : view_->fills)
        painter.drawPolygon(polygon(fill));
    painter.setPen(QPen(t.ink, 1.4));
    for (const auto& outline : view_->outlines)
        painter.drawPolygon(polygon(outline));
    painter.setBrush(Qt::NoBrush);
    for (const auto& line : view_->lines) {
        QPen pen(t.ink, line.kind == LineKind::visible ? 1.3 : 0.8);
        if (line.kind == LineKind::centre) pen.setDashPattern({14, 4, 2, 4});
        painter.setPen(pen);
        painter.drawPolyline(polygon(line.points));
    }
    QFont letter = font();
    letter.setItalic(true);
    painter.setFont(letter);
    const QFontMetricsF metrics(letter);
    std::vector<QRectF> taken; // two letters never stand on each other
    for (const auto& m : view_->measures) {
        const QPointF a = at(m.from), b = at(m.to), ea = at(m.from_edge), eb = at(m.to_edge);
        painter.setPen(QPen(t.accent, 0.9));
        painter.setBrush(t.accent);
        for (const auto& [edge, end] : {std::pair{ea, a}, {eb, b}}) {
            const QPointF d = end - edge;
            const double length = std::hypot(d.x(), d.y());
            if (length > 1) painter.drawLine(edge + d / length * 2, end + d / length * overhang);
        }
        const bool upright = std::abs(b.y() - a.y()) > std::abs(b.x() - a.x());
        const double span = std::hypot(b.x() - a.x(), b.y() - a.y());
        const QPointF along = span > 0 ? (b - a) / span : QPointF(1, 0);
        if (span > 3 * arrow) {
            painter.drawLine(a, b);
            arrow_head(painter, a, b);
            arrow_head(painter, b, a);
        } else { // too narrow: the arrows come from outside
            painter.drawLine(a - along * 2.2 * arrow, b + along * 2.2 * arrow);
            arrow_head(painter, a, a - along);
            arrow_head(painter, b, b + along);
        }
        const QString text = QString("%1 %2").arg(qt(m.symbol), qt(plain(from_mm(m.value_mm, unit_), 4)));
        const QSizeF size(metrics.horizontalAdvance(text) + 6, metrics.height());
        QPointF place = (a + b) / 2 - QPointF(size.width() / 2, size.height() / 2);
        if (!upright) place.ry() -= size.height() * 0.55;
        if (span <= 3 * arrow && !upright) place = b + QPointF(2.4 * arrow, -size.height() / 2);
        if (span <= 3 * arrow && upright)
            place = QPointF((a.x() + b.x()) / 2 + 4, std::min(a.y(), b.y()) - 2.2 * arrow - size.height());
        for (int tries = 0; tries < 8; ++tries) {
            const QRectF wanted(place, size);
            if (std::ranges::none_of(taken, [&](const QRectF& other) { return other.intersects(wanted); }))
                break;
            place.ry() -= upright ? size.height() * 1.1 : size.height() * 0.9;
        }
        taken.emplace_back(place, size);
        QColor back = t.sheet;
        back.setAlphaF(0.82F);
        painter.fillRect(QRectF(place, size), back);
        painter.setPen(t.accent);
        painter.drawText(QRectF(place, size), Qt::AlignCenter, text);
    }
    painter.setFont(font());
    painter.setPen(t.faint);
    const double dots_per_mm = painter.device()->logicalDpiX() / 25.4;
    painter.drawText(room.adjusted(8, 0, -8, -4), Qt::AlignLeft | Qt::AlignBottom,
                     QString("true to scale, about %1 : 1 · %2")
                         .arg(qt(plain(scale / dots_per_mm, 2)), unit_ == LengthUnit::mm ? "mm" : "in"));
}

}

#include "moc_piece_view.cpp"
