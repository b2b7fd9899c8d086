#include "findings_view.hpp"
#include "presenter/text.hpp"
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace kollema::desktop {
namespace {

QLabel* wrapped(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

}

FindingsView::FindingsView(QWidget* parent)
    : QWidget(parent),
      heading_(new QLabel(this)),
      list_(new QVBoxLayout) {
    setAccessibleName("Findings");
    heading_->setObjectName("heading");
    auto* inner = new QWidget;
    inner->setLayout(list_);
    list_->setContentsMargins(0, 0, 4, 0);
    list_->setSpacing(6);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(heading_);
    column->addWidget(scroll);
}

void FindingsView::show_findings(const check::Findings& findings, bool anything_to_check, LengthUnit unit) {
    unit_ = unit;
    preview_ = nullptr;
    while (auto* item = list_->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    int errors = 0, others = 0;
    for (const auto& finding : findings) {
        (finding.severity == Severity::error ? errors : others)++;
        list_->addWidget(make_card(finding));
    }
    if (findings.empty())
        list_->addWidget(wrapped(anything_to_check
                                     ? "Nothing found: holes match, threads hold, gaps are kept."
                                     : "Nothing to check yet: join two parts first.",
                                 this));
    list_->addStretch(1);
    count_text_ = findings.empty() ? QStringLiteral("Findings: none")
                                   : QString("Findings: %1 to mend, %2 to know").arg(errors).arg(others);
    heading_->setText(count_text_);
}

void FindingsView::set_outdated(bool outdated) {
    heading_->setText(outdated ? count_text_ + "  · computing…" : count_text_);
}

QWidget* FindingsView::make_card(const check::Finding& finding) {
    auto* card = new QFrame(this);
    card->setObjectName("card");
    card->setProperty("severity", qt(name(finding.severity)));
    auto* column = new QVBoxLayout(card);
    column->setContentsMargins(9, 6, 8, 7);
    column->setSpacing(3);
    const QString message = qt(in_words(finding.message, unit_));
    auto* first = wrapped(sign(finding.severity) + "  " + message, card);
    QFont bold = first->font();
    bold.setBold(true);
    first->setFont(bold);
    first->setAccessibleName(word(finding.severity) + ": " + message);
    column->addWidget(first);
    auto* because = wrapped("because " + qt(in_words(finding.because, unit_)), card);
    because->setObjectName("faint");
    column->addWidget(because);
    for (const auto& fix : finding.fixes)
        column->addWidget(make_fix(fix, card));
    if (!finding.joint.text.empty()) {
        auto* show = new QPushButton("Show the joint", card);
        show->setFlat(true);
        connect(show, &QPushButton::clicked, this,
                [this, joint = finding.joint] { emit joint_asked(joint); });
        column->addWidget(show, 0, Qt::AlignLeft);
    }
    return card;
}

QWidget* FindingsView::make_fix(const check::Fix& fix, QWidget* card) {
    auto* box = new QWidget(card);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 2, 0, 0);
    column->setSpacing(3);
    const QString text = qt(in_words(fix.text, unit_));
    column->addWidget(wrapped("→ " + text, box));
    auto* changes = wrapped("", box);
    changes->setObjectName("preview_text");
    changes->hide();
    column->addWidget(changes);
    auto* row = new QHBoxLayout;
    auto* look = new QPushButton("What would change?", box);
    look->setObjectName("preview");
    look->setAccessibleDescription(text);
    auto* make = new QPushButton("Do it", box);
    make->setObjectName("primary");
    make->setAccessibleName("Do it: " + text);
    row->addWidget(look);
    row->addWidget(make);
    row->addStretch(1);
    column->addLayout(row);
    connect(look, &QPushButton::clicked, this, [this, fix, changes] {
        if (preview_) preview_->hide(); // one question at a time
        preview_ = changes;
        changes->setText("Computing…");
        changes->show();
        emit preview_asked(fix);
    });
    connect(make, &QPushButton::clicked, this, [this, fix] { emit apply_asked(fix); });
    return box;
}

void FindingsView::show_preview(const QStringList& changes) {
    if (preview_)
        preview_->setText(changes.isEmpty() ? QStringLiteral("Nothing else would change.")
                                            : changes.join("\n"));
}

}
