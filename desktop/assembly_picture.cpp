#include "assembly_picture.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace kollema::desktop {
namespace {

constexpr std::uint32_t hardware_rgb = 0x8E99A3;
constexpr double turn_per_px = 0.01, turn_per_key = 0.12, shift_per_key_px = 40, zoom_per_key = 1.2;
constexpr double click_px = 4; ///< a hand is never quite still

}

AssemblyPicture::AssemblyPicture() {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(360, 260);
    setAccessibleName("Assembly in space");
    view_.eye = geometry::eye_at(geometry::Side::slanted);
    connect(&build_, &Job::failed, this, [this](const QString& message) {
        tell_.stop();
        emit scene_shown(message);
    });
    connect(&weigh_, &Job::failed, this, &AssemblyPicture::scene_shown);
    connect(&tell_, &QTimer::timeout, this, [this] {
        emit scene_shown(QString("Building the solids, %1 %").arg(static_cast<int>(100 * build_.progress())));
    });
}

void AssemblyPicture::show_assembly(std::shared_ptr<const Results> results,
                                    std::shared_ptr<geometry::PartSolids> solids) {
    if (results == results_) return;
    results_ = std::move(results);
    tell_.start(120);
    weigh_.stop();
    build_.start<std::shared_ptr<const geometry::Scene>>(
        [results = results_,
         solids = std::move(solids)](const Ticket& ticket) -> std::shared_ptr<const geometry::Scene> {
            auto scene =
                geometry::scene_of(*results->project, results->checked.placement, *solids, [&](double share) {
                    ticket.tell_progress(share);
                    return ticket.is_wanted();
                });
            return scene ? std::make_shared<const geometry::Scene>(std::move(*scene)) : nullptr;
        },
        [this](std::shared_ptr<const geometry::Scene> scene) { take(std::move(scene)); });
}

void AssemblyPicture::take(std::shared_ptr<const geometry::Scene> scene) {
    tell_.stop();
    if (!scene) return;
    scene_ = std::move(scene);
    colours_ = colours_of(*results_, colouring_);
    if (!fitted_) fit();
    pointed_ = {};
    changed();
    weigh();
    emit scene_shown({});
}

/// After the picture, which nobody should wait for because of a figure.
void AssemblyPicture::weigh() {
    weigh_.start<std::shared_ptr<const assembly::Mass>>(
        [results = results_, before = mass_](const Ticket&) {
            return std::make_shared<const assembly::Mass>(
                assembly::mass_of(*results->project, results->checked.placement, before.get()));
        },
        [this](std::shared_ptr<const assembly::Mass> mass) {
            mass_ = std::move(mass);
            emit weighed();
        });
}

void AssemblyPicture::changed() {
    dirty_ = true;
    update();
}

void AssemblyPicture::choose(const InstanceId& part, const JointId& joint) {
    part_ = part;
    joint_ = joint;
    changed();
}

void AssemblyPicture::mark(const InstanceId& part, const FeatureId& feature) {
    pointed_ = {.instance = part, .feature = feature};
    update();
}

void AssemblyPicture::look_from(geometry::Side side) {
    view_.eye = geometry::eye_at(side);
    fit();
}

void AssemblyPicture::fit() {
    if (!scene_ || width() < 2) return;
    view_.width = width();
    view_.height = height();
    view_ = geometry::fitted(view_, scene_->bounds);
    fitted_ = true;
    changed();
}

void AssemblyPicture::colour_by(Colouring colouring) {
    colouring_ = colouring;
    if (results_) colours_ = colours_of(*results_, colouring_);
    changed();
}

void AssemblyPicture::set_cut(int axis) {
    cut_axis_ = axis;
    view_.cut.reset();
    if (axis > 0 && scene_) view_.cut = geometry::cut_across(axis - 1, view_.eye, scene_->bounds);
    changed();
}

void AssemblyPicture::move_cut(double by_mm) {
    if (!view_.cut) return;
    view_.cut->origin = view_.cut->point({0, 0, by_mm});
    changed();
}

void AssemblyPicture::set_names(bool shown) {
    names_ = shown;
    update();
}

void AssemblyPicture::set_presence(const InstanceId& part, Presence presence) {
    presences_.erase(part);
    if (presence != Presence::whole) presences_.emplace(part, presence);
    changed();
}

AssemblyPicture::Presence AssemblyPicture::presence(const InstanceId& part) const {
    const auto found = presences_.find(part);
    return found == presences_.end() ? Presence::whole : found->second;
}

void AssemblyPicture::show_all_parts() {
    presences_.clear();
    changed();
}

QPointF AssemblyPicture::on_screen(const Vector3& point) const {
    const Vector3 seen = view_.eye.local(point);
    return {width() / 2.0 + seen.x() * view_.px_per_mm, height() / 2.0 - seen.y() * view_.px_per_mm};
}

/// While it moves with half of the pixels: a quarter of the work.
void AssemblyPicture::draw() {
    share_ = moving_ ? 0.5 : devicePixelRatioF();
    geometry::View view = view_;
    view.width = static_cast<int>(width() * share_);
    view.height = static_cast<int>(height() * share_);
    view.px_per_mm *= share_;
    std::vector<geometry::Shown> shown;
    for (const auto& body : scene_->bodies) {
        geometry::Shown one{body.mesh.get(), body.placed, hardware_rgb};
        if (const auto colour = colours_.find(body.instance); colour != colours_.end())
            one.rgb = colour->second;
        const bool lit =
            (!part_.text.empty() && body.instance == part_) || (!joint_.text.empty() && body.joint == joint_);
        if (lit) one.look = geometry::Look::lit;
        if (presence(body.instance) == Presence::ghost) one.look = geometry::Look::ghost;
        if (presence(body.instance) == Presence::hidden) one.mesh = nullptr;
        shown.push_back(one);
    }
    picture_ = geometry::picture_of(view, shown, theme().ink.rgb() & 0xFFFFFF);
    image_ = QImage(reinterpret_cast<const uchar*>(picture_.argb.data()), picture_.width, picture_.height,
                    QImage::Format_ARGB32);
    dirty_ = false;
}

void AssemblyPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().sheet);
    if (!scene_ || scene_->bodies.empty()) {
        painter.setPen(theme().faint);
        painter.drawText(rect(), Qt::AlignCenter,
                         scene_ ? "No part yet: add one (Ctrl+B)" : "Building the solids …");
        return;
    }
    if (dirty_) draw();
    painter.drawImage(rect(), image_);
    painter.setRenderHint(QPainter::Antialiasing);
    draw_axes(painter);
    if (names_) draw_names(painter);
    draw_mark(painter);
}

void AssemblyPicture::draw_axes(QPainter& painter) const {
    const QPointF foot(34, height() - 34);
    const char* letters[] = {"x", "y", "z"};
    for (int axis = 0; axis < 3; ++axis) {
        const Vector3 seen = view_.eye.local_vector(Vector3::Unit(axis));
        const QPointF tip = foot + 24 * QPointF(seen.x(), -seen.y());
        painter.setPen(QPen(theme().faint, 1.4));
        painter.drawLine(foot, tip);
        painter.setPen(theme().ink);
        painter.drawText(QRectF(tip.x() - 8, tip.y() - 8, 16, 16), Qt::AlignCenter, letters[axis]);
    }
}

/// Of every body the pixel that is nearest to the middle of what is seen of it; null where nothing is.
std::vector<QPointF> AssemblyPicture::seen_middles() const {
    constexpr int step = 3;
    std::vector<QPointF> middles(scene_->bodies.size()), nearest(scene_->bodies.size());
    std::vector<int> counts(scene_->bodies.size());
    const auto each_pixel = [&](auto take) {
        for (int y = 0; y < picture_.height; y += step)
            for (int x = 0; x < picture_.width; x += step)
                if (const int shown = picture_.shown[static_cast<std::size_t>(y * picture_.width + x)];
                    shown >= 0)
                    take(static_cast<std::size_t>(shown), QPointF(x, y));
    };
    each_pixel([&](std::size_t body, const QPointF& at) {
        middles[body] += at;
        ++counts[body];
    });
    for (std::size_t i = 0; i < middles.size(); ++i)
        middles[i] /= std::max(1, counts[i]);
    const auto off = [&](std::size_t body, const QPointF& at) {
        return QPointF::dotProduct(at - middles[body], at - middles[body]);
    };
    each_pixel([&](std::size_t body, const QPointF& at) {
        if (nearest[body].isNull() || off(body, at) < off(body, nearest[body])) nearest[body] = at;
    });
    return nearest;
}

void AssemblyPicture::draw_names(QPainter& painter) const {
    // Each at the middle of what is seen of it, moved down where another name stands.
    const std::vector<QPointF> places = seen_middles();
    std::vector<QRectF> taken;
    for (std::size_t i = 0; i < scene_->bodies.size(); ++i) {
        const Part* part = part_of(*results_->project, scene_->bodies[i].instance);
        if (!part || places[i].isNull()) continue;
        const QPointF at = places[i] / share_;
        const QString name = qt(part->name);
        const QRectF box = QRectF(painter.fontMetrics().boundingRect(name)).adjusted(-5, -2, 5, 2);
        painter.setPen(QPen(theme().line, 1));
        painter.setBrush(theme().sheet);
        QRectF placed = box.translated(at - box.center());
        while (std::ranges::any_of(taken, [&](const QRectF& other) { return other.intersects(placed); }))
            placed.translate(0, placed.height() + 2);
        taken.push_back(placed);
        painter.drawRect(placed);
        painter.setPen(theme().ink);
        painter.drawText(placed, Qt::AlignCenter, name);
    }
}

/// The outline of the face or cylinder that is pointed at.
void AssemblyPicture::draw_mark(QPainter& painter) const {
    const Part* part = part_of(*results_->project, pointed_.instance);
    const Feature* feature = part ? kollema::find(*part, pointed_.feature) : nullptr;
    const auto stands = results_->checked.placement.frames.find(pointed_.instance);
    if (!feature || stands == results_->checked.placement.frames.end()) return;
    painter.setPen(QPen(theme().accent, 2.2));
    painter.setBrush(Qt::NoBrush);
    for (const auto& line : outline_of(*part, *feature)) {
        QPolygonF polygon;
        for (const auto& point : line)
            polygon << on_screen(stands->second.point(point));
        painter.drawPolyline(polygon);
    }
}

Pointed AssemblyPicture::at(const QPointF& place) {
    if (!scene_ || width() < 2) return {};
    if (dirty_) draw();
    geometry::View view = view_;
    view.width = picture_.width;
    view.height = picture_.height;
    view.px_per_mm *= share_;
    return pointed_at(*results_->project, *scene_, view, picture_, static_cast<int>(place.x() * share_),
                      static_cast<int>(place.y() * share_));
}

void AssemblyPicture::resizeEvent(QResizeEvent*) {
    view_.width = width();
    view_.height = height();
    if (!fitted_) fit();
    changed();
}

void AssemblyPicture::mousePressEvent(QMouseEvent* event) {
    pressed_ = last_ = event->position();
    setFocus();
}

void AssemblyPicture::mouseMoveEvent(QMouseEvent* event) {
    const QPointF place = event->position(), by = place - last_;
    if (event->buttons() == Qt::NoButton) {
        const Pointed now = at(place);
        if (!(now == pointed_)) {
            pointed_ = now;
            emit pointed(now);
            update();
        }
        return;
    }
    if (!moving_ && (place - pressed_).manhattanLength() < click_px) return;
    moving_ = true;
    last_ = place;
    if (view_.cut && event->modifiers().testFlag(Qt::ControlModifier))
        return move_cut(-by.y() / view_.px_per_mm);
    if (event->buttons().testFlag(Qt::LeftButton) && !event->modifiers().testFlag(Qt::ShiftModifier))
        view_.eye = geometry::turned(view_.eye, by.x() * turn_per_px, -by.y() * turn_per_px);
    else
        view_ = geometry::shifted(view_, by.x(), by.y());
    changed();
}

void AssemblyPicture::mouseReleaseEvent(QMouseEvent* event) {
    if (moving_) {
        moving_ = false;
        return changed();
    }
    if (event->button() != Qt::LeftButton) return;
    const Pointed now = at(event->position());
    pointed_ = now;
    update();
    emit taken(now);
}

void AssemblyPicture::leaveEvent(QEvent*) {
    pointed_ = {};
    emit pointed(pointed_);
    update();
}

void AssemblyPicture::wheelEvent(QWheelEvent* event) {
    view_ = geometry::zoomed(view_, std::pow(1.0015, event->angleDelta().y()), event->position().x(),
                             event->position().y());
    changed();
}

void AssemblyPicture::keyPressEvent(QKeyEvent* event) {
    using geometry::Side;
    const bool shift = event->modifiers().testFlag(Qt::ShiftModifier);
    const auto arrow = [&](double right, double up) {
        if (shift)
            view_ = geometry::shifted(view_, right * shift_per_key_px, -up * shift_per_key_px);
        else
            view_.eye = geometry::turned(view_.eye, right * turn_per_key, up * turn_per_key);
        changed();
    };
    switch (event->key()) {
    case Qt::Key_Left:
        return arrow(-1, 0);
    case Qt::Key_Right:
        return arrow(1, 0);
    case Qt::Key_Up:
        return arrow(0, 1);
    case Qt::Key_Down:
        return arrow(0, -1);
    case Qt::Key_Plus:
    case Qt::Key_Minus:
        view_ = geometry::zoomed(view_, event->key() == Qt::Key_Plus ? zoom_per_key : 1 / zoom_per_key,
                                 width() / 2.0, height() / 2.0);
        return changed();
    case Qt::Key_PageUp:
        return move_cut(1);
    case Qt::Key_PageDown:
        return move_cut(-1);
    case Qt::Key_Home:
        return fit();
    case Qt::Key_1:
        return look_from(Side::front);
    case Qt::Key_2:
        return look_from(Side::right);
    case Qt::Key_3:
        return look_from(Side::back);
    case Qt::Key_4:
        return look_from(Side::left);
    case Qt::Key_5:
        return look_from(Side::top);
    case Qt::Key_6:
        return look_from(Side::bottom);
    case Qt::Key_7:
        return look_from(Side::slanted);
    default:
        QWidget::keyPressEvent(event);
    }
}

}

#include "moc_assembly_picture.cpp"
