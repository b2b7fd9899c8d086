#include "figure_strip.hpp"
#include "value_edit.hpp"
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QResizeEvent>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <algorithm>

namespace kollema::desktop {
namespace {

/// A wheel turned over the strip scrolls or does nothing; it never changes a thread by accident.
class Choice : public QComboBox {
public:
    using QComboBox::QComboBox;

protected:
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

}

FigureStrip::FigureStrip(int cell_width, int most_columns, QWidget* parent)
    : QFrame(parent),
      cell_width_(cell_width),
      most_columns_(most_columns),
      grid_(new QGridLayout(this)) {
    setObjectName("panel");
    grid_->setContentsMargins(10, 6, 10, 6);
    grid_->setHorizontalSpacing(10);
    grid_->setVerticalSpacing(4);
    setAccessibleName("Figures of the joint");
}

void FigureStrip::commit() {
    for (auto* field : findChildren<ValueEdit*>())
        field->commit();
}

void FigureStrip::show_figures(const QString& subject, const std::vector<Figure>& figures) {
    if (subject != subject_) commit();
    subject_ = subject;
    const auto same = [](const Figure& a, const Figure& b) { return a.key == b.key && a.kind == b.kind; };
    const bool same_fields = std::ranges::equal(figures, figures_, same);
    figures_ = figures;
    if (same_fields) { // the focus and the cursor stay where they are
        for (const auto& figure : figures_)
            update_field(fields_.at(figure.key), figure);
        return;
    }
    for (auto* cell : cells_) { // one of them may be the sender of the wish that led here
        cell->setParent(nullptr);
        cell->deleteLater();
    }
    cells_.clear();
    fields_.clear();
    for (const auto& figure : figures_) {
        auto* cell = new QWidget(this);
        auto* column = new QVBoxLayout(cell);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(1);
        auto* label = new QLabel(figure.label, cell);
        label->setObjectName("faint");
        label->setToolTip(figure.meaning);
        column->addWidget(label);
        auto* field = make_field(figure);
        field->setParent(cell);
        field->setObjectName(figure.key);
        field->setAccessibleName(figure.label);
        field->setAccessibleDescription(figure.meaning);
        field->setToolTip(figure.meaning);
        label->setBuddy(field);
        column->addWidget(field);
        fields_[figure.key] = field;
        cells_.push_back(cell);
        update_field(field, figure);
    }
    columns_ = 0;
    lay_out();
}

QWidget* FigureStrip::make_field(const Figure& figure) {
    const QString key = figure.key;
    switch (figure.kind) {
    case Figure::Kind::choice: {
        auto* box = new Choice(this);
        box->setMinimumContentsLength(6);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        connect(box, &QComboBox::currentTextChanged, this,
                [this, key](const QString& text) { emit change_wished(subject_, key, text); });
        return box;
    }
    case Figure::Kind::toggle: {
        auto* box = new QCheckBox(this);
        connect(box, &QCheckBox::clicked, this,
                [this, key](bool on) { emit change_wished(subject_, key, on ? "yes" : "no"); });
        return box;
    }
    case Figure::Kind::typed: {
        auto* edit = new ValueEdit(this);
        connect(edit, &ValueEdit::committed, this,
                [this, key](const QString& text) { emit change_wished(subject_, key, text); });
        return edit;
    }
    case Figure::Kind::read_only:
        break;
    }
    auto* label = new QLabel(this);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

void FigureStrip::update_field(QWidget* field, const Figure& figure) {
    const QSignalBlocker quiet(field);
    if (auto* box = qobject_cast<QComboBox*>(field)) {
        QStringList now;
        for (int i = 0; i < box->count(); ++i)
            now << box->itemText(i);
        if (now != figure.choices) {
            box->clear();
            box->addItems(figure.choices);
        }
        box->setCurrentText(figure.value);
    } else if (auto* check = qobject_cast<QCheckBox*>(field)) {
        check->setChecked(figure.value == "yes");
        check->setText(figure.value);
    } else if (auto* edit = qobject_cast<ValueEdit*>(field))
        edit->show_value(figure.value);
    else if (auto* label = qobject_cast<QLabel*>(field))
        label->setText(figure.value);
}

void FigureStrip::lay_out() {
    const int fitting = std::clamp((width() - 20) / cell_width_, 1, most_columns_);
    if (fitting == columns_) return;
    columns_ = fitting;
    for (int i = 0; i < static_cast<int>(cells_.size()); ++i)
        grid_->addWidget(cells_[static_cast<std::size_t>(i)], i / fitting, i % fitting);
    for (int c = 0; c < std::max(fitting, grid_->columnCount()); ++c)
        grid_->setColumnStretch(c, c < fitting ? 1 : 0);
}

void FigureStrip::resizeEvent(QResizeEvent* event) {
    QFrame::resizeEvent(event);
    lay_out();
}

void FigureStrip::focus_figure(const QString& key) {
    const auto field = fields_.find(key);
    if (field == fields_.end()) return;
    field->second->setFocus(Qt::ShortcutFocusReason);
    if (auto* edit = qobject_cast<QLineEdit*>(field->second)) edit->selectAll();
}

}

#include "moc_figure_strip.cpp"
