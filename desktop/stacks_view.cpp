#include "stacks_view.hpp"
#include "chain_picture.hpp"
#include "file/text_file.hpp"
#include "file/typed_table.hpp"
#include "gap_curve.hpp"
#include "panels.hpp"
#include "plot_style.hpp"
#include "presenter/requirements.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QTableWidget>
#include <QVBoxLayout>
#include <QtConcurrentRun>
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <qcustomplot.h>

namespace kollema::desktop {
namespace {

struct Column {
    const char *title, *tip;
    std::string stack::TypedRow::*cell; ///< null: computed
    int width;
};
constexpr std::array columns{Column{"Name", "Any words", &stack::TypedRow::name, 0},
                             Column{"Nominal", "A length, such as 12 or 1/2 in, or a thread such as M10",
                                    &stack::TypedRow::nominal, 66},
                             Column{"Limits",
                                    "±0.1, or two deviations such as +0.2 -0.1, a zone such as H7, the class "
                                    "of a thread such as 6g, or a "
                                    "process such as milled: what it holds every day",
                                    &stack::TypedRow::limits, 92},
                             Column{"Way", "+ widens the gap (usual), - narrows it; or a factor such as -0.5",
                                    &stack::TypedRow::sense, 38},
                             Column{"Scatters", "normal (usual), uniform, triangular, truncated or fixed",
                                    &stack::TypedRow::distribution, 70},
                             Column{"Cpk", "1 where nothing stands", &stack::TypedRow::cpk, 38},
                             Column{"Shift",
                                    "Of the mean, as a share of half the width; 0 where nothing stands",
                                    &stack::TypedRow::shift, 42},
                             Column{"Share", "Of the gap's variance", nullptr, 50},
                             Column{"Alone up to",
                                    "The widest that it alone may be, about its middle, until the "
                                    "requirement just fails; a dash where no "
                                    "width of it is enough",
                                    nullptr, 82}};
constexpr int share_column = 7, room_column = 8;

QString shown_figure(double mm, LengthUnit unit) {
    return qt(plain(from_mm(mm, unit), unit == LengthUnit::mm ? 5 : 6));
}

QString share_words(double share) { return qt(fixed(100 * share, 1)) + " %"; }

QString sense_words(double sensitivity) {
    return sensitivity == 1 ? "+" : sensitivity == -1 ? "-" : qt(plain(sensitivity, 4));
}

/// Enter ends a row: typing goes on in the next.
class RowDelegate : public QStyledItemDelegate {
public:
    RowDelegate(QObject* parent, std::function<void()> row_ended)
        : QStyledItemDelegate(parent),
          row_ended_(std::move(row_ended)) {}

protected:
    bool eventFilter(QObject* object, QEvent* event) override {
        const auto* key = event->type() == QEvent::KeyPress ? static_cast<QKeyEvent*>(event) : nullptr;
        auto* editor = qobject_cast<QWidget*>(object);
        if (!key || !editor || (key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter))
            return QStyledItemDelegate::eventFilter(object, event);
        emit commitData(editor);
        emit closeEditor(editor, NoHint);
        row_ended_();
        return true;
    }

private:
    std::function<void()> row_ended_;
};

QLabel* label_of(const QString& text, QWidget* field) {
    auto* label = new QLabel(text);
    label->setBuddy(field);
    return label;
}

}

StacksView::StacksView(QWidget* parent)
    : QWidget(parent),
      list_(new QListWidget),
      remove_(new QPushButton("Take out")),
      show_joint_(new QPushButton("Show in the assembly")),
      name_(new ValueEdit),
      lower_(new ValueEdit),
      upper_(new ValueEdit),
      yield_wanted_(new ValueEdit),
      decided_by_(new QComboBox),
      unit_label_(new QLabel),
      picture_(new ChainPicture),
      table_(new QTableWidget(0, static_cast<int>(columns.size()))),
      yield_(new QLabel),
      verdict_(new QLabel),
      numbers_(new QLabel),
      ways_title_(heading("")),
      plot_(new QCustomPlot),
      way_list_(new QListWidget),
      do_way_(new QPushButton("Do this")) {
    setAccessibleName("Stacks");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 6, 6);
    row->addWidget(side_by_side({build_left(), build_middle(), build_right()}, {226, 690, 340}));
    connect_fields();
    connect(&watcher_, &QFutureWatcherBase::finished, this, &StacksView::take_answers);
    restyle();
}

StacksView::~StacksView() {
    watcher_.disconnect(this);
    if (stop_) *stop_ = true;
    watcher_.waitForFinished();
}

QWidget* StacksView::build_left() {
    list_->setObjectName("chains");
    list_->setAccessibleName("Chains and requirements");
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setWordWrap(true);
    auto* add = new QPushButton("New chain");
    add->setObjectName("new_chain");
    remove_->setToolTip("Takes the chosen chain out of the project");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove_);
    auto* column = new QVBoxLayout;
    column->addWidget(heading("Chains"));
    column->addWidget(list_, 1);
    column->addLayout(buttons);
    column->addWidget(show_joint_);
    connect(add, &QPushButton::clicked, this, &StacksView::new_chain_wished);
    connect(remove_, &QPushButton::clicked, this, [this] { emit chain_unwished(chosen_chain_); });
    connect(show_joint_, &QPushButton::clicked, this, [this] { emit gap_looked_for(chosen_gap_); });
    return framed(column);
}

QWidget* StacksView::build_middle() {
    name_->setObjectName("chain_name");
    name_->setAccessibleName("Name of the chain");
    for (auto* field : {lower_, upper_}) {
        field->setPlaceholderText("none");
        field->setFixedWidth(78);
        field->setToolTip("Empty for none; expressions and units are read");
    }
    lower_->setObjectName("chain_lower");
    lower_->setAccessibleName("Lower limit of the chain's gap");
    upper_->setObjectName("chain_upper");
    upper_->setAccessibleName("Upper limit of the chain's gap");
    decided_by_->setObjectName("chain_decided_by");
    decided_by_->setAccessibleName("Rule that decides the chain");
    for (const auto decider : all_deciders)
        decided_by_->addItem(words(decider));
    yield_wanted_->setObjectName("chain_yield");
    yield_wanted_->setFixedWidth(64);
    yield_wanted_->setAccessibleName("Yield wanted");
    yield_wanted_->setToolTip("Where statistics decides: a share such as 0.9973");
    table_->setObjectName("chain_rows");
    table_->setAccessibleName("Sizes of the chain");
    table_->setItemDelegate(new RowDelegate(table_, [this] { edit_cell(table_->currentRow() + 1); }));
    table_->verticalHeader()->setDefaultSectionSize(23);
    table_->verticalHeader()->setFixedWidth(24);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int c = 0; c < static_cast<int>(columns.size()); ++c) {
        const auto& column = columns[static_cast<std::size_t>(c)];
        auto* title = new QTableWidgetItem(column.title);
        title->setToolTip(column.tip);
        table_->setHorizontalHeaderItem(c, title);
        if (column.width > 0)
            table_->setColumnWidth(c, column.width);
        else
            table_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Stretch);
    }
    auto* limits = new QHBoxLayout;
    limits->addWidget(name_, 1);
    limits->addWidget(label_of("&gap", lower_));
    limits->addWidget(lower_);
    limits->addWidget(label_of("&to", upper_));
    limits->addWidget(upper_);
    limits->addWidget(unit_label_);
    limits->addWidget(decided_by_);
    limits->addWidget(yield_wanted_);
    auto* column = new QVBoxLayout;
    column->addLayout(limits);
    column->addWidget(picture_, 9);
    column->addWidget(table_, 11);
    return framed(column);
}

QWidget* StacksView::build_right() {
    yield_->setObjectName("big");
    verdict_->setWordWrap(true);
    numbers_->setTextFormat(Qt::RichText);
    plot_->setMinimumHeight(150);
    plot_->setAccessibleName("Distribution of the chain's gap");
    way_list_->setObjectName("ways_out");
    way_list_->setAccessibleName("Ways out");
    way_list_->setWordWrap(true);
    way_list_->setSpacing(3);
    way_list_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn); // rows are measured with it
    do_way_->setObjectName("do_way");
    do_way_->setToolTip("Changes the chain; undo takes it back");
    auto* copy_words = new QPushButton("Copy as text");
    copy_words->setToolTip("The whole answer in words, for a colleague");
    auto* save_page = new QPushButton("Save page…");
    save_page->setToolTip("The whole answer on one page, as SVG or text");
    connect(copy_words, &QPushButton::clicked, this, [this] {
        if (const auto page = shown_page()) QApplication::clipboard()->setText(qt(stack::page_text(*page)));
    });
    connect(save_page, &QPushButton::clicked, this, [this] {
        const auto page = shown_page();
        const QString path =
            page ? QFileDialog::getSaveFileName(this, "Save the page", qt(page->name) + ".svg",
                                                "Page (*.svg);;Text (*.txt)")
                 : QString();
        if (!path.isEmpty()) save_page_to(path);
    });
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(do_way_);
    buttons->addStretch(1);
    buttons->addWidget(save_page);
    buttons->addWidget(copy_words);
    auto* column = new QVBoxLayout;
    column->addWidget(yield_);
    column->addWidget(verdict_);
    column->addWidget(numbers_);
    column->addWidget(plot_, 4);
    column->addWidget(ways_title_);
    column->addWidget(way_list_, 5);
    column->addLayout(buttons);
    return framed(column);
}

std::optional<stack::Page> StacksView::shown_page() const {
    if (const TypedChain* typed = chain()) {
        const auto found = answers_.find(typed->id);
        if (found == answers_.end() || !found->second->shown) return std::nullopt;
        return page_of(qt(typed->name), *found->second->shown, typed->unit);
    }
    const GapResult* g = gap();
    if (!g || !*g->result) return std::nullopt;
    return page_of(name_->text(), shown_chain(*g), unit_);
}

void StacksView::save_page_to(const QString& path) {
    const auto page = shown_page();
    if (!page) return;
    const bool words = path.endsWith(".txt");
    const auto done = file::write_text_atomically(path.toStdString(),
                                                  words ? stack::page_text(*page) : stack::page_svg(*page));
    if (!done) emit refused(message(done.error()));
}

void StacksView::connect_fields() {
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0) return;
        const auto chains = static_cast<int>(project_->chains.size());
        const bool typed = row < chains;
        chosen_chain_ = typed ? project_->chains[static_cast<std::size_t>(row)].id : ChainId{};
        chosen_gap_ = typed ? RequirementId{} : gaps_.at(static_cast<std::size_t>(row - chains))->id;
        show_chosen();
    });
    for (auto* field : {name_, lower_, upper_, yield_wanted_})
        connect(field, &QLineEdit::editingFinished, this, [this, field] {
            if (!field->isModified()) return;
            field->setModified(false);
            take_fields();
        });
    connect(decided_by_, &QComboBox::activated, this, &StacksView::take_fields);
    connect(table_, &QTableWidget::itemChanged, this, [this] {
        if (!filling_) take_table();
    });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { picture_->choose(row); });
    connect(picture_, &ChainPicture::row_clicked, this, [this](int row) { table_->setCurrentCell(row, 0); });
    connect(way_list_, &QListWidget::itemActivated, this, &StacksView::do_way);
    connect(do_way_, &QPushButton::clicked, this, &StacksView::do_way);
    const auto action = [this](const QString& text, const QKeySequence& keys, auto call) {
        auto* a = new QAction(text, table_);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, call);
        table_->addAction(a);
    };
    table_->setContextMenuPolicy(Qt::ActionsContextMenu);
    action("Paste rows", QKeySequence::Paste, [this] { paste(); });
    action("Copy the table", QKeySequence::Copy, [this] { copy(); });
    action("Take the row out", QKeySequence("Ctrl+Del"), [this] { take_out_row(); });
}

const TypedChain* StacksView::chain() const { return project_->chains.find(chosen_chain_); }

const GapResult* StacksView::gap() const {
    const auto found = std::ranges::find_if(gaps_, [&](const auto& g) { return g->id == chosen_gap_; });
    return found == gaps_.end() ? nullptr : found->get();
}

void StacksView::show_project(std::shared_ptr<const Project> project, const Results* results,
                              LengthUnit unit) {
    project_ = std::move(project);
    if (results) gaps_ = results->gaps;
    std::erase_if(gaps_, [&](const auto& g) { return !project_->requirements.find(g->id); });
    unit_ = unit;
    if (!chain() && !gap()) {
        chosen_chain_ = project_->chains.empty() ? ChainId{} : project_->chains.front().id;
        chosen_gap_ = !project_->chains.empty() || gaps_.empty() ? RequirementId{} : gaps_.front()->id;
    }
    compute();
    show_list();
    show_chosen();
}

void StacksView::choose(const ChainId& id) {
    chosen_chain_ = id;
    chosen_gap_ = {};
    show_list();
    show_chosen();
}

/// Only chains that changed are computed, off the window's thread.
void StacksView::compute() {
    if (stop_) *stop_ = true;
    computing_ = true;
    stop_ = std::make_shared<std::atomic<bool>>(false);
    watcher_.setFuture(
        QtConcurrent::run([project = project_, before = answers_, stop = stop_]() -> std::optional<Answers> {
            Answers all;
            for (const auto& chain : project->chains) {
                const auto known = before.find(chain.id);
                if (known != before.end() && known->second->of == chain &&
                    known->second->workshop == project->workshop) {
                    all.insert(*known);
                    continue;
                }
                auto shown = shown_chain(chain, project->workshop, [&] { return !*stop; });
                if (!shown) return std::nullopt;
                all[chain.id] =
                    std::make_shared<const Answer>(Answer{chain, project->workshop, std::move(*shown)});
            }
            return all;
        }));
}

void StacksView::take_answers() {
    computing_ = false;
    auto answers = watcher_.future().isCanceled() ? std::nullopt : watcher_.result();
    if (!answers) return;
    answers_ = std::move(*answers);
    show_list();
    show_chosen();
}

void StacksView::show_list() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    const auto add = [&](const QString& name, const ShownChain* shown, const QString& from, bool current) {
        const QString sign = !shown ? "…" : shown->verdict.met ? "✓" : "✕";
        list_->addItem(
            QString("%1 %2\n    %3%4")
                .arg(sign, name, shown ? percent(shown->distribution.yield) : "cannot be read yet", from));
        if (current) list_->setCurrentRow(list_->count() - 1);
    };
    for (const auto& c : project_->chains) {
        const auto found = answers_.find(c.id);
        const bool known = found != answers_.end() && found->second->shown;
        add(qt(c.name), known ? &*found->second->shown : nullptr, {}, c.id == chosen_chain_);
    }
    for (const auto& g : gaps_) {
        const Requirement* r = project_->requirements.find(g->id);
        std::optional<ShownChain> shown;
        if (*g->result) shown = shown_chain(*g);
        add(r ? qt(r->name) : QString(), shown ? &*shown : nullptr, "  ·  of the assembly",
            g->id == chosen_gap_ && chosen_chain_.text.empty());
    }
}

void StacksView::show_chosen() {
    const TypedChain* typed = chain();
    const GapResult* g = typed ? nullptr : gap();
    remove_->setEnabled(typed);
    show_joint_->setEnabled(g);
    for (QWidget* field :
         {static_cast<QWidget*>(name_), static_cast<QWidget*>(lower_), static_cast<QWidget*>(upper_),
          static_cast<QWidget*>(decided_by_), static_cast<QWidget*>(yield_wanted_)})
        field->setEnabled(typed);
    if (typed) return show_typed(*typed);
    filling_ = true;
    table_->setRowCount(0);
    filling_ = false;
    for (auto* field : {name_, lower_, upper_, yield_wanted_})
        field->clear();
    if (!g) {
        picture_->show_message(
            "A chain is sizes laid end to end. Begin one with \"New chain\" and type its rows, or paste a "
            "table into it; what a requirement of the assembly runs through appears here by itself.");
        return show_results(nullptr, "No chain yet");
    }
    if (!*g->result) {
        picture_->show_message(message(g->result->error()));
        return show_results(nullptr, message(g->result->error()));
    }
    const ShownChain shown = shown_chain(*g);
    const Requirement* r = project_->requirements.find(g->id);
    name_->setText(r ? qt(r->name) : QString());
    lower_->setText(shown.limits.lower ? shown_figure(*shown.limits.lower, unit_) : QString());
    upper_->setText(shown.limits.upper ? shown_figure(*shown.limits.upper, unit_) : QString());
    unit_label_->setText(qt(symbol(unit_)));
    picture_->show_chain(shown, unit_);
    show_links(shown);
    show_results(&shown, {});
}

void StacksView::show_typed(const TypedChain& typed) {
    const auto fill = [](QLineEdit* field, const std::string& text) {
        if (field->hasFocus() && field->isModified()) return;
        if (field->text() != qt(text)) field->setText(qt(text));
        field->setModified(false);
    };
    fill(name_, typed.name);
    fill(lower_, typed.lower);
    fill(upper_, typed.upper);
    fill(yield_wanted_, plain(typed.yield_wanted));
    decided_by_->setCurrentIndex(
        static_cast<int>(std::ranges::find(all_deciders, typed.decided_by) - all_deciders.begin()));
    unit_label_->setText(qt(symbol(typed.unit)));
    unit_label_->setToolTip("The unit of figures that are typed without one");
    const auto found = answers_.find(typed.id);
    const bool known = found != answers_.end() && found->second->of == typed;
    const ShownChain* shown = known && found->second->shown ? &*found->second->shown : nullptr;
    fill_rows(typed, shown);
    if (shown) {
        picture_->show_chain(*shown, typed.unit);
        return show_results(shown, {});
    }
    const QString why = typed.rows.empty()
                            ? "Type the first size into the table below: name, nominal, limits. "
                              "Tab goes to the next cell, Enter to the next row."
                        : known ? message(found->second->shown.error())
                                : "…";
    picture_->show_message(why);
    show_results(nullptr, why);
}

void StacksView::put(int row, int column, const QString& text, bool editable, const QString& tip) {
    QTableWidgetItem* item = table_->item(row, column);
    if (!item) {
        item = new QTableWidgetItem;
        table_->setItem(row, column, item);
    }
    if (item->text() != text) item->setText(text);
    item->setToolTip(tip);
    const auto flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    item->setFlags(editable ? flags | Qt::ItemIsEditable : flags);
}

/// In place: an editor that is open in another cell stays.
void StacksView::fill_rows(const TypedChain& typed, const ShownChain* shown) {
    filling_ = true;
    const int rows = static_cast<int>(typed.rows.size());
    table_->setRowCount(rows + 1); // one more to go on with
    for (int row = 0; row <= rows; ++row)
        for (int c = 0; c < static_cast<int>(columns.size()); ++c) {
            const auto& column = columns[static_cast<std::size_t>(c)];
            const auto i = static_cast<std::size_t>(row);
            QString text;
            if (column.cell && row < rows) text = qt(typed.rows[i].*column.cell);
            if (!column.cell && row < rows && shown) {
                const auto& link = shown->links.at(i);
                if (c == share_column) text = share_words(link.variance_share);
                if (c == room_column) text = room_words(link, typed.unit);
            }
            put(row, c, text, column.cell != nullptr, column.cell ? QString() : qt(column.tip));
        }
    filling_ = false;
}

void StacksView::show_links(const ShownChain& shown) {
    filling_ = true;
    table_->setRowCount(static_cast<int>(shown.links.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto& link = shown.links[static_cast<std::size_t>(row)];
        put(row, 0, link.name, false, link.name + (link.note.isEmpty() ? "" : "\n" + link.note));
        put(row, 1, shown_figure(link.nominal_mm, unit_), false);
        put(row, 2, limits_words(link.plus_mm, link.minus_mm, unit_), false);
        put(row, 3, sense_words(link.sensitivity), false);
        put(row, 4, link.note, false, link.note);
        for (const int c : {5, 6, room_column})
            put(row, c, {}, false);
        put(row, share_column, share_words(link.variance_share), false);
    }
    filling_ = false;
}

void StacksView::show_results(const ShownChain* shown, const QString& why) {
    const LengthUnit unit = chain() ? chain()->unit : unit_;
    plot_->setVisible(shown && !shown->curve.empty());
    numbers_->setVisible(shown);
    ways_ = shown ? shown->ways : std::vector<WayOut>{};
    way_list_->clear();
    for (const auto& way : ways_) {
        const QString text = way.text + "\n" + way.after;
        auto* item = new QListWidgetItem(text, way_list_);
        // The list's own measure of a text of several lines that wrap is too low.
        const int width = way_list_->viewport()->width() - 14;
        const QRect needed =
            way_list_->fontMetrics().boundingRect(0, 0, width, 10'000, Qt::TextWordWrap, text);
        item->setSizeHint({width, needed.height() + 6});
    }
    if (!ways_.empty()) way_list_->setCurrentRow(0);
    do_way_->setEnabled(!ways_.empty());
    if (!shown) {
        yield_->setText("");
        verdict_->setText(why);
        ways_title_->setText("");
        return;
    }
    const auto& d = shown->distribution;
    const bool limited = shown->limits.lower || shown->limits.upper;
    yield_->setText(limited ? percent(d.yield) : QString("no limits"));
    verdict_->setText(
        !limited ? "Give a limit, and what is missed is told"
                 : (shown->verdict.met ? QStringLiteral("✓ kept by ") : QStringLiteral("✕ missed by ")) +
                       qt(shown->verdict.because));
    const auto range = [&](const stack::Interval& i) {
        return shown_figure(i.min, unit) + " … " + shown_figure(i.max, unit);
    };
    QString rows;
    const auto add = [&](const QString& label, const QString& value) {
        rows += QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
                    .arg(theme().faint.name(), label, value);
    };
    add("nominal", shown_figure(shown->nominal_mm, unit) + " " + qt(symbol(unit)));
    add("worst case", shown->worst_case ? range(*shown->worst_case) : "nothing goes together");
    add("root sum square", range(shown->rss));
    add("mean ± σ", shown_figure(d.mean, unit) + " ± " + qt(plain(from_mm(d.sigma, unit), 4)));
    add("per million below, above", ppm(d.below) + ", " + ppm(d.above));
    numbers_->setText("<table cellspacing='0'>" + rows + "</table>");
    style_plot(*plot_);
    plot_->yAxis->setVisible(false);
    draw_gap_curve(*plot_, {shown->curve, shown->limits, shown->worst_case, shown->rss, shown->nominal_mm},
                   unit);
    ways_title_->setText(!limited                              ? ""
                         : shown->verdict.met && ways_.empty() ? "Nothing needs to change"
                         : shown->verdict.met                  ? "Kept; it could be made for"
                         : !chain()                            ? "Ways out are among the findings"
                         : ways_.empty()                       ? "No single change is enough"
                                                               : "Ways out");
}

void StacksView::take_table() {
    const TypedChain* now = chain();
    if (!now) return;
    TypedChain changed = *now;
    changed.rows.clear();
    for (int row = 0; row < table_->rowCount(); ++row) {
        stack::TypedRow typed;
        for (int c = 0; c < static_cast<int>(columns.size()); ++c)
            if (const auto cell = columns[static_cast<std::size_t>(c)].cell; cell && table_->item(row, c))
                typed.*cell = table_->item(row, c)->text().trimmed().toStdString();
        changed.rows.push_back(typed);
    }
    while (!changed.rows.empty() && changed.rows.back() == stack::TypedRow{})
        changed.rows.pop_back();
    if (changed == *now) return;
    const int row = std::max(0, table_->currentRow());
    emit chain_wished(QString("%1, row %2").arg(qt(now->name)).arg(row + 1), changed);
}

void StacksView::take_fields() {
    const TypedChain* now = chain();
    if (!now) return;
    TypedChain changed = *now;
    changed.name = name_->text().trimmed().toStdString();
    changed.lower = lower_->text().trimmed().toStdString();
    changed.upper = upper_->text().trimmed().toStdString();
    changed.decided_by = all_deciders.at(static_cast<std::size_t>(decided_by_->currentIndex()));
    const auto share = parse_number(yield_wanted_->text().toStdString());
    if (!share) {
        emit refused(message(share.error()));
        return show_chosen();
    }
    changed.yield_wanted = *share;
    if (changed != *now) emit chain_wished(qt(changed.name) + ": what it must keep", changed);
}

void StacksView::paste() {
    const TypedChain* now = chain();
    if (!now) return;
    const QString text = QApplication::clipboard()->text();
    if (!text.contains('\t') && !text.contains('\n')) { // one cell
        if (auto* item = table_->currentItem()) item->setText(text.trimmed());
        return;
    }
    const auto rows = file::read_typed_table(text.toStdString(), "the clipboard");
    if (!rows) return emit refused(message(rows.error()));
    constexpr std::size_t most_rows = 2000;
    if (rows->size() > most_rows)
        return emit refused(
            QString("%1 rows are more than a table in the window shows; kollema-cli stack reads them")
                .arg(rows->size()));
    TypedChain changed = *now;
    const auto at = static_cast<std::ptrdiff_t>(std::clamp<std::size_t>(
        static_cast<std::size_t>(std::max(0, table_->currentRow())), 0, changed.rows.size()));
    changed.rows.insert(changed.rows.begin() + at, rows->begin(), rows->end());
    emit chain_wished(QString("%1: %2 rows pasted").arg(qt(now->name)).arg(rows->size()), changed);
}

void StacksView::copy() const {
    if (const TypedChain* now = chain())
        return QApplication::clipboard()->setText(qt(file::typed_table(now->rows)));
    std::vector<stack::TypedRow> rows;
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto text = [&](int c) { return table_->item(row, c)->text().toStdString(); };
        rows.push_back({.name = text(0),
                        .nominal = text(1) + " " + std::string(symbol(unit_)),
                        .limits = text(2),
                        .sense = text(3)});
    }
    QApplication::clipboard()->setText(qt(file::typed_table(rows)));
}

void StacksView::take_out_row() {
    const TypedChain* now = chain();
    const int row = table_->currentRow();
    if (!now || row < 0 || row >= static_cast<int>(now->rows.size())) return;
    TypedChain changed = *now;
    changed.rows.erase(changed.rows.begin() + row);
    emit chain_wished(QString("%1: row %2 out").arg(qt(now->name)).arg(row + 1), changed);
}

void StacksView::do_way() {
    const int row = way_list_->currentRow();
    if (row < 0 || row >= static_cast<int>(ways_.size())) return;
    const WayOut way = ways_[static_cast<std::size_t>(row)]; // the list goes while it is done
    emit chain_wished(way.text, way.changed);
}

void StacksView::edit_first_empty_cell() { edit_cell(table_->rowCount() - 1); }

void StacksView::edit_cell(int row) {
    if (!chain() || row >= table_->rowCount()) return;
    table_->setFocus(Qt::ShortcutFocusReason);
    table_->setCurrentCell(row, 0);
    table_->editItem(table_->currentItem());
}

void StacksView::restyle() {
    style_plot(*plot_);
    show_chosen();
    picture_->update();
}

}
