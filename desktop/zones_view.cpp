#include "zones_view.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

using standards::Side;

constexpr double top_room = 22, bottom_room = 26, axis_width = 58;
constexpr std::size_t reach_of_neighbours = 3; // letters shown to either side

void hatch(QPainter& painter, const QRectF& box, bool leaning_right) {
    painter.save();
    painter.setClipRect(box);
    QColor ink = theme().ink;
    ink.setAlphaF(0.45F);
    painter.setPen(QPen(ink, 0.9));
    const double reach = box.height(), lean = leaning_right ? 1 : -1;
    for (double x = box.left() - reach; x < box.right() + reach; x += 8)
        painter.drawLine(QPointF(x, box.bottom()), QPointF(x + lean * reach, box.top()));
    painter.restore();
}

/// Two figures are enough for a scale.
int round_figure(double value) {
    const double power = std::pow(10, std::max(0.0, std::floor(std::log10(std::max(1.0, value))) - 1));
    return static_cast<int>(std::lround(value / power) * std::lround(power));
}

/// A round step for the axis: 1, 2 or 5 times a power of ten.
double axis_step(double range) {
    const double power = std::pow(10, std::floor(std::log10(range / 5)));
    for (const double factor : {1.0, 2.0, 5.0})
        if (range / (factor * power) <= 7) return factor * power;
    return 10 * power;
}

}

ZonesView::ZonesView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName("Tolerance zones");
    setAccessibleDescription("Up and down arrow: a tighter or looser zone; left and right: a finer or "
                             "coarser grade; with Shift the other member");
    setToolTip("Drag a zone, click a neighbour, or use the arrow keys: ↑ tighter, ↓ looser, ← finer, → "
               "coarser; with Shift the other member");
}

void ZonesView::show_fit(double nominal_mm, const standards::Fit& fit, LengthUnit unit) {
    nominal_mm_ = nominal_mm;
    fit_ = fit;
    unit_ = unit;
    message_.clear();
    holes_ = fit::family(nominal_mm, fit.text, Side::hole).value_or(fit::Family{});
    shafts_ = fit::family(nominal_mm, fit.text, Side::shaft).value_or(fit::Family{});
    update();
}

void ZonesView::show_message(const QString& message) {
    fit_.reset();
    message_ = message;
    update();
}

QString ZonesView::figure(double um) const {
    if (um == 0) return "0";
    if (unit_ == LengthUnit::inch) return qt(fmt::format("{:+.2f}", um / 25.4));
    return qt(fmt::format("{:+g}", um));
}

void ZonesView::set_scale() {
    double lowest = 0, highest = 0;
    const auto take = [&](const standards::LimitDeviations& d) {
        lowest = std::min(lowest, d.lower_um);
        highest = std::max(highest, d.upper_um);
    };
    take(fit_->hole);
    take(fit_->shaft);
    const auto& family = family_of(fit::moving_side(*fit_));
    for (const auto* near : {family.looser(), family.tighter()})
        if (near) take(near->limits);
    const double pad = 0.08 * std::max(1.0, highest - lowest);
    pixels_per_um_ = (height() - top_room - bottom_room) / (highest - lowest + 2 * pad);
    zero_y_ = top_room + (highest + pad) * pixels_per_um_;
}

QRectF ZonesView::member_box(Side side) const {
    const auto& d = side == Side::hole ? fit_->hole : fit_->shaft;
    const double room = width() - axis_width, x = axis_width + room * (side == Side::hole ? 0.03 : 0.27);
    return {QPointF(x, y_of(d.upper_um)), QPointF(x + room * 0.19, y_of(d.lower_um))};
}

void ZonesView::paint_axis(QPainter& painter) const {
    const Theme& t = theme();
    const double unit_um = unit_ == LengthUnit::mm ? 1 : 25.4;
    const double from = (zero_y_ - (height() - bottom_room)) / pixels_per_um_ / unit_um,
                 to = (zero_y_ - top_room) / pixels_per_um_ / unit_um;
    const double step = axis_step(to - from);
    painter.setPen(t.faint);
    for (double v = std::ceil(from / step) * step; v <= to; v += step) {
        const double y = y_of(v * unit_um);
        painter.drawLine(QPointF(axis_width - 5, y), QPointF(axis_width, y));
        painter.drawText(QRectF(0, y - 8, axis_width - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                         qt(fmt::format("{:g}", std::abs(v) < 1e-9 ? 0 : v)));
    }
    painter.drawText(QRectF(4, 2, 90, 16), Qt::AlignLeft, unit_ == LengthUnit::mm ? "µm" : "thou");
    painter.setPen(QPen(t.ink, 1.6));
    painter.drawLine(QPointF(axis_width - 5, zero_y_), QPointF(width() - 6, zero_y_));
}

void ZonesView::paint_member(QPainter& painter, Side side) const {
    const Theme& t = theme();
    const auto& d = side == Side::hole ? fit_->hole : fit_->shaft;
    const QRectF box = member_box(side);
    QColor fill = side == Side::hole ? t.tints[0] : t.tints[2];
    painter.fillRect(box, fill);
    hatch(painter, box, side == Side::hole);
    const bool moving = side == fit::moving_side(*fit_);
    painter.setPen(QPen(t.ink, moving && hasFocus() ? 2.4 : 1.3));
    painter.drawRect(box);
    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    const QString name = qt(side == Side::hole ? fit_->hole_zone : fit_->shaft_zone);
    const QSizeF size = QFontMetricsF(bold).size(0, name) + QSizeF(10, 4);
    QRectF tag({box.center().x() - size.width() / 2, box.center().y() - size.height() / 2}, size);
    if (box.height() < size.height() + 4) tag.moveLeft(box.left() - size.width() - 2);
    painter.fillRect(tag, t.sheet);
    painter.setPen(t.ink);
    painter.drawText(tag, Qt::AlignCenter, name);
    painter.setFont(font());
    const bool tight = box.height() < 26;
    const double off_line = 8; // a figure on the zero line stands beside it
    const double above = tight             ? 14
                         : d.upper_um == 0 ? 7 - off_line
                                           : 7,
                 below = tight             ? 0
                         : d.lower_um == 0 ? 7 + off_line
                                           : 7;
    painter.drawText(QRectF(box.right() + 3, box.top() - above, 60, 14), Qt::AlignLeft | Qt::AlignVCenter,
                     figure(d.upper_um));
    painter.drawText(QRectF(box.right() + 3, box.bottom() - below, 60, 14), Qt::AlignLeft | Qt::AlignVCenter,
                     figure(d.lower_um));
    painter.setPen(t.faint);
    painter.drawText(QRectF(box.left(), 2, box.width(), 16), Qt::AlignHCenter,
                     side == Side::hole ? "hole" : "shaft");
}

void ZonesView::paint_neighbours(QPainter& painter) {
    const Theme& t = theme();
    neighbours_.clear();
    const auto& family = family_of(dragged_.value_or(fit::moving_side(*fit_)));
    if (family.members.empty()) return;
    const std::size_t first = family.current > reach_of_neighbours ? family.current - reach_of_neighbours : 0,
                      last = std::min(family.members.size() - 1, family.current + reach_of_neighbours);
    const double left = axis_width + (width() - axis_width) * 0.6,
                 pitch = (width() - 8 - left) / static_cast<double>(last - first + 1);
    painter.setPen(t.faint);
    painter.drawText(QRectF(left, 2, width() - 8 - left, 16), Qt::AlignHCenter, "within reach");
    painter.setClipRect(QRectF(0, top_room - 2, width(), height() - top_room - bottom_room + 4));
    for (std::size_t i = first; i <= last; ++i) {
        const auto& m = family.members[i];
        const double x = left + static_cast<double>(i - first) * pitch;
        const QRectF box(QPointF(x + 0.12 * pitch, y_of(m.limits.upper_um)),
                         QPointF(x + 0.88 * pitch, y_of(m.limits.lower_um)));
        const bool here = i == family.current, wished = !drag_to_.isEmpty() && drag_to_ == qt(m.fit);
        if (here || wished) painter.fillRect(box, wished ? t.accent : t.selection);
        painter.setPen(QPen(here || wished ? t.accent : t.faint, here || wished ? 1.6 : 1,
                            here ? Qt::SolidLine : Qt::DashLine));
        painter.drawRect(box);
        painter.setPen(wished ? t.accent_ink : here ? t.ink : t.faint);
        const bool room = box.height() > 16;
        const QRectF label(x - 6, room ? box.center().y() - 8 : box.top() - 16, pitch + 12, 16);
        const double half = QFontMetricsF(painter.font()).horizontalAdvance(qt(m.zone)) / 2 + 1;
        if (!here && !wished) // the zero line must not strike it through
            painter.fillRect(QRectF(label.center().x() - half, label.top() + 1, 2 * half, 14), t.sheet);
        painter.drawText(label, Qt::AlignCenter, qt(m.zone));
        neighbours_.push_back({QRectF(x, top_room, pitch, height() - top_room - bottom_room), qt(m.fit)});
    }
    painter.setClipping(false);
}

void ZonesView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    if (!fit_) {
        painter.setPen(t.faint);
        painter.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap, message_);
        return;
    }
    QFont small = font();
    small.setPointSizeF(8.5);
    painter.setFont(small);
    set_scale();
    paint_axis(painter);
    paint_neighbours(painter);
    paint_member(painter, Side::hole);
    paint_member(painter, Side::shaft);
    painter.setPen(t.faint);
    const double dots_per_mm = logicalDpiX() / 25.4;
    painter.drawText(QRectF(axis_width, height() - 20, width() - axis_width - 8, 16),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     QString("zero line = %1 · enlarged about %2 : 1")
                         .arg(qt(fmt::format("{} {}", plain(from_mm(nominal_mm_, unit_), 6), symbol(unit_))),
                              QString::number(round_figure(pixels_per_um_ / dots_per_mm * 1000))));
}

void ZonesView::wish(const QString& fit) {
    if (!fit.isEmpty()) emit fit_wished(fit);
}

void ZonesView::keyPressEvent(QKeyEvent* event) {
    const bool arrow = event->key() == Qt::Key_Up || event->key() == Qt::Key_Down ||
                       event->key() == Qt::Key_Left || event->key() == Qt::Key_Right;
    if (!fit_ || !arrow) return QWidget::keyPressEvent(event);
    Side side = fit::moving_side(*fit_);
    if (event->modifiers() & Qt::ShiftModifier) side = side == Side::hole ? Side::shaft : Side::hole;
    const auto& family = family_of(side);
    const auto name = [](const fit::FamilyMember* member) { return member ? qt(member->fit) : QString(); };
    switch (event->key()) {
    case Qt::Key_Up: // upward on the picture: a shaft gets tighter, a hole looser; both follow the standard's
                     // order
        return wish(name(side == Side::shaft ? family.tighter() : family.looser()));
    case Qt::Key_Down:
        return wish(name(side == Side::shaft ? family.looser() : family.tighter()));
    case Qt::Key_Left:
        return wish(qt(family.finer));
    default:
        return wish(qt(family.coarser));
    }
}

void ZonesView::mousePressEvent(QMouseEvent* event) {
    if (!fit_) return;
    setFocus(Qt::MouseFocusReason);
    for (const auto side : {Side::shaft, Side::hole}) {
        if (!member_box(side).adjusted(-3, -6, 3, 6).contains(event->position())) continue;
        const auto& d = side == Side::hole ? fit_->hole : fit_->shaft;
        dragged_ = side;
        drag_from_y_ = event->position().y();
        drag_middle_um_ = (d.upper_um + d.lower_um) / 2;
        return;
    }
    for (const auto& bar : neighbours_)
        if (bar.box.contains(event->position())) return wish(bar.fit);
}

void ZonesView::mouseMoveEvent(QMouseEvent* event) {
    if (!dragged_) return;
    const double middle = drag_middle_um_ + (drag_from_y_ - event->position().y()) / pixels_per_um_;
    const auto& family = family_of(*dragged_);
    if (!family.members.empty()) drag_to_ = qt(fit::nearest(family, middle).fit);
    update();
}

void ZonesView::mouseReleaseEvent(QMouseEvent*) {
    if (!dragged_) return;
    const QString to = std::exchange(drag_to_, {});
    dragged_.reset();
    update();
    if (fit_ && to != qt(fit_->text)) wish(to);
}

}

#include "moc_zones_view.cpp"
