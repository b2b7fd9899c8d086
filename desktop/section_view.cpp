#include "section_view.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QBuffer>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QSvgGenerator>
#include <algorithm>
#include <array>
#include <cmath>

namespace kollema::desktop {
namespace {

constexpr double label_gap = 3, edge = 8, foot = 26;

/// A hole with a recess or a thread takes a line for each, so that the drawing gets the room.
QString label_text(const drawing::Callout& callout) { return qt(callout.text).replace(", ", "\n"); }

QSizeF label_size(const QString& text, const QFont& font) {
    return QFontMetricsF(font).size(0, text) + QSizeF(14, 6);
}

}

SectionView::SectionView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setAccessibleName("Section of the joint");
    setAccessibleDescription(
        "The joint cut through its fasteners, true to scale; a click on a figure leads to its field");
}

void SectionView::show_section(const drawing::Section& section, LengthUnit unit) {
    unit_ = unit;
    const bool other =
        !section_ || section_->title != section.title || section_->window.right != section.window.right ||
        section_->window.bottom != section.window.bottom || section_->window.top != section.window.top;
    section_ = section;
    message_.clear();
    if (other) fit();
    place_labels();
    update();
}

void SectionView::show_message(const QString& message) {
    section_.reset();
    labels_.clear();
    message_ = message;
    update();
}

void SectionView::set_outdated(bool outdated) {
    outdated_ = outdated;
    update();
}

void SectionView::set_plain(bool plain) {
    plain_ = plain;
    if (plain) setMinimumSize(1, 1);
}

void SectionView::show_all() {
    fit();
    place_labels();
    update();
}

double SectionView::column_width(drawing::Side side) const {
    double widest = 0;
    for (const auto& callout : section_->callouts)
        if (callout.side == side) widest = std::max(widest, label_size(label_text(callout), font()).width());
    return widest;
}

void SectionView::fit() {
    if (!section_) return;
    const auto& w = section_->window;
    if (plain_) {
        scale_ = std::min(width() / (w.right - w.left), height() / (w.top - w.bottom));
        offset_ = {width() / 2.0 - scale_ * (w.left + w.right) / 2,
                   height() / 2.0 + scale_ * (w.top + w.bottom) / 2};
        return;
    }
    constexpr double leaders = 26;
    const double left = column_width(drawing::Side::left) + leaders,
                 right = column_width(drawing::Side::right) + leaders;
    const double room_x = std::max(60.0, width() - left - right - 2 * edge),
                 room_y = std::max(60.0, height() - 2 * edge - foot);
    scale_ = std::min(room_x / (w.right - w.left), room_y / (w.top - w.bottom));
    offset_ = {edge + left + room_x / 2 - scale_ * (w.left + w.right) / 2,
               edge + (room_y + scale_ * (w.top + w.bottom)) / 2};
}

QPointF SectionView::on_screen(Point p) const {
    return {offset_.x() + scale_ * p.x, offset_.y() - scale_ * p.y};
}

/// Columns of figures to the left and right, each as high as its place in the drawing where there is room.
void SectionView::place_labels() {
    labels_.clear();
    if (!section_ || plain_) return;
    for (const auto side : {drawing::Side::left, drawing::Side::right}) {
        std::vector<Label> column;
        for (const auto& callout : section_->callouts) {
            if (callout.side != side) continue;
            const QPointF anchor = on_screen(callout.at);
            const QString text = label_text(callout);
            const QSizeF size = label_size(text, font());
            const double x = side == drawing::Side::left ? edge : width() - edge - size.width();
            column.push_back(
                {QRectF({x, anchor.y() - size.height() / 2}, size), anchor, text, qt(callout.figure), side});
        }
        std::ranges::sort(column, {}, [](const Label& l) { return l.anchor.y(); });
        double lowest = edge;
        for (auto& label : column) {
            label.box.moveTop(std::max(lowest, label.box.top()));
            lowest = label.box.bottom() + label_gap;
        }
        double highest = height() - foot;
        for (auto label = column.rbegin(); label != column.rend(); ++label) {
            label->box.moveBottom(std::min(highest, label->box.bottom()));
            highest = label->box.top() - label_gap;
        }
        labels_.insert(labels_.end(), column.begin(), column.end());
    }
}

QPolygonF SectionView::polygon(const Polygon& points) const {
    QPolygonF on_the_screen;
    for (const auto& p : points)
        on_the_screen << on_screen(p);
    return on_the_screen;
}

void SectionView::paint_parts(QPainter& painter) const {
    painter.setPen(QPen(theme().ink, 0.8));
    painter.setBrush(Qt::NoBrush);
    for (const auto& part : section_->parts)
        for (const auto& line : part.cut.behind)
            painter.drawPolyline(polygon(line.points));
    for (const auto& part : section_->parts) {
        QPainterPath body; // odd-even: what lies within a hole of a face is none of it
        for (const auto& face : part.cut.faces)
            for (const auto& outline : face) {
                body.addPolygon(polygon(outline));
                body.closeSubpath();
            }
        painter.fillPath(body, theme().tints[static_cast<std::size_t>(part.hatch) % 4]);
        // Section hatching: 45° one way or the other, and another spacing for every further part.
        painter.save();
        painter.setClipPath(body, Qt::IntersectClip);
        QColor hatch = theme().ink;
        hatch.setAlphaF(0.42F);
        painter.setPen(QPen(hatch, 0.8));
        const QRectF box = body.boundingRect();
        const double spacing = 8 + 2.5 * (part.hatch / 2), lean = part.hatch % 2 == 0 ? 1 : -1;
        const double reach = box.width() + box.height();
        for (double d = -reach; d < reach; d += spacing) {
            const QPointF from(box.center().x() + d - lean * box.height() / 2, box.bottom());
            painter.drawLine(from, from + QPointF(lean * box.height(), -box.height()));
        }
        painter.restore();
        painter.setPen(QPen(theme().ink, 1.6));
        painter.drawPath(body);
    }
}

void SectionView::paint_hardware(QPainter& painter) const {
    painter.setPen(QPen(theme().ink, 1.6));
    painter.setBrush(theme().hardware);
    for (const auto& piece : section_->pieces)
        for (const auto& outline : piece.outlines)
            painter.drawPolygon(polygon(outline));
    for (const auto& line : section_->lines) {
        QPen pen(theme().ink, line.kind == LineKind::visible ? 1.4 : 0.8);
        if (line.kind == LineKind::centre) {
            pen.setDashPattern({14, 4, 2, 4});
            pen.setColor(theme().faint);
        }
        painter.setPen(pen);
        for (std::size_t i = 1; i < line.points.size(); ++i)
            painter.drawLine(on_screen(line.points[i - 1]), on_screen(line.points[i]));
    }
}

/// Where the two surfaces can lie, enlarged and said by how much: sure material filled, the tolerance of each
/// hatched.
void SectionView::paint_lens(QPainter& painter, const drawing::Lens& lens) const {
    const QPointF middle = on_screen(lens.at), of = on_screen(lens.of);
    const double radius =
        std::clamp(10 * scale_, 20.0, 40.0); // a lens of 20 mm on the part, within what can be read
    double farthest = 1;
    for (const double um : {lens.shaft.lower_um, lens.shaft.upper_um, lens.hole.lower_um, lens.hole.upper_um})
        farthest = std::max(farthest, std::abs(um));
    const double px_per_um = 0.7 * radius / farthest;
    const auto x = [&](double um) { return middle.x() + um * px_per_um; };
    const auto strip = [&](double from, double to) {
        return QRectF(QPointF(from, middle.y() - radius), QPointF(to, middle.y() + radius));
    };
    QPainterPath glass;
    glass.addEllipse(middle, radius, radius);
    painter.setPen(QPen(theme().ink, 0.8));
    painter.drawLine(of, QPointF(middle.x() - radius, middle.y()));
    painter.save();
    painter.setClipPath(glass, Qt::IntersectClip);
    painter.fillPath(glass, theme().sheet);
    const QColor tint = theme().tints[static_cast<std::size_t>(lens.hatch) % 4];
    painter.fillRect(strip(middle.x() - radius, x(lens.shaft.lower_um)), theme().hardware);
    painter.fillRect(strip(x(lens.hole.upper_um), middle.x() + radius), tint);
    painter.fillRect(strip(x(lens.hole.upper_um), middle.x() + radius),
                     QBrush(theme().faint, Qt::BDiagPattern));
    painter.fillRect(strip(x(lens.shaft.lower_um), x(lens.shaft.upper_um)),
                     QBrush(theme().ink, Qt::Dense6Pattern));
    painter.fillRect(strip(x(lens.hole.lower_um), x(lens.hole.upper_um)),
                     QBrush(theme().accent, Qt::FDiagPattern));
    painter.setPen(QPen(theme().ink, 1));
    for (const double um : {lens.shaft.lower_um, lens.shaft.upper_um})
        painter.drawLine(QPointF(x(um), middle.y() - radius), QPointF(x(um), middle.y()));
    painter.setPen(QPen(theme().accent, 1.4));
    for (const double um : {lens.hole.lower_um, lens.hole.upper_um})
        painter.drawLine(QPointF(x(um), middle.y()), QPointF(x(um), middle.y() + radius));
    painter.restore();
    painter.setPen(QPen(theme().ink, 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(middle, radius, radius);
    const double times = px_per_um * 1000 / scale_;
    const QString text = QString("%1 ×%2").arg(qt(lens.title)).arg(std::round(times));
    const QRectF plate = QRectF(QPointF(), label_size(text, font()))
                             .translated(middle + QPointF(-label_size(text, font()).width() / 2, radius - 6));
    painter.fillRect(plate, theme().sheet);
    painter.setPen(QPen(theme().line, 1));
    painter.drawRect(plate);
    painter.setPen(theme().ink);
    painter.drawText(plate, Qt::AlignCenter, text);
}

/// A bar of a round length, so that the scale can be read off a print.
void SectionView::paint_scale(QPainter& painter) const {
    constexpr std::array lengths{0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0};
    const double pixels = to_mm(1, unit_) * scale_; // of one unit
    const double shown =
        *std::ranges::find_if(lengths, [&](double l) { return l * pixels > 40 || l == lengths.back(); });
    const double length = to_mm(shown, unit_);
    const QPointF from(width() / 2.0 - length * scale_ / 2, height() - 12);
    painter.setPen(QPen(theme().faint, 1.2));
    painter.drawLine(from, from + QPointF(length * scale_, 0));
    for (const double x : {0.0, length * scale_})
        painter.drawLine(from + QPointF(x, -3), from + QPointF(x, 3));
    painter.drawText(from + QPointF(length * scale_ + 6, 4),
                     QString("%1 %2").arg(shown).arg(qt(symbol(unit_))));
}

void SectionView::paint(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(font());
    painter.fillRect(rect(), theme().sheet);
    if (!section_) {
        painter.setPen(theme().faint);
        painter.drawText(rect().adjusted(30, 20, -30, -20), Qt::AlignCenter | Qt::TextWordWrap, message_);
        return;
    }
    const auto& w = section_->window;
    painter.save();
    painter.setClipRect(QRectF(on_screen({w.left, w.top}), on_screen({w.right, w.bottom})));
    paint_parts(painter);
    paint_hardware(painter);
    painter.restore();
    if (plain_) return;
    for (const auto& lens : section_->lenses)
        paint_lens(painter, lens);
    for (const auto& label : labels_) {
        const bool left = label.side == drawing::Side::left;
        const bool hot = label.figure == hovered_;
        painter.setPen(QPen(hot ? theme().accent : theme().faint, hot ? 1.6 : 0.8));
        const QPointF start(left ? label.box.right() : label.box.left(), label.box.center().y());
        const QPointF knee = start + QPointF(left ? 8 : -8, 0);
        painter.drawLine(start, knee);
        painter.drawLine(knee, label.anchor);
        painter.setBrush(painter.pen().color());
        painter.drawEllipse(label.anchor, 2, 2);
        painter.setPen(QPen(hot ? theme().accent : theme().line, hot ? 1.6 : 1));
        painter.setBrush(theme().sheet);
        painter.drawRect(label.box);
        painter.setPen(theme().ink);
        painter.drawText(label.box.adjusted(7, 0, -3, 0), Qt::AlignVCenter | Qt::AlignLeft, label.text);
    }
    paint_scale(painter);
    if (outdated_) {
        painter.setPen(theme().warning);
        painter.drawText(rect().adjusted(10, 4, -10, -4), Qt::AlignTop | Qt::AlignHCenter, "computing…");
    }
}

void SectionView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    paint(painter);
}

QByteArray SectionView::svg() const {
    QBuffer written;
    QSvgGenerator svg;
    svg.setOutputDevice(&written);
    svg.setSize(size());
    svg.setViewBox(rect());
    svg.setTitle(section_ ? qt(section_->title) : QString());
    QPainter painter(&svg);
    paint(painter);
    painter.end();
    return written.data();
}

void SectionView::resizeEvent(QResizeEvent*) { show_all(); }

void SectionView::mousePressEvent(QMouseEvent* event) {
    drag_from_ = event->position();
    for (const auto& label : labels_)
        if (label.box.contains(event->position())) emit figure_clicked(label.figure);
}

void SectionView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) {
        offset_ += event->position() - drag_from_;
        drag_from_ = event->position();
        place_labels();
        update();
        return;
    }
    QString now;
    for (const auto& label : labels_)
        if (label.box.contains(event->position())) now = label.figure;
    if (now == hovered_) return;
    hovered_ = now;
    setCursor(now.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    update();
}

void SectionView::mouseDoubleClickEvent(QMouseEvent*) { show_all(); }

void SectionView::wheelEvent(QWheelEvent* event) {
    const double factor = std::pow(1.0015, event->angleDelta().y());
    const double next = std::clamp(scale_ * factor, 0.2, 4000.0);
    offset_ = event->position() + (offset_ - event->position()) * (next / scale_);
    scale_ = next;
    place_labels();
    update();
}

QPixmap small_section(const drawing::Section& section, const QSize& size) {
    SectionView view;
    view.set_plain(true);
    view.resize(size);
    view.show_section(section, LengthUnit::mm);
    return view.grab();
}

}

#include "moc_section_view.cpp"
