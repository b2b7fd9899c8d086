// What the panels wish, turned into edits of the document.
#include "assembly_view.hpp"
#include "edit/bench_edits.hpp"
#include "edit/chain_edits.hpp"
#include "edit/edits.hpp"
#include "edit/pattern_edits.hpp"
#include "fit_bench.hpp"
#include "gap_view.hpp"
#include "hardware_finder.hpp"
#include "joint_map.hpp"
#include "main_window.hpp"
#include "part_gallery.hpp"
#include "presenter/bench.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "stack/typed_size.hpp"
#include "stacks_view.hpp"
#include <fmt/format.h>

namespace kollema::desktop {

TakeProject MainWindow::take_edits() {
    return [this](const QString& text, Result<Project> after) {
        return document_.apply(text, std::move(after));
    };
}

void MainWindow::add_part() { PartGallery(this, document_.project(), unit_, *solids_, take_edits()).exec(); }

void MainWindow::start_joining() {
    show_view(assembly_view);
    assembly_->focus_features();
}

void MainWindow::connect_bench() {
    const auto take = [this](const QString& text, Result<Project> after) {
        document_.apply(text, std::move(after));
    };
    connect(bench_, &FitBench::figure_wished, this,
            [this, take](const PairId& id, const QString& key, const QString& value) {
                const FitPair* pair = kollema::find(document_.project(), id);
                if (pair)
                    take(QString("%1: %2").arg(qt(pair->name), value),
                         with_pair_figure(document_.project(), id, key, value, unit_));
            });
    connect(bench_, &FitBench::pair_wished, this, [this, take] {
        const FitPair* like = kollema::find(document_.project(), bench_->chosen());
        FitPair pair = like ? *like : FitPair{};
        pair.name = fmt::format("Pair {}", document_.project().pairs.size() + 1);
        const auto after = edit::add_pair(document_.project(), pair);
        if (after) bench_->choose(after->pairs.back().id);
        take("New pair", after);
    });
    connect(bench_, &FitBench::pair_unwished, this, [this, take](const PairId& id) {
        take("Take off the bench", edit::remove_pair(document_.project(), id));
    });
    connect(bench_, &FitBench::process_wished, this, [this, take](const standards::Process& p) {
        take(qt(p.title), edit::set_process_figures(document_.project(), p));
    });
    connect(bench_, &FitBench::process_reset_wished, this, [this, take](const QString& id) {
        take("Built-in figures", edit::reset_process(document_.project(), id.toStdString()));
    });
    connect(bench_, &FitBench::refused, this, &MainWindow::refuse);
    connect(hardware_, &HardwareFinder::stock_wished, this, [this, take](const StockItem& item) {
        take(qt(item.standard + " " + item.size) + " on the shelf", edit::stock(document_.project(), item));
    });
    connect(hardware_, &HardwareFinder::unstock_wished, this,
            [this, take](const std::string& standard, const std::string& size) {
                take(qt(standard + " " + size) + " off the shelf",
                     edit::unstock(document_.project(), standard, size));
            });
}

void MainWindow::connect_stacks() {
    const auto take = [this](const QString& text, Result<Project> after) {
        return document_.apply(text, std::move(after));
    };
    connect(stacks_, &StacksView::chain_wished, this, [this, take](const QString& what, const TypedChain& c) {
        take(what, edit::change_chain(document_.project(), c));
    });
    connect(stacks_, &StacksView::new_chain_wished, this, &MainWindow::new_chain);
    connect(stacks_, &StacksView::chain_unwished, this, [this, take](const ChainId& id) {
        take("Take the chain out", edit::remove_chain(document_.project(), id));
    });
    connect(stacks_, &StacksView::pattern_wished, this,
            [this, take](const QString& what, const TypedPattern& p) {
                take(what, edit::change_pattern(document_.project(), p));
            });
    connect(stacks_, &StacksView::new_pattern_wished, this, &MainWindow::new_pattern);
    connect(stacks_, &StacksView::pattern_unwished, this, [this, take](const PatternId& id) {
        take("Take the pattern out", edit::remove_pattern(document_.project(), id));
    });
    connect(stacks_, &StacksView::gap_looked_for, this, [this](const RequirementId& id) {
        show_view(joints_view);
        gap_->choose(id);
    });
    connect(stacks_, &StacksView::joint_looked_for, this, [this](const JointId& id) {
        show_view(joints_view);
        map_->choose(id);
    });
    connect(stacks_, &StacksView::clearance_class_wished, this,
            [this, take](const JointId& id, const std::string& name) {
                take(QString("Clearance holes: %1").arg(qt(name)),
                     edit::set_parameter(document_.project(), id, "clearance", name));
            });
    connect(stacks_, &StacksView::refused, this, &MainWindow::refuse);
}

void MainWindow::new_chain() {
    show_view(stacks_view);
    TypedChain chain{.id = {}, .name = fmt::format("Chain {}", document_.project().chains.size() + 1)};
    chain.unit = unit_;
    const auto after = edit::add_chain(document_.project(), chain);
    if (!document_.apply("New chain", after)) return;
    stacks_->choose(after->chains.back().id);
    stacks_->edit_first_empty_cell();
}

/// With what a pattern has at least, to be changed: the words of the cells are then seen.
void MainWindow::new_pattern() {
    show_view(stacks_view);
    TypedPattern pattern{
        .id = {}, .name = fmt::format("Pattern {}", document_.project().patterns.size() + 1), .typed = {}};
    pattern.unit = unit_;
    const bool metric = unit_ == LengthUnit::mm;
    const std::string zone = metric ? "0.2" : "0.01";
    pattern.typed.members = {{.name = "screw", .what = "fastener", .size = metric ? "M6" : "1/4-20"},
                             {.name = "cover", .what = "hole", .size = "medium", .position = zone},
                             {.name = "body", .what = "tapped", .position = zone}};
    pattern.typed.holes = {{.count = "4", .circle = metric ? "60" : "2.5"}};
    const auto after = edit::add_pattern(document_.project(), pattern);
    if (!document_.apply("New pattern", after)) return;
    stacks_->choose(after.patterns.back().id);
    stacks_->edit_first_empty_cell();
}

void MainWindow::change_figure(const QString& of, const QString& key, const QString& value) {
    const Joint* joint = kollema::find(document_.project(), JointId{of.toStdString()});
    if (!joint) return;
    document_.apply(QString("%1: %2").arg(qt(joint->name), value),
                    with_figure(document_.project(), joint->id, key, value, unit_));
}

void MainWindow::change_tolerance(const PartId& part, const DimensionId& dimension, const QString& text) {
    const Part* of = kollema::find(document_.project(), part);
    const Dimension* asked = of ? of->dimensions.find(dimension) : nullptr;
    if (!asked) return;
    const std::string cell = stack::plain_cell(text.toStdString());
    if (cell.empty()) return refuse("The tolerance is empty. Write for example ±0.05 or +0.05 -0.02");
    const auto limits =
        stack::read_limits(cell, {.mm = nominal_mm(*of, *asked), .thread = {}},
                           {.bare = unit_, .processes = processes_at_hand(document_.project().workshop)});
    if (!limits) return refuse(message(limits.error()));
    document_.apply("Tolerance " + qt(cell),
                    edit::set_dimension_tolerance(document_.project(), part, dimension, limits->plus_mm,
                                                  limits->minus_mm));
}

void MainWindow::change_limits(const RequirementId& requirement, const QString& lower, const QString& upper) {
    const Requirement* now = kollema::find(document_.project(), requirement);
    if (!now) return;
    std::optional<double> limits[2];
    for (int i = 0; i < 2; ++i) {
        const std::string text = (i == 0 ? lower : upper).trimmed().toStdString();
        if (text.empty()) continue;
        const auto value = parse_length_mm(text, unit_);
        if (!value) return refuse(message(value.error()));
        const auto& before = i == 0 ? now->lower_mm : now->upper_mm;
        limits[i] = before ? as_shown_of(*before, *value) : *value;
    }
    document_.apply("Limits of the gap",
                    edit::set_limits(document_.project(), requirement, limits[0], limits[1]));
}

}
