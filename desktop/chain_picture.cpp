#include "chain_picture.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kollema::desktop {
namespace {

constexpr double side_room = 14, top_room = 6, most_lane = 46, least_text_lane = 13;
/// Beyond so many only the picture's outline would be left.
constexpr std::size_t most_arrows = 60;

void draw_tip(QPainter& painter, double x, double y, double way, double size) {
    painter.drawPolygon(QPolygonF{QPointF(x, y), QPointF(x - way * size, y - size / 2.4),
                                  QPointF(x - way * size, y + size / 2.4)});
}

}

ChainPicture::ChainPicture(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(120);
    setAccessibleName("Chain to scale");
}

void ChainPicture::show_message(const QString& message) {
    message_ = message;
    arrows_.clear();
    update();
}

void ChainPicture::show_chain(const ShownChain& chain, LengthUnit unit) {
    message_.clear();
    arrows_.clear();
    met_ = chain.verdict.met;
    const auto figure = [unit](double mm) { return qt(plain(from_mm(mm, unit), 6)); };
    double at = 0;
    QStringList said;
    for (std::size_t i = 0; i < chain.links.size() && i < most_arrows; ++i) {
        const auto& link = chain.links[i];
        const double length = link.sensitivity * link.nominal_mm;
        const QString text =
            QString("%1  %2 %3")
                .arg(link.name, figure(link.nominal_mm), limits_words(link.plus_mm, link.minus_mm, unit));
        arrows_.push_back({text, at, at + length, static_cast<int>(i)});
        at += length;
        said << text;
    }
    const double rest = chain.nominal_mm - at;
    if (std::abs(rest) > 1e-9 * (1 + std::abs(chain.nominal_mm))) {
        const QString text = chain.links.size() > most_arrows ? "all others" : "sizes that do not scatter";
        arrows_.push_back({text, at, chain.nominal_mm, -1});
    }
    const QString gap = QString("gap  %1 %2").arg(figure(chain.nominal_mm), qt(symbol(unit)));
    arrows_.push_back({gap, 0, chain.nominal_mm, -1});
    setAccessibleDescription(said.join("; ") + "; " + gap);
    update();
}

void ChainPicture::choose(int row) {
    chosen_ = row;
    update();
}

double ChainPicture::lane_height() const {
    return std::min(most_lane, (height() - 2 * top_room) /
                                   static_cast<double>(std::max<std::size_t>(1, arrows_.size())));
}

void ChainPicture::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.sheet);
    if (arrows_.empty()) {
        painter.setPen(t.faint);
        painter.drawText(rect().adjusted(12, 12, -12, -12), Qt::AlignCenter | Qt::TextWordWrap, message_);
        return;
    }
    double least = 0, most = 0;
    for (const auto& a : arrows_) {
        least = std::min({least, a.from, a.to});
        most = std::max({most, a.from, a.to});
    }
    const double scale = (width() - 2 * side_room) / std::max(1e-12, most - least);
    const auto x_of = [&](double mm) { return side_room + (mm - least) * scale; };
    const double lane = lane_height();
    QFont small = font();
    small.setPointSizeF(std::clamp(lane * 0.36, 6.5, 9.0));
    painter.setFont(small);
    const double last = top_room + (static_cast<double>(arrows_.size()) - 0.5) * lane;
    for (std::size_t i = 0; i < arrows_.size(); ++i) {
        const auto& a = arrows_[i];
        const bool gap = i + 1 == arrows_.size(), hot = a.row >= 0 && a.row == chosen_;
        const double y = top_room + (static_cast<double>(i) + (lane > 20 ? 0.68 : 0.5)) * lane;
        const double from = x_of(a.from), to = x_of(a.to), way = to >= from ? 1 : -1;
        const QColor ink = gap ? (met_ ? t.good : t.error) : hot ? t.accent : t.ink;
        // Where it ends the next begins.
        painter.setPen(QPen(t.line, 1, Qt::DotLine));
        painter.drawLine(QPointF(to, y), QPointF(to, gap ? y : i + 2 == arrows_.size() ? last : y + lane));
        if (gap && std::abs(to - from) > 3) {
            painter.fillRect(QRectF(std::min(from, to), y - lane * 0.28, std::abs(to - from), lane * 0.42),
                             QBrush(ink, Qt::BDiagPattern));
        }
        painter.setPen(QPen(ink, gap || hot ? 2.2 : 1.3, a.row < 0 && !gap ? Qt::DashLine : Qt::SolidLine));
        painter.setBrush(ink);
        painter.drawLine(QPointF(from, y), QPointF(to, y));
        painter.drawEllipse(QPointF(from, y), 2, 2);
        if (std::abs(to - from) > 6) draw_tip(painter, to, y, way, 7);
        if (lane < least_text_lane) continue;
        const double text_width = painter.fontMetrics().horizontalAdvance(a.text) + 8;
        const double above = lane > 20 ? y - lane * 0.62 : y - lane * 0.5;
        double left = (from + to - text_width) / 2;
        if (lane <= 20) left = std::max(from, to) + 6; // beside, where there is no room above
        left = std::clamp(left, 2.0, std::max(2.0, width() - text_width - 2));
        painter.drawText(QRectF(left, above, text_width, lane > 20 ? lane * 0.55 : lane), Qt::AlignCenter,
                         a.text);
    }
}

void ChainPicture::mousePressEvent(QMouseEvent* event) {
    const auto lane =
        static_cast<std::size_t>(std::max(0.0, (event->position().y() - top_room) / lane_height()));
    if (lane < arrows_.size() && arrows_[lane].row >= 0) emit row_clicked(arrows_[lane].row);
}

}

#include "moc_chain_picture.cpp"
