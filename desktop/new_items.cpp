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

/// "10, -24; 10, 24" as points.
Result<std::vector<Vector2>> parse_places(const QString& text, LengthUnit unit) {
    std::vector<Vector2> places;
    for (const auto& pair : text.split(';', Qt::SkipEmptyParts)) {
        const QStringList xy = pair.split(',');
        if (xy.size() != 2)
            return fail({.what = pair.trimmed().toStdString(),
                         .why = "a place is two numbers with a comma between them",
                         .remedy = "Write for example 0, -24; 0, 24",
                         .kind = FailureKind::argument});
        const auto x = parse_length_mm(xy[0].toStdString(), unit),
                   y = parse_length_mm(xy[1].toStdString(), unit);
        if (!x) return tl::unexpected(x.error());
        if (!y) return tl::unexpected(y.error());
        places.emplace_back(*x, *y);
    }
    return places;
}

Result<std::optional<double>> parse_limit(const QString& text, LengthUnit unit) {
    if (text.trimmed().isEmpty()) return std::optional<double>{};
    const auto limit = parse_length_mm(text.trimmed().toStdString(), unit);
    if (!limit) return tl::unexpected(limit.error());
    return std::optional(*limit);
}

}

void ask_for_block(QWidget* parent, const Project& project, LengthUnit unit, const TakeProject& take) {
    Form form("Add a plate or block", "Add it", parent);
    auto* name = form.line("Name", "Plate");
    auto* length = form.line(QString("Length, x in %1").arg(qt(symbol(unit))), "");
    auto* width = form.line(QString("Width, y in %1").arg(qt(symbol(unit))), "");
    auto* height = form.line(QString("Height, z in %1").arg(qt(symbol(unit))), "");
    auto* material = form.choice("Material");
    for (const auto& m : standards::materials())
        material->addItem(qt(m.title), qt(m.id));
    material->setCurrentIndex(material->findData("s235"));
    auto* process = form.choice("Made by");
    for (const auto& p : processes_at_hand(project.workshop))
        process->addItem(QString("%1 (ISO 2768-%2)").arg(qt(p.title)).arg(p.tolerance_class), qt(p.id));
    process->setCurrentIndex(process->findData("milled"));
    form.attempt = [&]() -> QString {
        Block block;
        for (const auto& [field, size] :
             {std::pair{length, &block.length_mm}, {width, &block.width_mm}, {height, &block.height_mm}}) {
            const auto value = parse_positive_length_mm(field->text().trimmed().toStdString(), unit);
            if (!value) {
                field->setFocus();
                return message(value.error());
            }
            *size = *value;
        }
        return outcome(take, "Add " + name->text(),
                       edit::add_block(project, name->text().trimmed().toStdString(), block,
                                       material->currentData().toString().toStdString(),
                                       process->currentData().toString().toStdString()));
    };
    form.exec();
}

void ask_for_joint(QWidget* parent, const Project& project, LengthUnit unit, const TakeProject& take) {
    Form form("Join parts", "Join them", parent);
    auto* name = form.line("Name", "Screws");
    auto* kind = form.choice("With");
    for (const auto& one : kind::all_kinds()) {
        kind->addItem(qt(kind::info(one).title));
        kind->setItemData(kind->count() - 1, qt(kind::info(one).purpose), Qt::ToolTipRole);
    }
    // From the head side downward; a further member is asked for as soon as the one before is chosen.
    constexpr std::size_t most_asked = 6;
    std::vector<QComboBox*> faces;
    for (std::size_t m = 0; m < most_asked; ++m) {
        auto* box = form.choice(m == 0   ? "Enter on face of"
                                : m == 1 ? "Go into face of"
                                         : QString("Then into face of (%1)").arg(m + 1));
        if (m >= 2) box->addItem("nothing more");
        add_faces(box, project);
        faces.push_back(box);
    }
    const auto show_members = [&form, faces] {
        for (std::size_t m = 2; m < faces.size(); ++m)
            form.set_row_visible(
                faces[m], m == 2 || (form.is_row_visible(faces[m - 1]) && faces[m - 1]->currentIndex() > 0));
    };
    for (auto* box : faces)
        QObject::connect(box, &QComboBox::currentIndexChanged, &form, show_members);
    show_members();
    auto* at = form.line("Middle of the pattern on that face", "0, 0");
    auto* places = form.line("Places of the fasteners about it", "0, -20; 0, 20");
    form.attempt = [&]() -> QString {
        const auto spots = parse_places(places->text(), unit);
        if (!spots) return message(spots.error());
        const auto middle = parse_places(at->text(), unit);
        if (!middle) return message(middle.error());
        if (middle->size() != 1) return "The middle of the pattern is one place, such as 25, 0.";
        Joint joint{.name = name->text().trimmed().toStdString(), .places = *spots};
        joint.kind = kind::all_kinds()[static_cast<std::size_t>(kind->currentIndex())];
        for (std::size_t m = 0; m < faces.size(); ++m)
            if (m < 2 || (form.is_row_visible(faces[m]) && faces[m]->currentIndex() > 0))
                joint.members.push_back({face(faces[m]).instance, face(faces[m]).feature,
                                         m == 0 ? Vector2(0, 0) : middle->front()});
        return outcome(take, "Join with " + name->text(), edit::add_joint(project, joint));
    };
    form.exec();
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
