#include "part_gallery.hpp"
#include "edit/edits.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "sizes_picture.hpp"
#include "standards/materials.hpp"
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {
namespace {

/// A chamfer or a bore may be 0; what must not is told by the body itself.
Result<Value> typed_size(const Parameter& parameter, const std::string& text, LengthUnit unit) {
    if (parameter.type != ValueType::number) return parse_value(parameter, text, unit);
    const auto size = parse_length_mm(text, unit);
    if (!size) return tl::unexpected(size.error());
    return Value(*size);
}

}

PartGallery::PartGallery(QWidget* parent, const Project& project, LengthUnit unit,
                         geometry::PartSolids& solids, TakeProject take, const Part* existing)
    : QDialog(parent),
      project_(project),
      unit_(unit),
      solids_(solids),
      take_(std::move(take)),
      shapes_(new QListWidget),
      name_(new QLineEdit("Plate")),
      material_(new QComboBox),
      process_(new QComboBox),
      sizes_(new QFormLayout),
      picture_(new SizesPicture(solids)),
      purpose_(new QLabel),
      refusal_(new QLabel) {
    setWindowTitle("Add a part");
    resize(1040, 660);
    shapes_->setViewMode(QListView::IconMode);
    shapes_->setIconSize({96, 66});
    shapes_->setGridSize({150, 96});
    shapes_->setMovement(QListView::Static);
    shapes_->setResizeMode(QListView::Adjust);
    shapes_->setMaximumHeight(210);
    shapes_->setAccessibleName("Shape");
    for (const auto& body : shape::all_bodies())
        new QListWidgetItem(QIcon(picture_of_recipe(shape::recipe(body), solids_, {96, 66})),
                            qt(shape::info(body).title), shapes_);
    purpose_->setObjectName("faint");
    refusal_->setObjectName("refusal");
    refusal_->setWordWrap(true);
    refusal_->hide();
    for (const auto& m : standards::materials())
        material_->addItem(qt(m.title), qt(m.id));
    material_->setCurrentIndex(material_->findData("s235"));
    for (const auto& p : processes_at_hand(project.workshop))
        process_->addItem(QString("%1 (ISO 2768-%2)").arg(qt(p.title)).arg(p.tolerance_class), qt(p.id));
    process_->setCurrentIndex(process_->findData("milled"));
    name_->setAccessibleName("Name");
    material_->setAccessibleName("Material");
    process_->setAccessibleName("Made by");

    auto* general = new QFormLayout;
    general->addRow("Name", name_);
    general->addRow("Material", material_);
    general->addRow("Made by", process_);
    auto* fields = new QWidget;
    auto* column_of_fields = new QVBoxLayout(fields);
    column_of_fields->addLayout(general);
    column_of_fields->addLayout(sizes_);
    column_of_fields->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setWidget(fields);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setMinimumWidth(280);
    auto* right = new QVBoxLayout;
    right->addWidget(purpose_);
    right->addWidget(picture_, 1);
    auto* middle = new QHBoxLayout;
    middle->addWidget(scroll, 1);
    middle->addLayout(right, 2);
    auto* add = new QPushButton("Add it");
    add->setObjectName("primary");
    add->setDefault(true);
    auto* leave = new QPushButton("Leave it");
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    buttons->addWidget(leave);
    buttons->addWidget(add);
    auto* column = new QVBoxLayout(this);
    column->addWidget(shapes_);
    column->addLayout(middle, 1);
    column->addWidget(refusal_);
    column->addLayout(buttons);
    connect(shapes_, &QListWidget::currentRowChanged, this, &PartGallery::choose);
    connect(picture_, &SizesPicture::typed, this, &PartGallery::follow);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(add, &QPushButton::clicked, this, &PartGallery::add);
    if (!existing) {
        shapes_->setCurrentRow(0);
        name_->setFocus();
        return;
    }
    existing_ = existing->id;
    body_ = existing->body;
    setWindowTitle("Sizes of " + qt(existing->name));
    add->setText("Change it");
    shapes_->hide();
    for (QWidget* field : std::initializer_list<QWidget*>{name_, material_, process_})
        general->setRowVisible(field, false);
    purpose_->setText(qt(shape::info(body_).title));
    fill_sizes();
}

void PartGallery::choose(int shape) {
    if (shape < 0) return;
    body_ = shape::all_bodies()[static_cast<std::size_t>(shape)];
    const QString title = qt(shape::info(body_).title);
    purpose_->setText(title + ": " + qt(shape::info(body_).purpose));
    if (!name_->isModified()) name_->setText(title.section(" or ", 0, 0).section(',', 0, 0));
    fill_sizes();
}

void PartGallery::fill_sizes() {
    while (sizes_->rowCount() > 0)
        sizes_->removeRow(0);
    fields_.clear();
    picture_->show_body(body_, unit_);
    fields_ = picture_->fields();
    for (const auto& parameter : shape::parameters(body_)) {
        const auto same = [&](const auto& field) { return field.first.key == parameter.key; };
        if (std::ranges::any_of(fields_, same)) continue; // it has its place in the picture
        auto* field = new QLineEdit(qt(text_of(parameter.value, parameter.unit, unit_)));
        field->setAccessibleName(qt(parameter.title));
        field->setToolTip(qt(parameter.meaning));
        connect(field, &QLineEdit::editingFinished, this, &PartGallery::follow);
        const QString unit = parameter.unit == Unit::length ? QString(", ") + qt(symbol(unit_)) : QString();
        sizes_->addRow(qt(parameter.title) + unit, field);
        fields_.emplace_back(parameter, field);
    }
    for (const auto& rows : shape::rows(body_)) {
        auto* pair = new QWidget;
        auto* row = new QHBoxLayout(pair);
        row->setContentsMargins(0, 0, 0, 0);
        const std::string key(rows.key);
        for (const bool more : {true, false}) {
            auto* button =
                new QPushButton(QString(more ? "One %1 more" : "One %1 less").arg(qt(rows.title).toLower()));
            button->setAutoDefault(false);
            button->setEnabled(more || rows.count > (rows.may_be_empty ? 0U : 1U));
            connect(button, &QPushButton::clicked, this, [this, key, more] { change_rows(key, more); });
            row->addWidget(button);
        }
        sizes_->addRow(pair);
    }
}

void PartGallery::change_rows(const std::string& key, bool more) {
    if (const QString why = read_sizes(); !why.isEmpty()) return refuse(why);
    std::size_t count = 0;
    for (const auto& rows : shape::rows(body_))
        if (rows.key == key) count = rows.count;
    auto changed = more ? shape::with_row(body_, key, count) : shape::without_row(body_, key, count - 1);
    if (!changed) return refuse(message(changed.error()));
    body_ = std::move(*changed);
    // Later than the click: the button goes with the fields.
    QMetaObject::invokeMethod(
        this, [this] { fill_sizes(); }, Qt::QueuedConnection);
}

QString PartGallery::read_sizes() {
    Body body = body_;
    for (const auto& [parameter, field] : fields_) {
        const auto value = typed_size(parameter, field->text().trimmed().toStdString(), unit_);
        if (!value) {
            field->setFocus();
            return message(value.error());
        }
        shape::set_unchecked(body, parameter.key, *value);
    }
    if (const auto defect = shape::defect_of(body)) return message(*defect);
    body_ = std::move(body);
    refusal_->hide();
    return {};
}

void PartGallery::draw() { picture_->draw(body_); }

void PartGallery::follow() {
    if (read_sizes().isEmpty()) draw();
}

void PartGallery::refuse(const QString& why) {
    refusal_->setText(why);
    refusal_->show();
}

void PartGallery::add() {
    if (const QString why = read_sizes(); !why.isEmpty()) return refuse(why);
    if (!existing_.text.empty()) {
        const auto changed = edit::set_body(project_, existing_, body_);
        if (!changed) return refuse(message(changed.error()));
        take_(windowTitle(), changed);
        return accept();
    }
    const auto after = edit::add_part(project_, name_->text().trimmed().toStdString(), body_,
                                      material_->currentData().toString().toStdString(),
                                      process_->currentData().toString().toStdString());
    if (!after) return refuse(message(after.error()));
    take_("Add " + name_->text(), after);
    accept();
}

}

#include "moc_part_gallery.cpp"
