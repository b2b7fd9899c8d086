#include "new_items.hpp"
#include "edit/edits.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "standards/materials.hpp"
#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace kollema::desktop {
namespace {

/// A form with a message line and two buttons that say what they do.
class Form : public QDialog {
public:
    Form(const QString& title, const QString& verb, QWidget* parent)
        : QDialog(parent),
          form_(new QFormLayout),
          refusal_(new QLabel(this)) {
        setWindowTitle(title);
        setMinimumWidth(420);
        refusal_->setObjectName("refusal");
        refusal_->setWordWrap(true);
        refusal_->hide();
        auto* column = new QVBoxLayout(this);
        column->addLayout(form_);
        column->addWidget(refusal_);
        auto* buttons = new QHBoxLayout;
        auto* make = new QPushButton(verb, this);
        make->setObjectName("primary");
        make->setDefault(true);
        auto* leave = new QPushButton("Leave it", this);
        buttons->addStretch(1);
        buttons->addWidget(leave);
        buttons->addWidget(make);
        column->addLayout(buttons);
        connect(leave, &QPushButton::clicked, this, &QDialog::reject);
        connect(make, &QPushButton::clicked, this, [this] {
            if (const QString why = attempt(); why.isEmpty())
                accept();
            else {
                refusal_->setText(why);
                refusal_->show();
            }
        });
    }
    QLineEdit* line(const QString& label, const QString& value) {
        auto* field = new QLineEdit(value, this);
        field->setAccessibleName(label);
        form_->addRow(label, field);
        return field;
    }
    QComboBox* choice(const QString& label) {
        auto* field = new QComboBox(this);
        field->setAccessibleName(label);
        form_->addRow(label, field);
        return field;
    }
    void set_row_visible(QWidget* field, bool visible) {
        form_->setRowVisible(field, visible);
        adjustSize();
    }
    bool is_row_visible(QWidget* field) const { return form_->isRowVisible(field); }
    std::function<QString()> attempt; ///< empty when it was done, else why not

private:
    QFormLayout* form_;
    QLabel* refusal_;
};

/// Hands an edit's outcome to the window; the message stays in the form.
QString outcome(const TakeProject& take, const QString& text, const Result<Project>& after) {
    if (!after) return message(after.error());
    take(text, after);
    return {};
}

void add_faces(QComboBox* box, const Project& project) {
    for (const auto& instance : project.instances) {
        const Part& part = *find(project, instance.part);
        for (const auto& feature : part.features)
            if (std::holds_alternative<PlaneFace>(feature.shape))
                box->addItem(qt(part.name) + ": " + qt(feature.name),
                             QStringList{qt(instance.id.text), qt(feature.id.text)});
    }
}

FeatureRef face(const QComboBox* box) {
    const QStringList ids = box->currentData().toStringList();
    return ids.size() == 2 ? FeatureRef{{ids[0].toStdString()}, {ids[1].toStdString()}} : FeatureRef{};
}

Result<std::optional<double>> parse_limit(const QString& text, LengthUnit unit) {
    if (text.trimmed().isEmpty()) return std::optional<double>{};
    const auto limit = parse_length_mm(text.trimmed().toStdString(), unit);
    if (!limit) return tl::unexpected(limit.error());
    return std::optional(*limit);
}

}

void ask_for_gap(QWidget* parent, const Project& project, LengthUnit unit, const TakeProject& take) {
    Form form("Require a gap", "Require it", parent);
    auto* name = form.line("Name", "Gap");
    auto* from = form.choice("From face of");
    auto* to = form.choice("To face of");
    add_faces(from, project);
    add_faces(to, project);
    auto* lower = form.line(QString("At least, in %1").arg(qt(symbol(unit))), "");
    auto* upper = form.line(QString("At most, in %1").arg(qt(symbol(unit))), "");
    form.attempt = [&]() -> QString {
        const auto low = parse_limit(lower->text(), unit), high = parse_limit(upper->text(), unit);
        if (!low) return message(low.error());
        if (!high) return message(high.error());
        return outcome(take, "Require " + name->text(),
                       edit::add_requirement(project, {.name = name->text().trimmed().toStdString(),
                                                       .from = face(from),
                                                       .to = face(to),
                                                       .lower_mm = *low,
                                                       .upper_mm = *high}));
    };
    form.exec();
}

}
