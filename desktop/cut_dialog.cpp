#include "cut_dialog.hpp"
#include "edit/feature_edits.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "sizes_picture.hpp"
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <numbers>

namespace kollema::desktop {
namespace {

constexpr double degrees = 180 / std::numbers::pi;

bool is_own_cut(const Feature& feature) { return feature.anchor && !feature.owner; }

/// A depth or a length of 0 is refused by the part, with better words.
Result<Value> typed(const Parameter& parameter, const QString& text, LengthUnit unit) {
    if (parameter.type != ValueType::number) return parse_value(parameter, text.toStdString(), unit);
    const auto size = parse_length_mm(text.toStdString(), unit);
    if (!size) return tl::unexpected(size.error());
    return Value(*size);
}

}

bool can_be_cut(const Part& part, const FeatureId& id) {
    const Feature* feature = find(part, id);
    return feature && (is_own_cut(*feature) || !shape::cuts_for(feature->shape).empty());
}

CutDialog::CutDialog(QWidget* parent, const Project& project, const Part& part, const FeatureId& id,
                     LengthUnit unit, geometry::PartSolids& solids, TakeProject take)
    : QDialog(parent),
      project_(project),
      part_(part.id),
      seat_(id),
      unit_(unit),
      solids_(solids),
      take_(std::move(take)),
      cuts_(new QListWidget),
      form_(new QFormLayout),
      picture_(new QLabel),
      refusal_(new QLabel) {
    const Feature& feature = *kollema::find(part, id);
    if (is_own_cut(feature)) {
        existing_ = id;
        seat_ = feature.anchor->on;
        offered_ = {feature.shape};
    }
    const Feature& seat = *kollema::find(part, seat_);
    seat_shape_ = seat.shape;
    if (!existing_.text.empty()) place_ = shape::place_of(seat_shape_, feature.anchor->place);
    if (offered_.empty()) offered_ = shape::cuts_for(seat_shape_);
    setWindowTitle(QString("Cut into %1, %2").arg(qt(part.name), qt(seat.name)));
    resize(760, 470);
    cuts_->setAccessibleName("What is cut");
    cuts_->setMaximumWidth(110);
    for (const auto& shape : offered_)
        cuts_->addItem(qt(std::string(shape::title(shape))));
    refusal_->setObjectName("refusal");
    refusal_->setWordWrap(true);
    refusal_->hide();
    picture_->setMinimumSize(360, 300);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setAccessibleName("Picture of the part");
    auto* middle = new QHBoxLayout;
    middle->addWidget(cuts_);
    middle->addLayout(form_, 1);
    middle->addWidget(picture_, 1);
    auto* cut = new QPushButton(existing_.text.empty() ? "Cut it" : "Change it");
    cut->setObjectName("primary");
    cut->setDefault(true);
    auto* leave = new QPushButton("Leave it");
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(leave);
    buttons->addWidget(cut);
    auto* column = new QVBoxLayout(this);
    column->addLayout(middle, 1);
    column->addWidget(refusal_);
    column->addLayout(buttons);
    connect(cuts_, &QListWidget::currentRowChanged, this, &CutDialog::choose);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(cut, &QPushButton::clicked, this, &CutDialog::cut);
    cuts_->setCurrentRow(0);
}

void CutDialog::choose(int cut) {
    if (cut < 0) return;
    shape_ = offered_[static_cast<std::size_t>(cut)];
    fill_fields();
    draw();
}

void CutDialog::fill_fields() {
    while (form_->rowCount() > 0)
        form_->removeRow(0);
    sizes_.clear();
    places_.clear();
    const auto field = [this](const QString& title, const QString& text, const QString& meaning) {
        auto* edit = new QLineEdit(text);
        edit->setAccessibleName(title);
        edit->setToolTip(meaning);
        connect(edit, &QLineEdit::editingFinished, this, &CutDialog::draw);
        form_->addRow(title, edit);
        return edit;
    };
    for (const auto& parameter : shape::parameters(shape_))
        sizes_.emplace_back(parameter,
                            field(qt(parameter.title), qt(text_of(parameter.value, parameter.unit, unit_)),
                                  qt(parameter.meaning)));
    const auto length = [this](double mm) { return qt(text_of(Value(mm), Unit::length, unit_)); };
    if (std::holds_alternative<PlaneFace>(seat_shape_))
        places_ = {field("x", length(place_.on_face_mm.x()), "From the middle of the face"),
                   field("y", length(place_.on_face_mm.y()), "From the middle of the face")};
    else
        places_ = {field("Begins", length(place_.along_mm), "From that end of the cylinder"),
                   field("Turned by", qt(plain(place_.turn_rad * degrees, 6)), "About the axis, in degrees"),
                   field("From the last end", place_.from_last_end ? "yes" : "no",
                         "Else from the first end of the cylinder")};
}

Result<Project> CutDialog::made() {
    Shape shape = shape_;
    for (const auto& [parameter, edit] : sizes_) {
        const auto value = typed(parameter, edit->text().trimmed(), unit_);
        if (!value) return tl::unexpected(value.error());
        auto changed = shape::with_parameter(std::move(shape), parameter.key, *value);
        if (!changed) return tl::unexpected(changed.error());
        shape = std::move(*changed);
    }
    const auto first = parse_length_mm(places_[0]->text().toStdString(), unit_);
    if (!first) return tl::unexpected(first.error());
    shape::CutPlace place;
    if (std::holds_alternative<PlaneFace>(seat_shape_)) {
        const auto second = parse_length_mm(places_[1]->text().toStdString(), unit_);
        if (!second) return tl::unexpected(second.error());
        place.on_face_mm = {*first, *second};
    } else {
        bool is_number = false;
        place.along_mm = *first;
        place.from_last_end = places_[2]->text().trimmed() == "yes";
        place.turn_rad = places_[1]->text().toDouble(&is_number) / degrees;
        if (!is_number)
            return fail({.what = places_[1]->text().toStdString(),
                         .why = "it is no number of degrees",
                         .remedy = "Write for example 90",
                         .kind = FailureKind::argument});
    }
    const Part& part = *kollema::find(project_, part_);
    const std::string name = existing_.text.empty() ? std::string() : kollema::find(part, existing_)->name;
    return edit::put_feature(project_, part_, seat_, place, shape, name, existing_);
}

void CutDialog::draw() {
    const auto after = made();
    refusal_->setVisible(!after);
    if (!after) return refusal_->setText(message(after.error()));
    picture_->setPixmap(picture_of_recipe(recipe_of(*kollema::find(*after, part_)), solids_, {360, 300}));
}

void CutDialog::cut() {
    const auto after = made();
    refusal_->setVisible(!after);
    if (!after) return refusal_->setText(message(after.error()));
    take_(windowTitle(), after);
    accept();
}

}

#include "moc_cut_dialog.cpp"
