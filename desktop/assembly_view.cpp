#include "assembly_view.hpp"
#include "join_panel.hpp"
#include "panels.hpp"
#include "presenter/text.hpp"
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

namespace kollema::desktop {
namespace {

QHBoxLayout* row_of(QVBoxLayout* rows) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    rows->addLayout(row);
    return row;
}

}

AssemblyView::AssemblyView()
    : picture_(new AssemblyPicture),
      pointed_(new QLabel),
      state_(new QLabel),
      part_(new QComboBox),
      features_(new QListWidget),
      join_(new JoinPanel) {
    auto* left = new QVBoxLayout;
    left->setContentsMargins(10, 7, 10, 7);
    left->setSpacing(4);
    left->addWidget(build_tools());
    left->addWidget(picture_, 1);
    auto* sheets = new QHBoxLayout(this);
    sheets->setContentsMargins(6, 4, 6, 6);
    sheets->addWidget(side_by_side({framed(left), build_side()}, {880, 360}));
    connect(picture_, &AssemblyPicture::pointed, this, &AssemblyView::point_at);
    connect(picture_, &AssemblyPicture::taken, this, &AssemblyView::take);
    connect(picture_, &AssemblyPicture::scene_shown, this,
            [this](const QString& message) { message.isEmpty() ? tell_scene() : state_->setText(message); });
    connect(picture_, &AssemblyPicture::weighed, this, &AssemblyView::tell_scene);
    connect(part_, &QComboBox::activated, this, [this] {
        fill_features();
        picture_->choose(part(), {});
    });
    connect(features_, &QListWidget::currentRowChanged, this, [this] { picture_->mark(part(), feature()); });
    connect(features_, &QListWidget::itemActivated, this,
            [this] { take_seat(part(), feature(), Vector2::Zero()); });
    connect(join_, &JoinPanel::joint_wished, this, &AssemblyView::joint_wished);
}

InstanceId AssemblyView::part() const { return {part_->currentData().toString().toStdString()}; }

FeatureId AssemblyView::feature() const {
    const auto* item = features_->currentItem();
    return {item ? item->data(Qt::UserRole).toString().toStdString() : std::string()};
}

void AssemblyView::focus_features() { features_->setFocus(); }

QWidget* AssemblyView::build_tools() {
    auto* bar = new QWidget;
    auto* rows = new QVBoxLayout(bar);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(4);
    auto* row = row_of(rows);
    const auto button = [&](const QString& text, const QString& meaning, auto call) {
        auto* b = new QToolButton;
        b->setText(text);
        b->setToolTip(meaning);
        b->setFocusPolicy(Qt::TabFocus);
        connect(b, &QToolButton::clicked, this, call);
        row->addWidget(b);
        return b;
    };
    using geometry::Side;
    int key = 1;
    for (const auto& [name, side] : {std::pair{"front", Side::front},
                                     {"right", Side::right},
                                     {"back", Side::back},
                                     {"left", Side::left},
                                     {"top", Side::top},
                                     {"bottom", Side::bottom},
                                     {"slanted", Side::slanted}})
        button(name, QString("Seen from there (%1)").arg(key++),
               [this, side = side] { picture_->look_from(side); });
    button("all", "All of it in the picture (Home)", [this] { picture_->fit(); });
    row->addStretch(1);
    row = row_of(rows); // both in one are wider than a small screen leaves
    auto* cut = new QComboBox;
    cut->addItems({"whole", "cut across x", "cut across y", "cut across z"});
    cut->setToolTip("A plane takes away what stands before it; move it with Ctrl and the mouse, or Page Up "
                    "and Page Down");
    cut->setObjectName("cut");
    connect(cut, &QComboBox::activated, picture_, &AssemblyPicture::set_cut);
    row->addWidget(cut);
    auto* colours = new QComboBox;
    colours->addItems({"by material", "by finding", "by freedom"});
    colours->setToolTip("What the colours of the parts tell");
    connect(colours, &QComboBox::activated, this,
            [this](int index) { picture_->colour_by(static_cast<Colouring>(index)); });
    row->addWidget(colours);
    auto* names = button("names", "The parts' names in the picture", [] {});
    names->setCheckable(true);
    connect(names, &QToolButton::toggled, picture_, &AssemblyPicture::set_names);
    row->addStretch(1);
    return bar;
}

/// What can be done with the chosen part.
QLayout* AssemblyView::build_part_buttons() {
    auto* rows = new QVBoxLayout;
    rows->setSpacing(4);
    auto* row = row_of(rows);
    const auto button = [&](const QString& text, const char* name, const QString& meaning, auto call) {
        auto* b = new QToolButton;
        b->setText(text);
        b->setObjectName(name);
        b->setToolTip(meaning);
        connect(b, &QToolButton::clicked, this, call);
        row->addWidget(b);
    };
    using Presence = AssemblyPicture::Presence;
    const auto toggle = [this](Presence wanted) {
        picture_->set_presence(part(), picture_->presence(part()) == wanted ? Presence::whole : wanted);
    };
    button("sizes …", "sizes", "Change the sizes of this part; what stands on it follows",
           [this] { emit sizes_wished(part()); });
    button("cut …", "cut_feature",
           "Cut a hole, slot, groove, keyway, flat or thread into the chosen face or cylinder",
           [this] { emit cut_wished(part(), feature()); });
    button("uncut", "uncut_feature", "Take the chosen cut away again",
           [this] { emit uncut_wished(part(), feature()); });
    row->addStretch(1);
    row = row_of(rows);
    button("ghost", "ghost", "Look through this part, and back", [toggle] { toggle(Presence::ghost); });
    button("hide", "hide", "Take this part out of the picture, and back",
           [toggle] { toggle(Presence::hidden); });
    button("all", "show_all", "Every part whole again", [this] { picture_->show_all_parts(); });
    row->addStretch(1);
    return rows;
}

QWidget* AssemblyView::build_side() {
    auto* column = new QVBoxLayout;
    column->setContentsMargins(10, 7, 10, 7);
    column->setSpacing(4);
    column->addWidget(heading("What stands there"));
    pointed_->setWordWrap(true);
    pointed_->setMinimumHeight(40);
    pointed_->setAlignment(Qt::AlignTop);
    pointed_->setObjectName("pointed");
    column->addWidget(pointed_);
    state_->setObjectName("faint");
    state_->setWordWrap(true);
    column->addWidget(state_);
    part_->setAccessibleName("Part");
    part_->setObjectName("assembly_part");
    features_->setAccessibleName("Faces, cylinders and holes of the part");
    features_->setObjectName("part_features");
    features_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff); // whole in its tip
    features_->setMinimumHeight(100);
    column->addWidget(part_);
    column->addLayout(build_part_buttons());
    column->addWidget(features_, 4);
    column->addWidget(join_, 3);
    return framed(column);
}

void AssemblyView::show_results(std::shared_ptr<const Results> results,
                                std::shared_ptr<geometry::PartSolids> solids, LengthUnit unit) {
    results_ = std::move(results);
    unit_ = unit;
    picture_->show_assembly(results_, solids);
    join_->show_results(results_, std::move(solids), unit_);
    fill_parts();
    if (!picture_->is_building()) tell_scene(); // the same, perhaps in another unit
}

void AssemblyView::tell_scene() {
    if (picture_->scene()) state_->setText(scene_words(*picture_->scene(), picture_->mass(), unit_));
    say(said_);
}

void AssemblyView::choose_joint(const JointId& joint) { picture_->choose({}, joint); }

void AssemblyView::restyle() {
    picture_->restyle();
    join_->restyle();
}

void AssemblyView::fill_parts() {
    const QString chosen = part_->currentData().toString();
    part_->clear();
    for (const auto& instance : results_->project->instances)
        part_->addItem(qt(part_of(*results_->project, instance.id)->name), qt(instance.id.text));
    part_->setCurrentIndex(std::max(0, part_->findData(chosen)));
    fill_features();
}

void AssemblyView::fill_features() {
    features_->clear();
    const InstanceId instance = part();
    const Part* part = results_ ? part_of(*results_->project, instance) : nullptr;
    if (!part) return;
    for (const auto& feature : part->features) {
        QStringList words =
            words_for(*results_->project, {.instance = instance, .feature = feature.id}, unit_);
        words.removeFirst();
        auto* item = new QListWidgetItem(words.join(" · "), features_);
        item->setData(Qt::UserRole, qt(feature.id.text));
        item->setToolTip(item->text());
    }
}

void AssemblyView::point_at(const Pointed& pointed) {
    if (results_) say(pointed);
}

void AssemblyView::say(const Pointed& pointed) {
    said_ = pointed;
    QStringList words = words_for(*results_->project, pointed, unit_);
    if (const QString mass = mass_words(picture_->mass(), pointed.instance); !mass.isEmpty())
        words.insert(1, mass);
    pointed_->setText(words.join(" · "));
}

void AssemblyView::take(const Pointed& pointed) {
    if (!results_) return;
    say(pointed);
    if (!pointed.joint.text.empty()) {
        picture_->choose({}, pointed.joint);
        emit joint_chosen(pointed.joint);
        return;
    }
    picture_->choose(pointed.instance, {});
    part_->setCurrentIndex(part_->findData(qt(pointed.instance.text)));
    fill_features();
    for (int row = 0; row < features_->count(); ++row)
        if (features_->item(row)->data(Qt::UserRole).toString().toStdString() == pointed.feature.text)
            features_->setCurrentRow(row);
    // Map and section go to what stands there.
    if (const auto joints = joints_to_show(*results_->project, pointed); !joints.empty())
        emit joint_chosen(joints.front());
    if (!pointed.feature.text.empty())
        take_seat(pointed.instance, pointed.feature, rounded_place(pointed.at, unit_));
}

/// A face, a mid-plane or a cylinder; holes and grooves are made by joints and no seats.
void AssemblyView::take_seat(const InstanceId& instance, const FeatureId& id, const Vector2& at) {
    const Part* part = part_of(*results_->project, instance);
    const Feature* feature = part ? kollema::find(*part, id) : nullptr;
    if (!feature || !seat_of(feature->shape)) return;
    const bool round =
        std::holds_alternative<Round>(feature->shape); // pointed at anywhere, it is taken whole
    join_->take_seat({instance, id, round ? Vector2(0, 0) : at});
}

}

#include "moc_assembly_view.cpp"
