#include "join_panel.hpp"
#include "panels.hpp"
#include "presenter/text.hpp"
#include "section_view.hpp"
#include "value_edit.hpp"
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {
namespace {

constexpr QSize drawing_size{92, 64};

ValueEdit* field(QFormLayout* rows, const QString& title, const QString& name, const QString& meaning) {
    auto* edit = new ValueEdit;
    edit->setObjectName(name);
    edit->setAccessibleName(title);
    edit->setToolTip(meaning);
    rows->addRow(title, edit);
    return edit;
}

}

JoinPanel::JoinPanel()
    : seats_(new QListWidget),
      kinds_(new QListWidget),
      duty_(new QComboBox),
      would_be_(new QLabel),
      join_(new QPushButton("Join them")),
      forget_(new QPushButton("Start again")) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    column->addWidget(heading("Join"));
    auto* hint = new QLabel("Click the seats from the head side on, or press Return on them above.");
    hint->setObjectName("faint");
    hint->setWordWrap(true);
    column->addWidget(hint);
    seats_->setObjectName("taken_seats");
    seats_->setAccessibleName("Seats taken");
    seats_->setMaximumHeight(48);
    column->addWidget(seats_);
    auto* rows = new QFormLayout;
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setVerticalSpacing(3);
    at_ = field(rows, "At", "seat_at",
                "Of the chosen seat: the middle of the joint on that face, such as 25, 0; of a cylinder the "
                "way along it, such as 10, 0");
    places_ = field(rows, "Places", "join_places", "Of the fasteners about it, such as 0, -20; 0, 20");
    places_->show_value("0, 0");
    name_ = field(rows, "Name", "join_name", "Empty: that of the kind");
    duty_->setObjectName("joint_duty");
    rows->addRow("It must", duty_);
    column->addLayout(rows);
    kinds_->setObjectName("join_kinds");
    kinds_->setAccessibleName("Kinds of joint that fit these seats");
    kinds_->setIconSize(drawing_size);
    kinds_->setWordWrap(true);
    kinds_->setMinimumHeight(2 * drawing_size.height() + 12);
    column->addWidget(kinds_, 1);
    would_be_->setWordWrap(true);
    would_be_->setObjectName("would_be");
    column->addWidget(would_be_);
    auto* last = new QHBoxLayout;
    join_->setObjectName("join");
    join_->setEnabled(false);
    last->addWidget(forget_);
    last->addWidget(join_, 1);
    column->addLayout(last);

    connect(seats_, &QListWidget::currentRowChanged, this, &JoinPanel::show_place);
    connect(at_, &ValueEdit::committed, this, &JoinPanel::read_place);
    connect(places_, &ValueEdit::committed, this, [this](const QString& text) {
        places_->show_value(text); // one that cannot be read stays, to be mended
        fill_offers();
    });
    connect(name_, &ValueEdit::committed, name_, &ValueEdit::show_value);
    connect(duty_, &QComboBox::currentIndexChanged, this, &JoinPanel::fill_offers);
    connect(kinds_, &QListWidget::currentRowChanged, this, &JoinPanel::say_offer);
    connect(join_, &QPushButton::clicked, this, &JoinPanel::join);
    connect(forget_, &QPushButton::clicked, this, [this] {
        taken_.clear();
        fill_seats();
    });
    connect(&draw_, &Job::failed, would_be_, &QLabel::setText);
    for (const auto& duty : joint_duties())
        duty_->addItem(duty.title, duty.word);
    fill_seats();
}

void JoinPanel::show_results(std::shared_ptr<const Results> results,
                             std::shared_ptr<geometry::PartSolids> solids, LengthUnit unit) {
    results_ = std::move(results);
    solids_ = std::move(solids);
    if (unit != unit_)
        if (const auto places = parse_places(places_->text(), unit_))
            places_->show_value(places_text(*places, unit));
    unit_ = unit;
    std::erase_if(taken_, [&](const auto& seat) {
        const Part* part = part_of(*results_->project, seat.instance);
        return !part || !kollema::find(*part, seat.feature);
    });
    fill_seats();
}

void JoinPanel::restyle() {
    if (!offers_.empty()) draw_offers();
}

void JoinPanel::take_seat(const joint::PointedSeat& seat) {
    std::erase_if(taken_, [&](const auto& taken) { return taken.instance == seat.instance; });
    taken_.push_back(seat);
    fill_seats();
}

void JoinPanel::fill_seats() {
    const int count = seats_->count(), chosen = seats_->currentRow();
    seats_->clear();
    for (const auto& seat : taken_) {
        const Part* part = part_of(*results_->project, seat.instance);
        seats_->addItem(QString("%1  %2, %3")
                            .arg(seats_->count() + 1)
                            .arg(qt(part->name), qt(kollema::find(*part, seat.feature)->name)));
    }
    seats_->setCurrentRow(seats_->count() == count ? chosen : seats_->count() - 1);
    show_place();
    fill_offers();
}

void JoinPanel::show_place() {
    const auto row = static_cast<std::size_t>(seats_->currentRow());
    at_->setEnabled(row < taken_.size());
    at_->show_value(row < taken_.size() ? places_text({taken_[row].at}, unit_) : QString());
}

void JoinPanel::read_place() {
    const auto row = static_cast<std::size_t>(seats_->currentRow());
    if (row >= taken_.size()) return;
    const auto at = parse_places(at_->text(), unit_);
    if (!at || at->size() != 1) {
        would_be_->setText(at ? "One place, such as 25, 0." : message(at.error()));
        return;
    }
    taken_[row].at = at->front();
    show_place();
    fill_offers();
}

void JoinPanel::fill_offers() {
    const QString chosen =
        kinds_->currentItem() ? kinds_->currentItem()->data(Qt::UserRole).toString() : QString();
    draw_.stop();
    kinds_->clear();
    offers_.clear();
    would_be_->clear();
    join_->setEnabled(false);
    if (taken_.size() < 2 || !results_) return;
    places_->setEnabled(std::ranges::all_of(taken_, [this](const auto& seat) { // along an axis there is one
        const Part* part = part_of(*results_->project, seat.instance);
        return seat_of(kollema::find(*part, seat.feature)->shape) == kind::Seat::face;
    }));
    const auto places = parse_places(places_->text(), unit_);
    if (!places) return would_be_->setText(message(places.error()));
    offers_ = join_offers(*results_->project, results_->checked.placement, taken_, *places,
                          duty_->currentData().toString(), unit_);
    for (const auto& offer : offers_) {
        auto* item = new QListWidgetItem(offer.title + "\n" + offer.purpose, kinds_);
        item->setData(Qt::UserRole, offer.title);
    }
    if (offers_.empty()) would_be_->setText("Nothing that does this takes hold of such seats in this order.");
    int row = 0;
    for (int i = 0; i < kinds_->count(); ++i)
        if (kinds_->item(i)->data(Qt::UserRole).toString() == chosen) row = i;
    kinds_->setCurrentRow(offers_.empty() ? -1 : row);
    draw_offers();
}

/// Solids are cut off the window's thread; what comes for earlier offers is dropped.
void JoinPanel::draw_offers() {
    std::vector<Joint> joints;
    for (const auto& offer : offers_)
        joints.push_back(offer.joint);
    using Drawings = std::vector<std::optional<drawing::Section>>;
    draw_.start<Drawings>(
        [results = results_, solids = solids_, joints = std::move(joints)](const Ticket& ticket) {
            Drawings all;
            for (const auto& joint : joints)
                if (ticket.is_wanted())
                    all.push_back(section_of_offer(*results->project, joint, solids->cutter()));
            return all;
        },
        [this](const Drawings& drawings) {
            for (int i = 0; i < std::min(static_cast<int>(drawings.size()), kinds_->count()); ++i) {
                const auto& section = drawings[static_cast<std::size_t>(i)];
                if (!section) continue;
                const QPixmap drawing = small_section(*section, drawing_size);
                QIcon icon(drawing);
                icon.addPixmap(drawing, QIcon::Selected); // chosen it is not dimmed
                kinds_->item(i)->setIcon(icon);
            }
        });
}

void JoinPanel::say_offer(int row) {
    const bool one = row >= 0 && static_cast<std::size_t>(row) < offers_.size();
    const auto* offer = one ? &offers_[static_cast<std::size_t>(row)] : nullptr;
    would_be_->setText(offer ? offer->would_be : QString());
    join_->setEnabled(offer && offer->possible);
}

void JoinPanel::join() {
    const int row = kinds_->currentRow();
    if (row < 0 || static_cast<std::size_t>(row) >= offers_.size()) return;
    for (auto* field : {at_, places_, name_})
        field->commit();
    if (static_cast<std::size_t>(row) >= offers_.size()) return;
    Joint joint = offers_[static_cast<std::size_t>(row)].joint;
    if (const QString name = name_->text().trimmed(); !name.isEmpty()) joint.name = name.toStdString();
    taken_.clear();
    name_->show_value({});
    places_->show_value("0, 0");
    fill_seats();
    emit joint_wished(joint);
}

}

#include "moc_join_panel.cpp"
