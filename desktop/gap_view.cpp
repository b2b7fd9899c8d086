#include "gap_view.hpp"
#include "gap_curve.hpp"
#include "plot_style.hpp"
#include "presenter/requirements.hpp"
#include "presenter/text.hpp"
#include "quantity/text.hpp"
#include "steady_table.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QSignalBlocker>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>
#include <qcustomplot.h>

namespace kollema::desktop {
namespace {

enum Column { name_column, tolerance_column, variance_column, worst_column, columns };
constexpr int share_role = Qt::UserRole + 1, part_role = Qt::UserRole + 2, dimension_role = Qt::UserRole + 3;

QColor faded(QColor colour) {
    colour.setAlphaF(0.4F);
    return colour;
}

/// A share as a bar behind its figure.
class ShareDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const double share = index.data(share_role).toDouble();
        QRect bar = option.rect.adjusted(1, 3, -1, -3);
        bar.setWidth(static_cast<int>(bar.width() * share));
        painter->fillRect(bar, index.column() == variance_column ? faded(theme().accent) : theme().line);
        painter->setPen(theme().ink);
        painter->drawText(option.rect.adjusted(5, 0, -5, 0), Qt::AlignVCenter | Qt::AlignRight,
                          index.data().toString());
    }
};

ValueEdit* limit_field(const QString& name, QWidget* parent) {
    auto* field = new ValueEdit(parent);
    field->setAccessibleName(name);
    field->setPlaceholderText("none");
    field->setToolTip(name + "; empty for none, expressions such as 25+0.4 or 1 in are read");
    return field;
}

}

GapView::GapView(QWidget* parent)
    : QWidget(parent),
      requirement_(new QComboBox(this)),
      lower_(limit_field("Lower limit of the gap", this)),
      upper_(limit_field("Upper limit of the gap", this)),
      at_(new ValueEdit(this)),
      resting_(new QComboBox(this)),
      decided_by_(new QComboBox(this)),
      verdict_(new QLabel(this)),
      yield_(new QLabel(this)),
      numbers_(new QLabel(this)),
      remarks_(new QLabel(this)),
      plot_(new QCustomPlot(this)),
      table_(new SteadyTable(0, columns, this)) {
    setAccessibleName("Required gap");
    requirement_->setAccessibleName("Requirement");
    lower_->setObjectName("lower_limit");
    upper_->setObjectName("upper_limit");
    yield_->setObjectName("big");
    remarks_->setObjectName("faint");
    for (auto* label : {verdict_, numbers_, remarks_})
        label->setWordWrap(true);
    numbers_->setTextFormat(Qt::RichText);

    auto* left = new QVBoxLayout;
    left->setSpacing(3);
    auto* heading = new QLabel("Required gap", this);
    heading->setObjectName("heading");
    left->addWidget(heading);
    left->addWidget(requirement_);
    auto* limits = new QHBoxLayout;
    limits->addWidget(lower_);
    limits->addWidget(new QLabel("to", this));
    limits->addWidget(upper_);
    left->addLayout(limits);
    left->addWidget(yield_);
    left->addWidget(verdict_);
    left->addWidget(numbers_);
    left->addStretch(1);

    auto* middle = new QVBoxLayout;
    middle->addWidget(plot_, 1);
    middle->addLayout(rules_row());
    middle->addWidget(remarks_);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 6, 10, 6);
    row->setSpacing(12);
    row->addLayout(left, 25);
    row->addLayout(middle, 38);
    row->addWidget(table_, 40);

    plot_->setMinimumSize(220, 120);
    plot_->setAccessibleName("Distribution of the gap");
    table_->setHorizontalHeaderLabels({"Contributor, largest first", "Tolerance", "Variance", "Worst case"});
    table_->horizontalHeader()->setSectionResizeMode(name_column, QHeaderView::Stretch);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (const int c : {tolerance_column, variance_column, worst_column})
        table_->setColumnWidth(c, 84);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(21);
    table_->setShowGrid(false);
    table_->setAccessibleName("Contributors");
    table_->setItemDelegateForColumn(variance_column, new ShareDelegate(table_));
    table_->setItemDelegateForColumn(worst_column, new ShareDelegate(table_));
    table_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* copy = new QAction("Copy table as CSV", table_);
    copy->setShortcut(QKeySequence("Ctrl+Shift+C"));
    copy->setShortcutContext(Qt::WidgetShortcut);
    connect(copy, &QAction::triggered, this, &GapView::copy_as_csv);
    table_->addAction(copy);

    connect(requirement_, &QComboBox::activated, this, [this](int i) {
        chosen_ = gaps_.at(static_cast<std::size_t>(i))->id;
        show_chosen();
    });
    for (auto* field : {lower_, upper_})
        connect(field, &ValueEdit::committed, this,
                [this] { emit limits_wished(chosen_, lower_->text(), upper_->text()); });
    connect(table_, &SteadyTable::typing_ended, this, &GapView::show_chosen, Qt::QueuedConnection);
    connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (item->column() == tolerance_column)
            emit tolerance_wished({item->data(part_role).toString().toStdString()},
                                  {item->data(dimension_role).toString().toStdString()}, item->text());
    });
    connect_rules();
    restyle();
}

/// Where the fasteners rest, which rule decides, and where the gap is asked.
QLayout* GapView::rules_row() {
    auto* row = new QHBoxLayout;
    const auto add = [&](const QString& words, QWidget* field, int stretch) {
        auto* label = new QLabel(words, this);
        label->setObjectName("faint");
        label->setBuddy(field);
        row->addWidget(label);
        row->addWidget(field, stretch);
    };
    resting_->setObjectName("resting");
    resting_->setAccessibleName("Where the fasteners rest");
    for (const auto resting : all_restings) {
        resting_->addItem(words(resting));
        resting_->setItemData(resting_->count() - 1, meaning(resting), Qt::ToolTipRole);
    }
    decided_by_->setObjectName("decided_by");
    decided_by_->setAccessibleName("Rule that decides");
    for (const auto decider : all_deciders)
        decided_by_->addItem(words(decider));
    at_->setMinimumWidth(84);
    at_->setObjectName("asked_at");
    at_->setAccessibleName("Where the gap is asked");
    at_->setPlaceholderText("ends");
    at_->setToolTip(
        "From the middle of the first face along it, such as 12.5 ; 0; empty for the ends of what "
        "the two faces have in common, the worst of them");
    add("rests", resting_, 3);
    add("decides", decided_by_, 3);
    add("asked at", at_, 2);
    return row;
}

void GapView::connect_rules() {
    const auto wish = [this](const QString& what, auto change) {
        if (const Requirement* r = requirements_.find(chosen_)) {
            Requirement changed = *r;
            change(changed);
            emit requirement_wished(what, changed);
        }
    };
    connect(resting_, &QComboBox::activated, this, [this, wish](int i) {
        wish("fasteners rest " + resting_->itemText(i),
             [i](Requirement& r) { r.resting = all_restings.at(static_cast<std::size_t>(i)); });
    });
    connect(decided_by_, &QComboBox::activated, this, [this, wish](int i) {
        wish("decided by " + decided_by_->itemText(i),
             [i](Requirement& r) { r.decided_by = all_deciders.at(static_cast<std::size_t>(i)); });
    });
    connect(at_, &ValueEdit::committed, this, [this] {
        const Requirement* r = requirements_.find(chosen_);
        if (!r) return;
        const auto changed = with_point(*r, at_->text(), unit_);
        if (changed)
            emit requirement_wished(
                "asked at " + (at_->text().isEmpty() ? at_->placeholderText() : at_->text()), *changed);
        else
            emit edit_refused(message(changed.error()));
    });
}

void GapView::show_rules(const Requirement* r) {
    for (QWidget* field :
         {static_cast<QWidget*>(resting_), static_cast<QWidget*>(decided_by_), static_cast<QWidget*>(at_)})
        field->setEnabled(r);
    const auto place = [](const auto& all, auto value) {
        return static_cast<int>(std::ranges::find(all, value) - all.begin());
    };
    resting_->setCurrentIndex(r ? place(all_restings, r->resting) : 0);
    decided_by_->setCurrentIndex(r ? place(all_deciders, r->decided_by) : 0);
    at_->show_value(r ? point_text(*r, unit_) : QString());
}

void GapView::restyle() {
    style_plot(*plot_);
    plot_->yAxis->setVisible(false);
    show_chosen();
}

void GapView::show_gaps(const Project& project, const Results* results, LengthUnit unit) {
    requirements_ = project.requirements;
    unit_ = unit;
    gaps_ = results ? results->gaps : decltype(gaps_){};
    const QSignalBlocker quiet(requirement_);
    requirement_->clear();
    int current = 0;
    for (const auto& gap : gaps_) {
        const Requirement* r = requirements_.find(gap->id);
        requirement_->addItem(r ? qt(r->name) : QString());
        if (gap->id == chosen_) current = requirement_->count() - 1;
    }
    requirement_->setCurrentIndex(current);
    chosen_ = gaps_.empty() ? RequirementId{} : gaps_[static_cast<std::size_t>(current)]->id;
    outdated_ = false;
    show_chosen();
}

void GapView::choose(const RequirementId& requirement) {
    for (auto* field : {lower_, upper_, at_})
        field->commit(); // their last word belongs to the gap before
    for (std::size_t i = 0; i < gaps_.size(); ++i)
        if (gaps_[i]->id == requirement) requirement_->setCurrentIndex(static_cast<int>(i));
    chosen_ = requirement;
    show_chosen();
}

void GapView::show_outdated(const Project& project) {
    requirements_ = project.requirements;
    outdated_ = true;
    show_chosen();
}

void GapView::show_chosen() {
    const auto found = std::ranges::find_if(gaps_, [&](const auto& gap) { return gap->id == chosen_; });
    const Requirement* r = requirements_.find(chosen_);
    const bool there = found != gaps_.end() && r;
    emit gap_shown(there ? chosen_ : RequirementId{});
    for (auto* field : {lower_, upper_}) {
        const auto limit = there ? (field == lower_ ? r->lower_mm : r->upper_mm) : std::nullopt;
        field->show_value(limit ? qt(shown_length(*limit, unit_)) : QString());
    }
    show_rules(there ? r : nullptr);
    for (QWidget* content : {static_cast<QWidget*>(plot_), static_cast<QWidget*>(table_)})
        content->setVisible(there && *(*found)->result);
    for (QWidget* content :
         {static_cast<QWidget*>(requirement_), static_cast<QWidget*>(lower_), static_cast<QWidget*>(upper_)})
        content->setEnabled(there);
    plot_->clearGraphs();
    plot_->clearItems();
    const QSignalBlocker quiet(table_);
    const bool steady = table_->is_typed_into(); // filled anew when that has ended
    if (!steady) table_->setRowCount(0);
    if (!there || !*(*found)->result) {
        yield_->clear();
        numbers_->clear();
        remarks_->clear();
        verdict_->setText(!there ? "No gap is required yet. Add one from the Edit menu: Require a gap."
                                 : message((*found)->result->error()));
        plot_->replot();
        return;
    }
    show_numbers(**found);
    show_curve(**found);
    if (!steady) show_contributions(**found);
}

void GapView::show_numbers(const GapResult& gap) {
    const auto& r = **gap.result;
    yield_->setText((outdated_ ? QStringLiteral("… ") : QString()) + percent(r.distribution.yield));
    yield_->setAccessibleName("Yield " + percent(r.distribution.yield));
    const Requirement* requirement = requirements_.find(gap.id);
    const QString wanted = r.decided_by_worst_case
                               ? QStringLiteral("every part within limits must fit (worst case)")
                               : percent(requirement->yield_wanted) + " wanted (statistics)";
    verdict_->setText((r.met         ? QStringLiteral("✓ kept: ")
                       : r.undecided ? QStringLiteral("? undecided: ")
                                     : QStringLiteral("✕ missed: ")) +
                      wanted);
    verdict_->setToolTip("Decided by " + qt(r.decided_because));
    decided_by_->setToolTip(qt(r.decided_because));
    const auto range = [&](double a, double b) {
        return qt(fmt::format("{} … {}", fixed(shown(a), unit_ == LengthUnit::mm ? 3 : 5),
                              fixed(shown(b), unit_ == LengthUnit::mm ? 3 : 5)));
    };
    QString rows;
    const auto add = [&](const QString& label, const QString& value) {
        rows += QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
                    .arg(theme().faint.name(), label.toHtmlEscaped(), value.toHtmlEscaped());
    };
    add("worst case", r.worst_case ? range(r.worst_case->min, r.worst_case->max) : "nothing goes together");
    add("root sum square", range(r.rss.min, r.rss.max));
    add("mean ± σ",
        qt(fmt::format("{} ± {}", fixed(shown(r.distribution.mean), unit_ == LengthUnit::mm ? 3 : 5),
                       fixed(shown(r.distribution.sigma), unit_ == LengthUnit::mm ? 4 : 6))));
    add("per million below", ppm(r.distribution.below));
    add("per million above", ppm(r.distribution.above));
    if (gap.simulation)
        add("simulated yield",
            percent(gap.simulation->gap.ci95.min) + " … " + percent(gap.simulation->gap.ci95.max));
    numbers_->setText("<table cellspacing='0'>" + rows + "</table>");
    remarks_->setText(qt(r.chain.remarks.empty() ? "" : "● " + r.chain.remarks.front()));
    QStringList all;
    for (const auto& remark : r.chain.remarks)
        all << qt(remark);
    remarks_->setToolTip(all.join("\n"));
}

void GapView::show_curve(const GapResult& gap) {
    const auto& r = **gap.result;
    draw_gap_curve(*plot_, {gap.curve, r.limits, r.worst_case, r.rss, r.nominal}, unit_);
}

void GapView::show_contributions(const GapResult& gap) {
    const auto& r = **gap.result;
    table_->setRowCount(static_cast<int>(r.chain.links.size()));
    int row = 0;
    for (const auto& link : r.chain.links) {
        const bool symmetric = link.plus_mm == -link.minus_mm;
        const auto tolerance =
            symmetric ? fmt::format("±{}", plain(shown(link.plus_mm), 3))
                      : fmt::format("{:+.3g} {:+.3g}", shown(link.plus_mm), shown(link.minus_mm));
        const auto cell = [&](int column, const QString& words) {
            auto* item = new QTableWidgetItem(words);
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            item->setToolTip(
                qt(fmt::format("{}\nsensitivity {}, {}\n{}", link.name, plain(link.sensitivity, 4),
                               name(link.distribution), link.working.source)));
            table_->setItem(row, column, item);
            return item;
        };
        cell(name_column, qt(link.name));
        auto* toleranced = cell(tolerance_column, qt(tolerance));
        if (link.kind == assembly::LinkKind::dimension) {
            toleranced->setFlags(toleranced->flags() | Qt::ItemIsEditable);
            toleranced->setData(part_role, qt(link.part.text));
            toleranced->setData(dimension_role, qt(link.dimension.text));
            toleranced->setForeground(theme().accent);
        }
        cell(variance_column, qt(fixed(100 * link.variance_share, 1)) + " %")
            ->setData(share_role, link.variance_share);
        cell(worst_column, qt(fixed(100 * link.worst_case_share, 1)) + " %")
            ->setData(share_role, link.worst_case_share);
        ++row;
    }
}

void GapView::copy_as_csv() const {
    QString csv = "contributor,tolerance,variance share,worst case share\n";
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto cell = [&](Column column) {
            return qt(csv_cell(table_->item(row, column)->text().toStdString()));
        };
        csv += cell(name_column) + ',' + cell(tolerance_column);
        for (const int column : {variance_column, worst_column})
            csv += ',' + QString::number(table_->item(row, column)->data(share_role).toDouble());
        csv += '\n';
    }
    QApplication::clipboard()->setText(csv);
}

}

#include "moc_gap_view.cpp"
