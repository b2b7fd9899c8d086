#include "taper_dialog.hpp"
#include "fit/taper.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "theme.hpp"
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>
#include <fmt/format.h>

namespace kollema::desktop {

TaperDialog::TaperDialog(QWidget* parent)
    : QDialog(parent),
      typed_(new QLineEdit(this)),
      answer_(new QLabel(this)),
      warning_(new QLabel(this)) {
    setWindowTitle("Taper, angle and slope");
    resize(520, 260);
    typed_->setObjectName("taper");
    typed_->setAccessibleName("Taper or angle");
    typed_->setText("1:100");
    typed_->setToolTip(
        "A ratio 1:100, an included angle 0.573deg, or both as a drawing has them: 1:200 = 0.57°");
    answer_->setTextFormat(Qt::RichText);
    answer_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    warning_->setObjectName("refusal");
    warning_->setWordWrap(true);
    auto* column = new QVBoxLayout(this);
    column->addWidget(
        new QLabel("A taper 1:x, an angle, or both with = between them, as they stand on the drawing", this));
    column->addWidget(typed_);
    column->addWidget(answer_);
    column->addWidget(warning_);
    column->addStretch(1);
    connect(typed_, &QLineEdit::textChanged, this, &TaperDialog::show_taper);
    show_taper();
}

void TaperDialog::show_taper() {
    const auto t = fit::parse_taper(typed_->text().trimmed().toStdString());
    warning_->setVisible(!t || t->contradiction);
    warning_->setText(!t ? message(t.error()) : t->contradiction ? "✕  " + qt(*t->contradiction) : QString());
    if (!t) return answer_->clear();
    QString rows;
    for (const auto& [name, figure, meaning] :
         {std::tuple{"taper", fmt::format("1:{}", plain(t->ratio, 7)),
                     "the diameter changes by 1 over this length"},
          {"included angle", fmt::format("{}°", fixed(t->included_angle_deg, 4)),
           "between the two sides of the cone"},
          {"half angle", fmt::format("{}°", fixed(t->half_angle_deg, 4)),
           "of one side to the axis, the setting of a lathe's slide"},
          {"a slope of the same ratio", fmt::format("{}°", fixed(t->slope_angle_deg, 4)),
           "the height changes by 1, as of a taper key"}})
        rows += QString("<tr><td style='color:%1; padding-right:14px'>%2</td><td "
                        "style='padding-right:14px'><b>%3</b></td><td style='color:%1'>%4</td></tr>")
                    .arg(theme().faint.name(), name, qt(figure), meaning);
    answer_->setText("<table cellspacing='2'>" + rows + "</table>");
}

}

#include "moc_taper_dialog.cpp"
