#include "sizes_picture.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "shape/size_places.hpp"
#include "theme.hpp"
#include <QEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {
namespace {

constexpr std::uint32_t part_rgb = 0xB8C6BC;
constexpr int box_width = 116, box_height = 42, air = 4;

}

QPixmap picture_of_recipe(const shape::Recipe& recipe, geometry::PartSolids& solids, const QSize& size,
                          geometry::View* seen) {
    const auto mesh = solids.mesh(recipe);
    geometry::View view{geometry::eye_at(geometry::Side::slanted), 1, size.width(), size.height()};
    view = geometry::fitted(view, mesh->bounds);
    const auto picture =
        geometry::picture_of(view, {{mesh.get(), {}, part_rgb}}, theme().ink.rgb() & 0xFFFFFF);
    const QImage image(reinterpret_cast<const uchar*>(picture.argb.data()), picture.width, picture.height,
                       QImage::Format_ARGB32);
    if (seen) *seen = view;
    return QPixmap::fromImage(image.copy());
}

SizesPicture::SizesPicture(geometry::PartSolids& solids) : solids_(solids) {
    setMinimumSize(470, 300);
    setAccessibleName("Picture of the part with its sizes");
}

void SizesPicture::show_body(const Body& body, LengthUnit unit) {
    for (const auto& [parameter, field] : fields_)
        field->disconnect(this); // one that loses the focus has nothing more to say
    for (const auto& place : places_)
        delete place.box;
    fields_.clear();
    places_.clear();
    for (const auto& parameter : shape::parameters(body)) {
        if (!shape::place_of_size(body, parameter.key)) continue;
        auto* box = new QWidget(this);
        auto* column = new QVBoxLayout(box);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(0);
        auto* title = new QLabel(qt(parameter.title));
        title->setObjectName("faint");
        auto* field = new QLineEdit(qt(text_of(parameter.value, parameter.unit, unit)));
        field->setAccessibleName(qt(parameter.title));
        field->setToolTip(qt(parameter.meaning));
        field->installEventFilter(this);
        connect(field, &QLineEdit::editingFinished, this, &SizesPicture::typed);
        column->addWidget(title);
        column->addWidget(field);
        box->resize(box_width, box_height);
        box->show();
        fields_.emplace_back(parameter, field);
        places_.push_back({box, {}, {}});
    }
    draw(body);
}

void SizesPicture::draw(const Body& body) {
    body_ = body;
    arrange();
}

QPointF SizesPicture::on_screen(const Vector3& point) const {
    const Vector3 seen = view_.eye.local(point);
    return {width() / 2.0 + seen.x() * view_.px_per_mm, height() / 2.0 - seen.y() * view_.px_per_mm};
}

/// Fields in a column on either side, each as high as its place where there is room.
void SizesPicture::arrange() {
    const QSize room(std::max(80, width() - 2 * (box_width + 3 * air)), std::max(80, height() - 2 * air));
    pixmap_ = picture_of_recipe(shape::recipe(body_), solids_, room, &view_);
    std::vector<Place*> shown;
    for (std::size_t i = 0; i < fields_.size(); ++i) {
        Place& place = places_[i];
        const auto where = shape::place_of_size(body_, fields_[i].first.key, view_.eye.z);
        if (!where) continue;
        place.at = on_screen(where->at);
        const QPointF way = on_screen(where->at + where->along) - place.at;
        const double length = std::hypot(way.x(), way.y());
        place.arrow = length > 1e-6 ? way / length * 16 : QPointF();
        shown.push_back(&place);
    }
    // What stands farther left gets the left column.
    std::ranges::stable_sort(shown, {}, [](const Place* p) { return p->at.x(); });
    std::vector<Place*> sides[2];
    for (std::size_t i = 0; i < shown.size(); ++i)
        sides[2 * i < shown.size() ? 0 : 1].push_back(shown[i]);
    for (auto& side : sides)
        std::ranges::stable_sort(side, {}, [](const Place* p) { return p->at.y(); });
    for (const int side : {0, 1}) {
        int lowest = air, highest = height() - air;
        std::vector<int> tops;
        for (const Place* place : sides[side]) {
            tops.push_back(std::max(lowest, static_cast<int>(place->at.y()) - box_height / 2));
            lowest = tops.back() + box_height + air;
        }
        for (std::size_t i = tops.size(); i-- > 0;) {
            tops[i] = std::min(tops[i], highest - box_height);
            highest = tops[i] - air;
            sides[side][i]->box->move(side == 0 ? air : width() - box_width - air, tops[i]);
        }
    }
    update();
}

void SizesPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().sheet);
    painter.drawPixmap((width() - pixmap_.width()) / 2, (height() - pixmap_.height()) / 2, pixmap_);
    for (std::size_t i = 0; i < places_.size(); ++i) {
        const Place& place = places_[i];
        const bool hot = fields_[i].second->hasFocus();
        const QRectF box = place.box->geometry();
        const bool left = box.center().x() < width() / 2.0;
        painter.setPen(QPen(hot ? theme().accent : theme().faint, hot ? 1.8 : 0.8));
        painter.drawLine(QPointF(left ? box.right() + 2 : box.left() - 2, box.bottom() - 12), place.at);
        painter.setBrush(painter.pen().color());
        painter.drawEllipse(place.at, hot ? 3 : 2, hot ? 3 : 2);
        if (!hot || place.arrow.isNull()) continue;
        const QPointF tip = place.at + place.arrow, across(-place.arrow.y() / 4, place.arrow.x() / 4);
        painter.drawLine(place.at, tip);
        painter.drawPolygon(QPolygonF{tip, tip - place.arrow / 3 + across, tip - place.arrow / 3 - across});
    }
}

void SizesPicture::resizeEvent(QResizeEvent*) { arrange(); }

bool SizesPicture::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::FocusIn || event->type() == QEvent::FocusOut) update();
    return QWidget::eventFilter(object, event);
}

}

#include "moc_sizes_picture.cpp"
