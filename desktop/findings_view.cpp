#include "findings_view.hpp"
#include "findings_model.hpp"
#include "presenter/text.hpp"
#include "theme.hpp"
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QListView>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

namespace kollema::desktop {
namespace {

QLabel* wrapped(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

/// A row: the severity's colour at its left side, and two lines of what was found.
class FindingDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
        return {100, 2 * option.fontMetrics.lineSpacing() + 2 * margin};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        painter->save();
        const QRect row = option.rect.adjusted(0, 1, -2, -1);
        const auto how = static_cast<Severity>(index.data(FindingsModel::severity).toInt());
        const bool chosen = option.state.testFlag(QStyle::State_Selected);
        painter->fillRect(row, chosen ? theme().selection : theme().sheet);
        painter->fillRect(QRect(row.left(), row.top(), 4, row.height()), colour(how));
        painter->setPen(theme().ink);
        painter->setFont(option.font);
        painter->drawText(row.adjusted(10, 0, -2, 0), Qt::AlignVCenter | Qt::TextWordWrap,
                          in_two_lines(index.data().toString(), option.fontMetrics, row.width() - 14));
        if (option.state.testFlag(QStyle::State_HasFocus)) {
            painter->setPen(QPen(theme().accent, 2));
            painter->drawRect(row.adjusted(1, 1, -1, -1));
        }
        painter->restore();
    }

private:
    static constexpr int margin = 4;

    /// As much of a text as two lines hold.
    static QString in_two_lines(const QString& text, const QFontMetrics& font, int width) {
        const int lines = font.lineSpacing() * 2 + 1;
        if (font.boundingRect(QRect(0, 0, width, 10'000), Qt::TextWordWrap, text).height() <= lines)
            return text;
        return font.elidedText(text, Qt::ElideRight, 2 * width - 30);
    }
};

}

FindingsView::FindingsView(QWidget* parent)
    : QWidget(parent),
      heading_(new QLabel(this)),
      none_(wrapped("", this)),
      model_(new FindingsModel(this)),
      list_(new QListView(this)),
      card_(new QScrollArea(this)) {
    setAccessibleName("Findings");
    heading_->setObjectName("heading");
    list_->setObjectName("findings");
    list_->setAccessibleName("Findings, the worst first");
    list_->setModel(model_);
    list_->setItemDelegate(new FindingDelegate(list_));
    list_->setUniformItemSizes(true); // thousands of rows are laid out at once
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setFrameShape(QFrame::NoFrame);
    card_->setWidgetResizable(true);
    card_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    card_->setFrameShape(QFrame::NoFrame);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &FindingsView::show_chosen);
    connect(list_, &QListView::activated, this, [this](const QModelIndex& index) {
        const auto* finding = model_->finding(index.row());
        if (finding && !finding->joint.text.empty()) emit joint_asked(finding->joint);
    });
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(heading_);
    column->addWidget(none_);
    column->addWidget(list_, 2);
    column->addWidget(card_, 3);
}

void FindingsView::show_findings(const std::shared_ptr<const check::Findings>& findings,
                                 bool anything_to_check, LengthUnit unit) {
    const auto* chosen = model_->finding(list_->currentIndex().row());
    const auto before = chosen ? std::optional(*chosen) : std::nullopt;
    if (unit != unit_) card_shows_.clear();
    unit_ = unit;
    model_->show(findings, unit);
    const auto errors = std::ranges::count(*findings, Severity::error, &check::Finding::severity);
    count_text_ =
        findings->empty()
            ? QStringLiteral("Findings: none")
            : QString("Findings: %1 to mend, %2 to know").arg(errors).arg(std::ssize(*findings) - errors);
    heading_->setText(count_text_);
    none_->setText(anything_to_check ? "Nothing found: holes match, threads hold, gaps are kept."
                                     : "Nothing to check yet: join two parts first.");
    none_->setVisible(findings->empty());
    list_->setVisible(!findings->empty());
    list_->setCurrentIndex(model_->index(before ? model_->row_like(*before) : 0));
    show_chosen();
}

void FindingsView::show_chosen() {
    const QModelIndex row = list_->currentIndex();
    const auto* finding = model_->finding(row.row());
    // The findings of the solids join the others late: what was asked of a fix until then stays.
    const QString text =
        finding ? qt(finding->joint.text) + "\n" + row.data(Qt::ToolTipRole).toString() : QString();
    if (finding && text == card_shows_) return;
    card_shows_ = text;
    preview_ = nullptr;
    card_->setWidget(finding ? make_card(*finding) : new QWidget);
}

void FindingsView::set_outdated(bool outdated) {
    if (outdated) {
        card_shows_.clear();
        if (preview_) preview_->hide(); // it told of the project before
        preview_ = nullptr;
    }
    heading_->setText(outdated ? count_text_ + "  · computing…" : count_text_);
}

QWidget* FindingsView::make_card(const check::Finding& finding) {
    auto* card = new QFrame;
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
    column->addStretch(1);
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

#include "moc_findings_view.cpp"
