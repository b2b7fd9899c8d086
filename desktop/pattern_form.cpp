#include "pattern_form.hpp"
#include "presenter/text.hpp"
#include "row_table.hpp"
#include "value_edit.hpp"
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace kollema::desktop {
namespace {

using pattern::TypedHoles;
using pattern::TypedMember;

constexpr std::array member_cells{&TypedMember::group, &TypedMember::name,   &TypedMember::what,
                                  &TypedMember::size,  &TypedMember::limits, &TypedMember::position};
constexpr std::array member_columns{
    RowTable::Column{
        "Alike",
        "A name for the fasteners that are alike, such as screws or dowels; empty: as in the row above", 74},
    RowTable::Column{"Name", "Of the fastener or of the plate", 0},
    RowTable::Column{"What it is",
                     "fastener; flattened 2 at 90: a dowel with lands 2 wide, free along 90°\n"
                     "hole (usual); slot 12 at 90: its length over all and its direction\n"
                     "tapped; tapped engaged 12 above 10, where its zone is not projected; pressed",
                     170},
    RowTable::Column{
        "Diameter",
        "A length, or a thread such as M6; of a hole also fine, medium or coarse. Empty where the "
        "fastener is carried",
        76},
    RowTable::Column{"Limits",
                     "Such as +0.15 0, ±0.05 or H13; what is usual for a thread or a class where empty", 86},
    RowTable::Column{"Position ø", "Diameter of the zone; 0.2 M where it grows with the hole; 0 where empty",
                     76}};

constexpr std::array hole_cells{&TypedHoles::group, &TypedHoles::x,      &TypedHoles::y,
                                &TypedHoles::count, &TypedHoles::circle, &TypedHoles::first};
constexpr std::array hole_columns{
    RowTable::Column{"Alike", "Whose holes; empty: as in the row above", 66},
    RowTable::Column{"x", "Of the hole, or of the middle of its circle; 0 where empty", 0},
    RowTable::Column{"y", "Of the hole, or of the middle of its circle; 0 where empty", 56},
    RowTable::Column{"Count", "1 where empty; several lie evenly in a circle", 48},
    RowTable::Column{"Circle ø", "Diameter of the circle in which they lie", 60},
    RowTable::Column{"First at", "Direction of the first, in degrees from x to y", 56}};

RowTable* named_table(std::span<const RowTable::Column> columns, const char* name,
                      const QString& accessible) {
    auto* made = new RowTable(columns, nullptr);
    made->setObjectName(name);
    made->setAccessibleName(accessible);
    return made;
}

QComboBox* combo(const char* name, const QString& accessible, std::initializer_list<const char*> words) {
    auto* made = new QComboBox;
    made->setObjectName(name);
    made->setAccessibleName(accessible);
    for (const auto* word : words)
        made->addItem(word);
    return made;
}

}

PatternForm::PatternForm(QWidget* parent)
    : QWidget(parent),
      name_(new ValueEdit),
      unit_(combo("pattern_unit", "Unit of the pattern's figures", {"mm", "in"})),
      located_(combo("pattern_located", "Whether the plates may move",
                     {"plates shift and turn", "plates stay where they are"})),
      positions_(combo("pattern_positions", "How the holes lie in their zones",
                       {"places uniform", "places normal"})),
      sizes_(combo("pattern_sizes", "How the diameters scatter", {"sizes uniform", "sizes normal"})),
      members_(named_table(member_columns, "pattern_members", "Fasteners and plates of the pattern")),
      holes_(named_table(hole_columns, "pattern_holes", "Places of the holes")) {
    name_->setObjectName("pattern_name");
    name_->setAccessibleName("Name of the pattern");
    unit_->setToolTip("Of figures that are typed without a unit");
    auto* head = new QHBoxLayout;
    head->addWidget(name_, 1);
    for (auto* box : {unit_, located_, positions_, sizes_})
        head->addWidget(box);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(head);
    column->addWidget(members_);
    connect(name_, &ValueEdit::committed, this, &PatternForm::take_fields);
    for (auto* box : {unit_, located_, positions_, sizes_})
        connect(box, &QComboBox::activated, this, &PatternForm::take_fields);
    connect(members_, &RowTable::cells_wished, this, [this](const QString& what, const CellRows& cells) {
        TypedPattern changed = shown_;
        changed.typed.members = rows_of(cells, member_cells);
        emit pattern_wished(qt(changed.name) + ": " + what, changed);
    });
    connect(holes_, &RowTable::cells_wished, this, [this](const QString& what, const CellRows& cells) {
        TypedPattern changed = shown_;
        changed.typed.holes = rows_of(cells, hole_cells);
        emit pattern_wished(qt(changed.name) + ": holes, " + what, changed);
    });
    for (auto* t : {members_, holes_})
        connect(t, &RowTable::refused, this, &PatternForm::refused);
}

void PatternForm::show_pattern(const TypedPattern& pattern) {
    if (pattern.id != shown_.id) name_->commit(); // its last word belongs to the pattern before
    shown_ = pattern;
    name_->show_value(qt(pattern.name));
    unit_->setCurrentIndex(pattern.unit == LengthUnit::mm ? 0 : 1);
    located_->setCurrentIndex(pattern.typed.may_move ? 0 : 1);
    positions_->setCurrentIndex(pattern.typed.positions == pattern::Spread::uniform ? 0 : 1);
    sizes_->setCurrentIndex(pattern.typed.sizes == pattern::Spread::uniform ? 0 : 1);
    members_->show_cells(cells_of(pattern.typed.members, member_cells));
    holes_->show_cells(cells_of(pattern.typed.holes, hole_cells));
}

void PatternForm::take_fields() {
    const auto spread = [](const QComboBox* box) {
        return box->currentIndex() == 0 ? pattern::Spread::uniform : pattern::Spread::normal;
    };
    TypedPattern changed = shown_;
    changed.name = name_->text().trimmed().toStdString();
    changed.unit = unit_->currentIndex() == 0 ? LengthUnit::mm : LengthUnit::inch;
    changed.typed.may_move = located_->currentIndex() == 0;
    changed.typed.positions = spread(positions_);
    changed.typed.sizes = spread(sizes_);
    if (changed != shown_) emit pattern_wished(qt(changed.name) + ": what it is of", changed);
}

QWidget* PatternForm::holes() const { return holes_; }

void PatternForm::edit_first_cell() { members_->edit_row(0); }

}

#include "moc_pattern_form.cpp"
