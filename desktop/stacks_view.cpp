#include "stacks_view.hpp"
#include "chain_answer.hpp"
#include "chain_picture.hpp"
#include "chain_table.hpp"
#include "file/text_file.hpp"
#include "formula_picture.hpp"
#include "lines_edit.hpp"
#include "panels.hpp"
#include "pattern_sheet.hpp"
#include "presenter/requirements.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace kollema::desktop {
namespace {

constexpr std::array all_units{LengthUnit::mm, LengthUnit::inch};

QString shown_figure(double mm, LengthUnit unit) {
    return qt(plain(from_mm(mm, unit), unit == LengthUnit::mm ? 5 : 6));
}

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
      show_joint_(new QPushButton("In assembly")),
      name_(new ValueEdit),
      lower_(new ValueEdit),
      upper_(new ValueEdit),
      yield_wanted_(new ValueEdit),
      measured_on_(new ValueEdit),
      formula_(new ValueEdit),
      closing_(new LinesEdit),
      decided_by_(new QComboBox),
      chain_unit_(new QComboBox),
      picture_(new ChainPicture),
      formula_picture_(new FormulaPicture),
      table_(new ChainTable),
      answer_(new ChainAnswer),
      pattern_sheet_(new PatternSheet),
      sheets_(new QStackedWidget) {
    setAccessibleName("Stacks");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 6, 6);
    sheets_->addWidget(side_by_side({build_middle(), answer_}, {690, 340}));
    sheets_->addWidget(pattern_sheet_);
    row->addWidget(side_by_side({build_left(), sheets_}, {226, 1030}));
    connect_fields();
    connect_answer();
    connect(&compute_, &Job::failed, this, [this](const QString& message) {
        failure_ = message;
        show_chosen();
        emit refused(message);
    });
    restyle();
}

QWidget* StacksView::build_left() {
    list_->setObjectName("chains");
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setWordWrap(true);
    auto* add = new QPushButton("New chain");
    add->setObjectName("new_chain");
    auto* add_pattern = new QPushButton("New pattern");
    add_pattern->setObjectName("new_pattern");
    remove_->setObjectName("take_out");
    remove_->setToolTip("Takes what is chosen out of the project");
    show_joint_->setObjectName("show_in_assembly");
    show_joint_->setToolTip("Shows in the assembly what is chosen");
    auto* buttons = new QGridLayout;
    buttons->addWidget(add, 0, 0);
    buttons->addWidget(add_pattern, 0, 1);
    buttons->addWidget(remove_, 1, 0);
    buttons->addWidget(show_joint_, 1, 1);
    auto* column = new QVBoxLayout;
    column->addWidget(heading("Chains and patterns"));
    column->addWidget(list_, 1);
    column->addLayout(buttons);
    connect(add, &QPushButton::clicked, this, &StacksView::new_chain_wished);
    connect(add_pattern, &QPushButton::clicked, this, &StacksView::new_pattern_wished);
    connect(remove_, &QPushButton::clicked, this, &StacksView::take_out);
    connect(show_joint_, &QPushButton::clicked, this, [this] {
        if (const auto* gap = std::get_if<RequirementId>(&chosen_)) emit gap_looked_for(*gap);
        if (const auto* joint = std::get_if<JointId>(&chosen_)) emit joint_looked_for(*joint);
    });
    list_->setAccessibleName("Chains, requirements and hole patterns");
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
    chain_unit_->setObjectName("chain_unit");
    chain_unit_->setAccessibleName("Unit of the chain's figures");
    chain_unit_->setToolTip("Of figures that are typed without a unit");
    for (const auto unit : all_units)
        chain_unit_->addItem(qt(symbol(unit)));
    yield_wanted_->setObjectName("chain_yield");
    yield_wanted_->setFixedWidth(64);
    yield_wanted_->setAccessibleName("Yield wanted");
    yield_wanted_->setToolTip("Where statistics decides: a share such as 0.9973");
    auto* limits = new QHBoxLayout;
    limits->addWidget(name_, 1);
    limits->addWidget(label_of("&gap", lower_));
    limits->addWidget(lower_);
    limits->addWidget(label_of("&to", upper_));
    limits->addWidget(upper_);
    limits->addWidget(chain_unit_);
    limits->addWidget(decided_by_);
    limits->addWidget(yield_wanted_);
    measured_on_->setObjectName("chain_measured_on");
    measured_on_->setAccessibleName("Pieces on which each Cpk was measured");
    measured_on_->setPlaceholderText("all");
    measured_on_->setFixedWidth(56);
    measured_on_->setToolTip(
        "On how many pieces each Cpk was measured; empty where it is known for all. Tells "
        "the yield where each is as low as such a sample allows");
    formula_->setObjectName("chain_formula");
    formula_->setAccessibleName("Formula of the gap");
    formula_->setPlaceholderText(
        "the sum of the rows, each its way; or a formula of their names, as a*cos(t) - b");
    formula_->setToolTip(
        "+ - * / ^, sin cos tan asin acos atan atan2 in degrees, sqrt, abs, hypot, min, max, pi. In "
        "a name what is no letter or digit is written _");
    closing_->setObjectName("chain_closing");
    closing_->setAccessibleName("Loops that close");
    closing_->setPlaceholderText(
        "Loops that close, a line each:  unknown x near 170   unknown angle f near 10   loop "
        "r at t, l at -f, x at 180   let half = x/2   zero a*b - c");
    closing_->setFixedHeight(58);
    auto* formula = new QHBoxLayout;
    formula->addWidget(label_of("gap &=", formula_));
    formula->addWidget(formula_, 1);
    formula->addWidget(label_of("&Cpk of", measured_on_));
    formula->addWidget(measured_on_);
    auto* column = new QVBoxLayout;
    column->addLayout(limits);
    column->addWidget(picture_, 8);
    column->addWidget(formula_picture_, 8);
    formula_picture_->hide();
    column->addWidget(table_, 11);
    column->addLayout(formula);
    column->addWidget(closing_);
    return framed(column);
}

void StacksView::connect_answer() {
    connect(answer_, &ChainAnswer::way_wished, this,
            [this](const WayOut& way) { emit chain_wished(way.text, way.changed); });
    connect(answer_, &ChainAnswer::nothing_at_assembly_wished, this, [this] {
        if (!chain()) return;
        TypedChain changed = *chain();
        changed.at_assembly = {};
        emit chain_wished(qt(changed.name) + ": nothing at assembly", changed);
    });
    connect(answer_, &ChainAnswer::copy_wished, this, [this] {
        if (const auto page = shown_page()) QApplication::clipboard()->setText(qt(stack::page_text(*page)));
    });
    connect(answer_, &ChainAnswer::page_wished, this, [this] {
        const auto page = shown_page();
        const QString path =
            page ? QFileDialog::getSaveFileName(this, "Save the page", qt(page->name) + ".svg",
                                                "Page (*.svg);;Text (*.txt)")
                 : QString();
        if (!path.isEmpty()) save_page_to(path);
    });
    connect(pattern_sheet_, &PatternSheet::class_wished, this, &StacksView::clearance_class_wished);
    connect(pattern_sheet_, &PatternSheet::pattern_wished, this, &StacksView::pattern_wished);
    connect(pattern_sheet_, &PatternSheet::refused, this, &StacksView::refused);
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
        commit_fields(); // their last word belongs to the chain before
        chosen_ = listed_.at(static_cast<std::size_t>(row));
        show_chosen();
    });
    for (auto* field : {name_, lower_, upper_, yield_wanted_, measured_on_, formula_})
        connect(field, &ValueEdit::committed, this, &StacksView::take_fields);
    connect(closing_, &LinesEdit::committed, this, &StacksView::take_fields);
    for (auto* box : {decided_by_, chain_unit_})
        connect(box, &QComboBox::activated, this, &StacksView::take_fields);
    connect(table_, &ChainTable::rows_wished, this,
            [this](const QString& what, const std::vector<stack::TypedRow>& rows) {
                if (!chain()) return;
                TypedChain changed = *chain();
                changed.rows = rows;
                emit chain_wished(qt(changed.name) + ": " + what, changed);
            });
    connect(table_, &ChainTable::refused, this, &StacksView::refused);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
        picture_->choose(row);
        formula_picture_->choose(row);
    });
    connect(formula_picture_, &FormulaPicture::row_clicked, this,
            [this](int row) { table_->setCurrentCell(row, 0); });
    connect(picture_, &ChainPicture::row_clicked, this, [this](int row) { table_->setCurrentCell(row, 0); });
}

void StacksView::take_out() {
    if (const auto* chain = std::get_if<ChainId>(&chosen_)) emit chain_unwished(*chain);
    if (const auto* pattern = std::get_if<PatternId>(&chosen_)) emit pattern_unwished(*pattern);
}

bool StacksView::is_computing() const { return compute_.is_running() || pattern_sheet_->is_computing(); }

void StacksView::commit_fields() {
    for (auto* field : {name_, lower_, upper_, yield_wanted_, measured_on_, formula_})
        field->commit();
    closing_->commit();
}

const TypedChain* StacksView::chain() const {
    const auto* id = std::get_if<ChainId>(&chosen_);
    return id ? project_->chains.find(*id) : nullptr;
}

const GapResult* StacksView::gap() const {
    const auto* id = std::get_if<RequirementId>(&chosen_);
    const auto found = std::ranges::find_if(gaps_, [&](const auto& g) { return id && g->id == *id; });
    return found == gaps_.end() ? nullptr : found->get();
}

void StacksView::show_project(std::shared_ptr<const Project> project, const Results* results,
                              LengthUnit unit) {
    project_ = std::move(project);
    if (results) gaps_ = results->gaps;
    std::erase_if(gaps_, [&](const auto& g) { return !project_->requirements.find(g->id); });
    if (results) joints_ = joints_with_patterns(*project_, results->checked.placement.designs);
    std::erase_if(joints_, [&](const auto& id) { return !project_->joints.find(id); });
    unit_ = unit;
    compute();
    show_list();
    show_chosen();
}

void StacksView::choose(const ChainId& id) {
    commit_fields();
    chosen_ = id;
    show_list();
    show_chosen();
}

void StacksView::choose(const PatternId& id) {
    commit_fields();
    chosen_ = id;
    show_list();
    show_chosen();
}

/// Only chains that changed are computed, off the window's thread.
/// While nobody looks, nobody waits: then it is done when the view is shown.
void StacksView::compute() {
    compute_.stop();
    is_stale_ = !isVisible();
    if (is_stale_) return;
    failure_.clear();
    compute_.start<std::optional<Answers>>(
        [project = project_, before = answers_](const Ticket& ticket) -> std::optional<Answers> {
            Answers all;
            for (const auto& chain : project->chains) {
                const auto known = before.find(chain.id);
                if (known != before.end() && known->second->of == chain &&
                    known->second->workshop == project->workshop) {
                    all.insert(*known);
                    continue;
                }
                auto shown = shown_chain(chain, project->workshop, [&] { return ticket.is_wanted(); });
                if (!shown) return std::nullopt;
                all[chain.id] =
                    std::make_shared<const Answer>(Answer{chain, project->workshop, std::move(*shown)});
            }
            return all;
        },
        [this](std::optional<Answers> answers) {
            if (!answers) return;
            answers_ = std::move(*answers);
            show_list();
            show_chosen();
        });
}

/// Typed chains first, then requirements, then patterns, typed ones first.  What was chosen and is no more
/// gives way to the first.
void StacksView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (is_stale_ && project_) compute();
}

void StacksView::show_list() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    listed_.clear();
    const auto add = [&](const Chosen& what, const QString& text) {
        list_->addItem(text);
        listed_.push_back(what);
    };
    const auto add_chain = [&](const Chosen& what, const QString& name, const ShownChain* shown,
                               const QString& from) {
        const QString verdict = !shown ? "…" : sign(shown->verdict);
        add(what, QString("%1 %2\n    %3%4")
                      .arg(verdict, name, shown ? percent(shown->yield) : "cannot be read yet", from));
    };
    for (const auto& c : project_->chains) {
        const auto found = answers_.find(c.id);
        const bool known = found != answers_.end() && found->second->shown;
        add_chain(c.id, qt(c.name), known ? &*found->second->shown : nullptr, {});
    }
    for (const auto& g : gaps_) {
        const Requirement* r = project_->requirements.find(g->id);
        std::optional<ShownChain> shown;
        if (*g->result) shown = shown_chain(*g);
        add_chain(g->id, r ? qt(r->name) : QString(), shown ? &*shown : nullptr, "  ·  of the assembly");
    }
    for (const auto& p : project_->patterns)
        add(p.id, QString("⁘ %1\n    holes as they are typed").arg(qt(p.name)));
    for (const auto& id : joints_) {
        const Joint* joint = project_->joints.find(id);
        add(id, QString("⁘ %1\n    do its holes go together?").arg(joint ? qt(joint->name) : QString()));
    }
    auto at = std::ranges::find(listed_, chosen_);
    if (at == listed_.end()) at = listed_.begin();
    chosen_ = listed_.empty() ? Chosen() : *at;
    if (!listed_.empty()) list_->setCurrentRow(static_cast<int>(at - listed_.begin()));
}

void StacksView::show_chosen() {
    const TypedChain* typed = chain();
    const GapResult* g = gap();
    const bool joint = std::holds_alternative<JointId>(chosen_),
               pattern = std::holds_alternative<PatternId>(chosen_);
    remove_->setEnabled(typed || pattern);
    show_joint_->setEnabled(g || joint);
    sheets_->setCurrentIndex(joint || pattern ? 1 : 0);
    if (joint) return pattern_sheet_->look_at(project_, std::get<JointId>(chosen_), unit_);
    if (pattern) return pattern_sheet_->look_at(project_, std::get<PatternId>(chosen_), unit_);
    for (QWidget* field : std::initializer_list<QWidget*>{name_, lower_, upper_, decided_by_, chain_unit_,
                                                          yield_wanted_, measured_on_, formula_, closing_})
        field->setEnabled(typed);
    if (typed) return show_typed(*typed);
    formula_picture_->hide();
    picture_->show();
    table_->show_nothing();
    for (auto* field : {name_, lower_, upper_, yield_wanted_, measured_on_, formula_})
        field->show_value({});
    closing_->show_value({});
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
    name_->show_value(r ? qt(r->name) : QString());
    lower_->show_value(shown.limits.lower ? shown_figure(*shown.limits.lower, unit_) : QString());
    upper_->show_value(shown.limits.upper ? shown_figure(*shown.limits.upper, unit_) : QString());
    show_unit(unit_);
    picture_->show_chain(shown, unit_);
    table_->show_links(shown, unit_);
    show_results(&shown, {});
}

void StacksView::show_typed(const TypedChain& typed) {
    name_->show_value(qt(typed.name));
    lower_->show_value(qt(typed.lower));
    upper_->show_value(qt(typed.upper));
    yield_wanted_->show_value(qt(plain(typed.yield_wanted)));
    measured_on_->show_value(qt(typed.measured_on > 0 ? std::to_string(typed.measured_on) : ""));
    formula_->show_value(qt(typed.gap));
    closing_->show_value(qt(typed.closing));
    decided_by_->setCurrentIndex(
        static_cast<int>(std::ranges::find(all_deciders, typed.decided_by) - all_deciders.begin()));
    show_unit(typed.unit);
    const auto found = answers_.find(typed.id);
    const bool known = found != answers_.end() && found->second->of == typed;
    const ShownChain* shown = known && found->second->shown ? &*found->second->shown : nullptr;
    table_->show_typed(typed, shown);
    formula_picture_->setVisible(shown && shown->formula);
    picture_->setVisible(!shown || !shown->formula);
    if (shown) {
        if (shown->formula)
            formula_picture_->show_chain(*shown, typed.unit);
        else
            picture_->show_chain(*shown, typed.unit);
        return show_results(shown, {});
    }
    const QString why = typed.rows.empty()
                            ? "Type the first size into the table below: name, nominal, limits. "
                              "Tab goes to the next cell, Enter to the next row."
                        : known              ? message(found->second->shown.error())
                        : failure_.isEmpty() ? "…"
                                             : failure_;
    picture_->show_message(why);
    show_results(nullptr, why);
}

void StacksView::show_results(const ShownChain* shown, const QString& why) {
    if (!shown) return answer_->show_message(why);
    answer_->show_chain(*shown, chain() ? chain()->unit : unit_, chain() != nullptr);
}

void StacksView::take_fields() {
    const TypedChain* now = chain();
    if (!now) return;
    TypedChain changed = *now;
    changed.name = name_->text().trimmed().toStdString();
    changed.lower = lower_->text().trimmed().toStdString();
    changed.upper = upper_->text().trimmed().toStdString();
    changed.gap = formula_->text().trimmed().toStdString();
    changed.closing = closing_->toPlainText().trimmed().toStdString();
    changed.decided_by = all_deciders.at(static_cast<std::size_t>(decided_by_->currentIndex()));
    changed.unit = all_units.at(static_cast<std::size_t>(chain_unit_->currentIndex()));
    const auto share = parse_number(yield_wanted_->text().toStdString());
    if (!share) {
        emit refused(message(share.error()));
        return show_chosen();
    }
    changed.yield_wanted = *share;
    const QString pieces = measured_on_->text().trimmed();
    bool whole = true;
    changed.measured_on = pieces.isEmpty() ? 0 : pieces.toInt(&whole);
    if (!whole) {
        emit refused(QString("\"%1\" is no number of pieces").arg(pieces));
        return show_chosen();
    }
    if (changed == *now) return;
    emit chain_wished(qt(changed.name) + ": what it must keep", changed);
    show_chosen(); // it may have been refused
}

void StacksView::show_unit(LengthUnit unit) {
    chain_unit_->setCurrentIndex(static_cast<int>(std::ranges::find(all_units, unit) - all_units.begin()));
}

void StacksView::edit_first_empty_cell() {
    if (std::holds_alternative<PatternId>(chosen_)) return pattern_sheet_->edit_first_cell();
    table_->edit_row(table_->rowCount() - 1);
}

void StacksView::restyle() {
    answer_->restyle();
    pattern_sheet_->restyle();
    show_chosen();
    picture_->update();
}

}

#include "moc_stacks_view.cpp"
