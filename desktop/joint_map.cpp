#include "joint_map.hpp"
#include "joint/locating.hpp"
#include "presenter/figures.hpp"
#include "presenter/holding.hpp"
#include "presenter/text.hpp"
#include "standards/materials.hpp"
#include "theme.hpp"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <set>

namespace kollema::desktop {
namespace {

constexpr double node_height = 40, plate_height = 36, margin = 10;

/// Whether more than so many parts stand above each other, the grounded one counted.
bool more_rows_than(std::size_t most, const Project& project) {
    std::set<InstanceId> reached;
    for (const auto& instance : project.instances)
        if (instance.grounded) reached.insert(instance.id);
    for (std::size_t rows = 1; rows <= most; ++rows) {
        std::set<InstanceId> next = reached;
        for (const auto& joint : project.joints)
            if (std::ranges::any_of(joint.members,
                                    [&](const Member& m) { return reached.contains(m.instance); }))
                for (const auto& member : joint.members)
                    next.insert(member.instance);
        if (next.size() == reached.size()) return false;
        reached = std::move(next);
    }
    return true;
}

}

JointMap::JointMap(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Joint map");
    setAccessibleDescription("Parts and the joints between them; the arrow keys choose a joint");
    setMouseTracking(true);
}

void JointMap::show_project(std::shared_ptr<const Project> project, std::shared_ptr<const Results> results) {
    project_ = std::move(project);
    results_ = std::move(results);
    worst_.clear();
    if (results_)
        for (const auto& finding : results_->findings) // the worst first
            worst_.try_emplace(finding.joint, finding.severity);
    if (!kollema::find(*project_, chosen_))
        chosen_ = project_->joints.empty() ? JointId{} : project_->joints.front().id;
    look_around();
}

/// All of them, or those nearest to the chosen one, joint by joint.
std::vector<std::size_t> JointMap::joints_to_show() const {
    // Beyond these around one, so that names can be read.
    constexpr std::size_t most_in_all = 24, most_rows = 4;
    const auto& joints = project_->joints;
    std::vector<std::size_t> shown;
    const bool deep = more_rows_than(most_rows, *project_);
    const std::size_t most = deep ? 3 : 6;
    if (joints.size() <= most_in_all && !deep) {
        for (std::size_t j = 0; j < joints.size(); ++j)
            shown.push_back(j);
        return shown;
    }
    std::map<InstanceId, std::vector<std::size_t>> joints_at;
    for (std::size_t j = 0; j < joints.size(); ++j)
        for (const auto& member : joints[j].members)
            joints_at[member.instance].push_back(j);
    std::set<std::size_t> seen{joints.position(chosen_)};
    shown.assign(seen.begin(), seen.end());
    for (std::size_t next = 0; next < shown.size() && shown.size() < most; ++next)
        for (const auto& member : joints[shown[next]].members)
            for (const std::size_t j : joints_at[member.instance])
                if (shown.size() < most && seen.insert(j).second) shown.push_back(j);
    std::ranges::sort(shown);
    return shown;
}

void JointMap::look_around() {
    nodes_.clear();
    links_.clear();
    const auto shown = joints_to_show();
    std::set<std::size_t> instances; // in the order of the project
    for (const std::size_t j : shown)
        for (const auto& member : project_->joints[j].members)
            instances.insert(project_->instances.position(member.instance));
    const bool all = shown.size() == project_->joints.size();
    for (std::size_t i = 0; i < project_->instances.size(); ++i)
        if (all || instances.contains(i)) add_node(project_->instances[i]);
    for (const std::size_t j : shown)
        add_link(project_->joints[j]);
    left_out_ = project_->joints.size() - shown.size();
    arrange();
    update();
}

void JointMap::add_node(const Instance& instance) {
    const Part& part = *kollema::find(*project_, instance.part);
    const auto material = standards::material(part.material);
    Node node{
        instance.id, qt(part.name),    material ? qt(material->title).section(' ', 0, -1) : QString(), {},
        {},          instance.grounded};
    if (results_) {
        const PartHold hold = hold_of(*results_, instance.id);
        node.note = hold.note;
        node.details = hold.details;
        node.loose = hold.moves;
    }
    nodes_.push_back(node);
}

void JointMap::add_link(const Joint& joint) {
    Link link{joint.id, qt(joint.name), hardware_line(*project_, joint)};
    link.locates = results_ && joint::locates_across(results_->checked.placement.designs, joint.id);
    for (const auto& member : joint.members) {
        const auto at = std::ranges::find(nodes_, member.instance, &Node::instance);
        link.nodes.push_back(static_cast<std::size_t>(at - nodes_.begin()));
    }
    if (const auto found = worst_.find(joint.id); found != worst_.end()) link.worst = found->second;
    links_.push_back(link);
}

/// From 0 at the lowest layer to 1 at the highest: more room where several joints stand between the same
/// parts.
std::vector<double> JointMap::heights_of_layers(int top) const {
    std::vector<double> room(static_cast<std::size_t>(top) + 1, 0.0);
    std::map<std::vector<std::size_t>, int> between;
    for (const auto& link : links_) {
        int upper = 0;
        for (const auto n : link.nodes)
            upper = std::max(upper, nodes_[n].layer);
        auto parts = link.nodes;
        std::ranges::sort(parts);
        const auto at = static_cast<std::size_t>(upper);
        room[at] = std::max(room[at], static_cast<double>(++between[parts]));
    }
    std::vector<double> heights(room.size(), 0.0);
    for (std::size_t l = 1; l < room.size(); ++l)
        heights[l] = heights[l - 1] + node_height + std::max(1.0, room[l]) * plate_height;
    const double whole = std::max(1.0, heights.back());
    for (auto& h : heights)
        h /= whole;
    return heights;
}

/// Layers upward from the grounded part, in the order in which joints reach the others; plates between their
/// parts.
void JointMap::arrange() {
    for (auto& node : nodes_)
        node.layer = node.grounded ? 0 : -1;
    if (!nodes_.empty() && std::ranges::none_of(nodes_, &Node::grounded)) nodes_.front().layer = 0;
    for (bool moved = true; moved;) {
        moved = false;
        for (const auto& link : links_)
            for (const auto a : link.nodes)
                for (const auto b : link.nodes)
                    if (nodes_[a].layer >= 0 && nodes_[b].layer < 0) {
                        nodes_[b].layer = nodes_[a].layer + 1;
                        moved = true;
                    }
    }
    int top = 0;
    for (const auto& node : nodes_)
        top = std::max(top, node.layer);
    for (auto& node : nodes_)
        if (node.layer < 0) node.layer = top + 1;
    for (const auto& node : nodes_)
        top = std::max(top, node.layer);
    const std::vector<double> heights = heights_of_layers(top);
    for (int layer = 0; layer <= top; ++layer) {
        const auto in_layer = [&](const Node& n) { return n.layer == layer; };
        const auto count = std::ranges::count_if(nodes_, in_layer);
        int i = 0;
        for (auto& node : nodes_)
            if (in_layer(node))
                node.place = {(i++ + 0.5) / static_cast<double>(count),
                              top == 0 ? 0.5 : 1.0 - heights[static_cast<std::size_t>(layer)]};
    }
    for (auto& link : links_) {
        QPointF middle;
        std::size_t upper = link.nodes.front();
        for (const auto n : link.nodes) {
            middle += nodes_[n].place / static_cast<double>(link.nodes.size());
            if (nodes_[n].layer > nodes_[upper].layer) upper = n;
        }
        // Beside each other in one layer they have no room between them: the plate stands below, or above the
        // lowest.
        if (std::ranges::all_of(link.nodes,
                                [&](std::size_t n) { return nodes_[n].layer == nodes_[upper].layer; }))
            middle.ry() += nodes_[upper].layer > 0 ? 0.16 : -0.16;
        // Joints between the same parts stand one above the other, nearer to the part they hold than to its
        // base.
        std::vector<Link*> same;
        for (auto& other : links_)
            if (other.nodes == link.nodes) same.push_back(&other);
        const auto rank = std::ranges::find(same, &link) - same.begin();
        link.lane = static_cast<double>(rank) - static_cast<double>(same.size() - 1) / 2;
        link.place = {(middle.x() + 3 * nodes_[upper].place.x()) / 4, middle.y() + 0.22 * link.lane};
    }
    // Plates that would cover each other step down.
    for (std::size_t i = 1; i < links_.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (std::abs(links_[i].place.y() - links_[k].place.y()) < 0.1 &&
                std::abs(links_[i].place.x() - links_[k].place.x()) < 0.85)
                links_[i].place.ry() += 0.11;
    constexpr double lowest_allowed = 0.86; // above the grounded part
    double lowest = lowest_allowed;
    for (const auto& link : links_)
        lowest = std::max(lowest, link.place.y());
    for (auto& link : links_)
        link.place.ry() -= lowest - lowest_allowed;
}

/// Room for the line that tells what is not shown.
double JointMap::foot() const { return left_out_ > 0 ? fontMetrics().lineSpacing() + 4 : 0; }

QRectF JointMap::node_box(const Node& node) const {
    const double usable_w = width() - 2 * margin, usable_h = height() - 2 * margin - node_height - foot();
    const auto in_layer = std::ranges::count_if(nodes_, [&](const Node& n) { return n.layer == node.layer; });
    const double w = std::min(170.0, usable_w / static_cast<double>(in_layer) - 10);
    return {margin + node.place.x() * usable_w - w / 2, margin + node.place.y() * usable_h, w, node_height};
}

QRectF JointMap::link_box(const Link& link) const {
    const double usable_w = width() - 2 * margin, usable_h = height() - 2 * margin - node_height - foot();
    const double w = std::min(160.0, usable_w * 0.62);
    const double x = std::clamp(margin + link.place.x() * usable_w - w / 2, margin, width() - margin - w);
    return {x, margin + link.place.y() * usable_h + node_height / 2 - plate_height / 2, w, plate_height};
}

std::vector<std::pair<std::size_t, QLineF>> JointMap::lines_of(const Link& link) const {
    const QPointF plate = link_box(link).center();
    const QPointF start(plate.x() + 16 * link.lane, plate.y());
    std::vector<std::pair<std::size_t, QLineF>> lines;
    for (const auto n : link.nodes) {
        const QRectF box = node_box(nodes_[n]);
        const bool below = box.center().y() > plate.y();
        const double x = std::clamp(start.x(), box.left() + 12, box.right() - 12);
        lines.emplace_back(n, QLineF(start, QPointF(x, below ? box.top() : box.bottom())));
    }
    return lines;
}

/// A broad band along the joints that carry the gap, between the parts that they share and its two ends.
void JointMap::paint_way(QPainter& painter) const {
    if (!way_) return;
    std::map<std::size_t, int> met; // parts on the way are met by two of its joints, or are an end
    for (const auto& link : links_)
        if (way_->carries.contains(link.joint))
            for (const auto n : link.nodes)
                ++met[n];
    const auto is_end = [&](std::size_t n) {
        return nodes_[n].instance == way_->from || nodes_[n].instance == way_->to;
    };
    QColor band = theme().accent;
    band.setAlphaF(0.3F);
    painter.setPen(QPen(band, 13, Qt::SolidLine, Qt::FlatCap));
    for (const auto& link : links_)
        if (way_->carries.contains(link.joint))
            for (const auto& [n, line] : lines_of(link))
                if (met[n] > 1 || is_end(n)) painter.drawLine(line);
    painter.setBrush(band);
    painter.setPen(Qt::NoPen);
    for (std::size_t n = 0; n < nodes_.size(); ++n)
        if (met[n] > 1 || is_end(n))
            painter.drawRoundedRect(node_box(nodes_[n]).adjusted(-5, -5, 5, 5), 6, 6);
}

void JointMap::paint_link(QPainter& painter, const Link& link) const {
    QPen pen(link.worst ? colour(*link.worst) : theme().good, link.locates ? 3 : 2);
    if (!link.locates) pen.setStyle(Qt::DashLine);
    painter.setPen(pen);
    for (const auto& [n, line] : lines_of(link))
        painter.drawLine(line);
}

void JointMap::paint_plate(QPainter& painter, const Link& link) const {
    const QRectF box = link_box(link);
    const bool is_chosen = link.joint == chosen_;
    const QColor edge = link.worst ? colour(*link.worst) : theme().good;
    painter.setPen(QPen(edge, is_chosen ? 2.5 : 1));
    painter.setBrush(is_chosen ? theme().selection : theme().sheet);
    painter.drawRect(box);
    painter.fillRect(QRectF(box.left(), box.top(), 20, box.height()), edge);
    painter.setPen(theme().sheet);
    painter.drawText(QRectF(box.left(), box.top(), 20, box.height()), Qt::AlignCenter,
                     link.worst ? sign(*link.worst) : QStringLiteral("✓"));
    painter.setPen(theme().ink);
    const QRectF text = box.adjusted(25, 2, -3, -2);
    const QFontMetricsF metrics(painter.font());
    painter.drawText(text, Qt::AlignLeft | Qt::AlignTop,
                     metrics.elidedText(link.text, Qt::ElideRight, text.width()));
    painter.setPen(theme().faint);
    QFont small = painter.font();
    small.setPointSizeF(small.pointSizeF() * 0.86);
    painter.save();
    painter.setFont(small);
    painter.drawText(text, Qt::AlignLeft | Qt::AlignBottom,
                     QFontMetricsF(small).elidedText(link.detail, Qt::ElideRight, text.width()));
    painter.restore();
    if (is_chosen && hasFocus()) {
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(box.adjusted(-3, -3, 3, 3));
    }
}

void JointMap::paint_node(QPainter& painter, const Node& node) const {
    const QRectF box = node_box(node);
    painter.setPen(
        QPen(node.loose ? theme().warning : theme().ink, 1.4, node.loose ? Qt::DotLine : Qt::SolidLine));
    painter.setBrush(theme().tints[static_cast<std::size_t>(&node - nodes_.data()) % 4]);
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(theme().ink);
    QFont bold = painter.font();
    bold.setBold(true);
    painter.save();
    painter.setFont(bold);
    painter.drawText(box.adjusted(3, 3, -3, -18), Qt::AlignCenter,
                     QFontMetricsF(bold).elidedText(node.text, Qt::ElideRight, box.width() - 6));
    painter.restore();
    painter.setPen(theme().faint);
    painter.save();
    QFont small = painter.font();
    small.setPointSizeF(small.pointSizeF() * 0.86);
    painter.setFont(small);
    const QString note = node.grounded ? QStringLiteral("grounded") : node.note;
    painter.drawText(box.adjusted(6, 18, -6, -3), Qt::AlignCenter,
                     QFontMetricsF(small).elidedText(note, Qt::ElideRight, box.width() - 12));
    painter.restore();
    if (node.grounded) // the ground's hatching below the part
        for (double x = box.left(); x < box.right(); x += 9) {
            painter.setPen(theme().faint);
            painter.drawLine(QPointF(x + 6, box.bottom() + 1), QPointF(x, box.bottom() + 7));
        }
}

void JointMap::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (nodes_.empty()) {
        painter.setPen(theme().faint);
        painter.drawText(rect().adjusted(16, 16, -16, -16), Qt::AlignCenter | Qt::TextWordWrap,
                         "No parts yet.\nAdd a block, or open the demo from the File menu.");
        return;
    }
    paint_way(painter);
    for (const auto& link : links_)
        paint_link(painter, link);
    for (const auto& link : links_)
        paint_plate(painter, link);
    for (const auto& node : nodes_)
        paint_node(painter, node);
    if (left_out_ == 0) return;
    painter.setPen(theme().faint);
    painter.drawText(rect().adjusted(6, 2, -6, -2), Qt::AlignBottom | Qt::AlignHCenter,
                     QString("around this joint; %1 more").arg(left_out_));
}

void JointMap::show_way(std::optional<GapWay> way) {
    way_ = std::move(way);
    update();
}

void JointMap::choose(const JointId& joint) {
    if (joint == chosen_ || !kollema::find(*project_, joint)) return; // one that is asked for may be gone
    chosen_ = joint;
    if (left_out_ > 0) look_around();
    update();
    emit joint_chosen(joint);
}

void JointMap::mousePressEvent(QMouseEvent* event) {
    for (const auto& link : links_)
        if (link_box(link).contains(event->position())) choose(link.joint);
}

void JointMap::step(int by) {
    const auto& joints = project_->joints;
    if (joints.empty()) return;
    const auto at = static_cast<std::ptrdiff_t>(joints.position(chosen_)),
               count = static_cast<std::ptrdiff_t>(joints.size());
    choose(joints[static_cast<std::size_t>((at + by + count) % count)].id);
}

void JointMap::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Down:
    case Qt::Key_Right:
        return step(1);
    case Qt::Key_Up:
    case Qt::Key_Left:
        return step(-1);
    default:
        QWidget::keyPressEvent(event);
    }
}

/// Of the part under the mouse; by the keyboard of the parts of the chosen joint.
void JointMap::contextMenuEvent(QContextMenuEvent* event) {
    std::vector<InstanceId> asked;
    if (event->reason() == QContextMenuEvent::Keyboard) {
        if (const Joint* joint = kollema::find(*project_, chosen_))
            for (const auto& member : joint->members)
                asked.push_back(member.instance);
    } else
        for (const auto& node : nodes_)
            if (node_box(node).contains(event->pos())) asked.push_back(node.instance);
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto& id : asked) {
        const Instance& instance = *kollema::find(*project_, id);
        if (instance.grounded) continue;
        auto* action = menu->addAction(qt(part_of(*project_, id)->name) + " is meant to come off");
        action->setCheckable(true);
        action->setChecked(instance.may_come_off);
        connect(action, &QAction::triggered, this,
                [this, id](bool is_meant) { emit coming_off_wished(id, is_meant); });
    }
    if (menu->isEmpty())
        delete menu;
    else
        menu->popup(event->globalPos());
}

QString JointMap::details_of(const Link& link) const {
    QString text = link.text + "\n" + link.detail + "\n" +
                   (link.locates ? "Locates (solid line)" : "Only clamps (dashed line)");
    if (!way_) return text;
    const auto carries = way_->carries.find(link.joint);
    return carries == way_->carries.end() ? text : text + "\n" + carries->second;
}

bool JointMap::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        for (const auto& link : links_)
            if (link_box(link).contains(help->pos())) {
                QToolTip::showText(help->globalPos(), details_of(link), this);
                return true;
            }
        for (const auto& node : nodes_)
            if (node_box(node).contains(help->pos())) {
                const QString what = node.material.isEmpty() ? node.text : node.text + ", " + node.material;
                QToolTip::showText(help->globalPos(), what + "\n" + node.details, this);
                return true;
            }
        QToolTip::hideText();
    }
    return QWidget::event(event);
}

}

#include "moc_joint_map.cpp"
