#include "main_window.hpp"
#include "assembly_view.hpp"
#include "cut_dialog.hpp"
#include "edit/edits.hpp"
#include "edit/feature_edits.hpp"
#include "figure_strip.hpp"
#include "file/project_file.hpp"
#include "findings_view.hpp"
#include "first_steps.hpp"
#include "fit_bench.hpp"
#include "gap_view.hpp"
#include "hardware_finder.hpp"
#include "joint_map.hpp"
#include "lines_edit.hpp"
#include "panels.hpp"
#include "part_gallery.hpp"
#include "plain_words.hpp"
#include "presenter/changes.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include "section_view.hpp"
#include "stacks_view.hpp"
#include "steady_table.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include "working_dialog.hpp"
#include <QApplication>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QLabel>
#include <QMenuBar>
#include <QSplitter>
#include <QStackedWidget>
#include <QStatusBar>
#include <QToolButton>
#include <QVBoxLayout>

namespace kollema::desktop {
namespace {

QFrame* panel(const std::vector<QWidget*>& content) {
    auto* frame = new QFrame;
    frame->setObjectName("panel");
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(10, 7, 10, 7);
    column->setSpacing(4);
    for (auto* widget : content)
        column->addWidget(widget, qobject_cast<QLabel*>(widget) ? 0 : 1);
    return frame;
}

}

MainWindow::MainWindow()
    : map_(new JointMap),
      section_(new SectionView),
      strip_(new FigureStrip),
      findings_(new FindingsView),
      gap_(new GapView),
      assembly_(new AssemblyView),
      stacks_(new StacksView),
      bench_(new FitBench),
      hardware_(new HardwareFinder),
      views_(new QStackedWidget),
      view_buttons_(new QButtonGroup(this)),
      joint_name_(heading("")),
      joint_holds_(new QLabel),
      refusal_(new QLabel),
      consequences_(new QLabel) {
    qApp->installEventFilter(new PlainWords(this));
    resize(1280, 800);
    build_panels();
    build_actions();
    connect_panels();
    connect_bench();
    connect_stacks();
    set_dark(false);
    section_->show_message("Cutting the section …");
    document_.open(Project{.name = "New project"}, {});
    show_joint(map_->chosen()); // the first steps, at once
}

/// A field that still has the focus says its last word while the panels go down; by then the document is
/// gone.
MainWindow::~MainWindow() {
    for (QObject* panel :
         {static_cast<QObject*>(strip_), static_cast<QObject*>(gap_), static_cast<QObject*>(map_),
          static_cast<QObject*>(bench_), static_cast<QObject*>(hardware_), static_cast<QObject*>(assembly_),
          static_cast<QObject*>(stacks_)})
        panel->disconnect(this);
}

/// Several views of one project; a message line below them serves all.
void MainWindow::build_panels() {
    auto* row = new QWidget;
    auto* buttons = new QHBoxLayout(row);
    buttons->setContentsMargins(0, 0, 6, 0);
    buttons->setSpacing(4);
    int index = 0;
    for (const auto& [name, meaning] : {std::pair{"Joints", "What holds what, its sections and gaps (F2)"},
                                        {"Assembly", "The parts in space; joints made by pointing (F5)"},
                                        {"Stacks", "Chains of sizes, typed or of the assembly (F9)"},
                                        {"Fit bench", "Zones, play, press fits, bearing seats (F3)"},
                                        {"Hardware", "Screws, pins, rings, keys, bearings (F4)"}}) {
        auto* button = new QToolButton;
        button->setText(name);
        button->setToolTip(meaning);
        button->setCheckable(true);
        button->setChecked(index == 0);
        buttons->addWidget(button);
        view_buttons_->addButton(button, index++);
    }
    menuBar()->setCornerWidget(row);
    connect(view_buttons_, &QButtonGroup::idClicked, this,
            [this](int id) { show_view(static_cast<View>(id)); });
    refusal_->setObjectName("refusal");
    consequences_->setObjectName("consequences");
    for (auto* line : {refusal_, consequences_}) {
        line->setWordWrap(true);
        line->hide();
    }
    views_->addWidget(build_joints_view());
    views_->addWidget(assembly_);
    views_->addWidget(stacks_);
    views_->addWidget(bench_);
    views_->addWidget(hardware_);
    auto* whole = new QWidget;
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(views_, 1);
    column->addWidget(refusal_);
    column->addWidget(consequences_);
    setCentralWidget(whole);
    for (QWidget* part : {static_cast<QWidget*>(menuBar()), static_cast<QWidget*>(refusal_),
                          static_cast<QWidget*>(consequences_)})
        dress(*part);
    for (int i = 0; i < views_->count(); ++i)
        dress(*views_->widget(i));
}

QStringList MainWindow::view_names() { return {"joints", "assembly", "stacks", "bench", "hardware"}; }

bool MainWindow::commit_typing() {
    const int before = refusals_;
    QWidget* field = focusWidget();
    if (auto* line = qobject_cast<ValueEdit*>(field))
        line->commit();
    else if (auto* lines = qobject_cast<LinesEdit*>(field))
        lines->commit();
    else
        for (QWidget* w = field; w; w = w->parentWidget())
            if (auto* table = qobject_cast<SteadyTable*>(w); table && table->is_typed_into())
                table->setFocus(); // its editor says its word and closes
    return refusals_ == before;
}

void MainWindow::show_view(View view) {
    if (!commit_typing()) {
        view_buttons_->button(views_->currentIndex())->setChecked(true);
        return;
    }
    view_buttons_->button(view)->setChecked(true);
    views_->setCurrentIndex(view);
    refusal_->hide();
    consequences_->hide();
    if (view == hardware_view) hardware_->focus_words();
    if (view == assembly_view) show_assembly();
}

QWidget* MainWindow::build_joints_view() {
    joint_holds_->setObjectName("faint");
    joint_holds_->setWordWrap(true);
    auto* centre = new QFrame;
    centre->setObjectName("panel");
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(10, 7, 10, 7);
    column->setSpacing(4);
    column->addWidget(joint_name_);
    column->addWidget(joint_holds_);
    first_steps_ = new FirstSteps;
    centre_ = new QStackedWidget;
    centre_->addWidget(section_);
    centre_->addWidget(first_steps_);
    column->addWidget(centre_, 1);
    strip_->setObjectName("joint_figures");
    column->addWidget(strip_);

    auto* upper = side_by_side({panel({heading("What holds what"), map_}), centre, panel({findings_})},
                               {262, 694, 304});
    auto* gap_panel = panel({gap_});
    gap_panel->layout()->setContentsMargins(0, 0, 0, 0);
    auto* whole = new QSplitter(Qt::Vertical);
    whole->addWidget(upper);
    whole->addWidget(gap_panel);
    whole->setSizes({480, 270});
    whole->setStretchFactor(0, 1);
    whole->setContentsMargins(6, 0, 6, 6);
    whole->setChildrenCollapsible(false);
    whole->setHandleWidth(6);
    return whole;
}

void MainWindow::connect_panels() {
    connect(&document_, &Document::project_changed, this, &MainWindow::show_project);
    connect(&document_, &Document::results_changed, this, &MainWindow::show_results);
    connect(&document_, &Document::findings_changed, this, [this] {
        show_findings();
        map_->show_project(document_.snapshot(), document_.shared_results());
    });
    connect(&document_, &Document::edit_refused, this, &MainWindow::refuse);
    connect(&document_, &Document::edit_landed, this, &MainWindow::tell);
    connect(&document_, &Document::path_changed, this, &MainWindow::update_title);
    connect(&document_.undo_stack(), &QUndoStack::cleanChanged, this, &MainWindow::update_title);
    connect(map_, &JointMap::joint_chosen, this, &MainWindow::show_joint);
    connect(map_, &JointMap::coming_off_wished, this, [this](const InstanceId& id, bool is_meant) {
        if (const Part* part = part_of(document_.project(), id)) // it may be gone by now
            document_.apply(qt(part->name) + (is_meant ? ": meant to come off" : ": not meant to come off"),
                            edit::apply(document_.project(), {edit::SetMayComeOff{id, is_meant}}));
    });
    connect(first_steps_, &FirstSteps::demo_wished, this, [this] {
        if (may_leave()) open_demo();
    });
    connect(first_steps_, &FirstSteps::file_wished, this, &MainWindow::ask_for_file);
    connect(first_steps_, &FirstSteps::part_wished, this, &MainWindow::add_part);
    connect(first_steps_, &FirstSteps::joining_wished, this, &MainWindow::start_joining);
    connect(&cut_section_, &Job::failed, section_, &SectionView::show_message);
    connect(&preview_, &Job::failed, this, &MainWindow::refuse);
    connect(assembly_, &AssemblyView::joint_chosen, map_, &JointMap::choose);
    connect(assembly_, &AssemblyView::sizes_wished, this, [this](const InstanceId& id) {
        if (const Part* part = part_of(document_.project(), id))
            PartGallery(this, document_.project(), unit_, *solids_, take_edits(), part).exec();
    });
    connect(
        assembly_, &AssemblyView::cut_wished, this, [this](const InstanceId& id, const FeatureId& feature) {
            const Part* part = part_of(document_.project(), id);
            if (part && can_be_cut(*part, feature))
                CutDialog(this, document_.project(), *part, feature, unit_, *solids_, take_edits()).exec();
            else
                refuse("Choose a face, a cylinder or a cut of your own in the list first.");
        });
    connect(assembly_, &AssemblyView::uncut_wished, this,
            [this](const InstanceId& id, const FeatureId& feature) {
                if (const Part* part = part_of(document_.project(), id))
                    document_.apply("Uncut", edit::remove_feature(document_.project(), part->id, feature));
            });
    connect(assembly_, &AssemblyView::joint_wished, this, [this](const Joint& joint) {
        document_.apply("Join with " + qt(joint.name), edit::add_joint(document_.project(), joint));
    });
    connect(section_, &SectionView::figure_clicked, this, [this](const QString& figure) {
        strip_->focus_figure(figure_for_callout(document_.project(), map_->chosen(), figure));
    });
    connect(strip_, &FigureStrip::change_wished, this, &MainWindow::change_figure);
    connect(findings_, &FindingsView::joint_asked, map_, &JointMap::choose);
    connect(findings_, &FindingsView::apply_asked, this, [this](const check::Fix& fix) {
        document_.apply(qt(in_words(fix.text, unit_)), edit::apply(document_.project(), fix.changes));
    });
    connect(findings_, &FindingsView::preview_asked, this, &MainWindow::preview);
    connect(gap_, &GapView::gap_shown, this, &MainWindow::show_way);
    connect(gap_, &GapView::limits_wished, this, &MainWindow::change_limits);
    connect(gap_, &GapView::tolerance_wished, this, &MainWindow::change_tolerance);
    connect(gap_, &GapView::edit_refused, this, &MainWindow::refuse);
    connect(gap_, &GapView::requirement_wished, this,
            [this](const QString& what, const Requirement& changed) {
                document_.apply(qt(changed.name) + ": " + what,
                                edit::change_requirement(document_.project(), changed));
            });
}

void MainWindow::show_project() {
    preview_.stop();
    refusal_->hide();
    stacks_->show_project(document_.snapshot(), document_.results(), unit_);
    bench_->show_project(document_.project(), unit_);
    hardware_->show_workshop(document_.project().workshop, unit_);
    map_->show_project(document_.snapshot(), document_.shared_results());
    strip_->show_figures(qt(map_->chosen().text), figures_of(document_.project(), map_->chosen(), unit_));
    section_->set_outdated(true);
    findings_->set_outdated(true);
    gap_->show_outdated(document_.project());
    update_title();
}

void MainWindow::show_results() {
    const Results& results = *document_.results();
    map_->show_project(document_.snapshot(), document_.shared_results());
    show_findings();
    findings_->set_outdated(false);
    gap_->show_gaps(document_.project(), &results, unit_);
    stacks_->show_project(document_.snapshot(), &results, unit_);
    section_->set_outdated(false);
    show_joint(map_->chosen());
    show_joints_menu();
    show_assembly();
    if (results.failure) refuse(message(*results.failure));
}

bool MainWindow::is_painted() const {
    if (!document_.up_to_date()) return false;
    switch (views_->currentIndex()) {
    case joints_view:
        return !cut_section_.is_running();
    case assembly_view:
        return !assembly_->picture().is_building();
    case stacks_view:
        return !stacks_->is_computing();
    default:
        return true;
    }
}

bool MainWindow::is_settled() const {
    return is_painted() && !document_.is_comparing_solids() && !cut_section_.is_running() &&
           !stacks_->is_computing() && !assembly_->picture().is_weighing();
}

/// Solids are built when they are looked at.
void MainWindow::show_assembly() {
    if (views_->currentIndex() != assembly_view || !document_.results()) return;
    assembly_->show_results(document_.shared_results(), solids_, unit_);
    assembly_->choose_joint(map_->chosen());
}

void MainWindow::show_findings() {
    const auto results = document_.shared_results();
    findings_->show_findings({results, &results->findings}, !document_.project().joints.empty(), unit_);
}

/// Marks the chain of the shown gap on the map.
void MainWindow::show_way(const RequirementId& id) {
    const Requirement* requirement = kollema::find(document_.project(), id);
    std::optional<GapWay> way;
    if (requirement && document_.results())
        for (const auto& gap : document_.results()->gaps)
            if (gap->id == id) way = way_of(*requirement, *gap);
    map_->show_way(std::move(way));
}

/// Sections by name, for the menu and for finding commands: as long as a person may read them.
void MainWindow::show_joints_menu() {
    constexpr std::size_t readable = 200;
    joints_menu_->clear();
    joints_menu_->setEnabled(document_.project().joints.size() <= readable);
    if (!joints_menu_->isEnabled()) return;
    for (const auto& joint : document_.project().joints) {
        auto* action = joints_menu_->addAction(menu_text(qt(joint.name)), this,
                                               [this, id = joint.id] { map_->choose(id); });
        action->setObjectName("section:" + qt(joint.id.text));
        action->setData("show joint section");
    }
}

void MainWindow::show_joint(const JointId& id) {
    if (strip_->subject() != qt(id.text)) strip_->commit(); // its last word belongs to the joint before
    const Joint* joint = kollema::find(document_.project(), id);
    strip_->show_figures(qt(id.text), figures_of(document_.project(), id, unit_));
    joint_name_->setText(joint ? qt(joint->name) + "  –  " + hardware_line(document_.project(), *joint)
                               : "No joint yet");
    joint_name_->setToolTip(assembly_lines(document_.project(), id, unit_).join("\n"));
    // What was computed belongs to the project that it was computed from, maybe an older one.
    const Results* results = document_.results();
    const bool known = joint && results && !results->failure && kollema::find(*results->project, id);
    joint_holds_->setText(known ? holds_sentence(*results->project, results->checked.placement, id, unit_)
                                : QString());
    joint_holds_->setToolTip(
        known ? holds_lines(*results->project, results->checked.placement, id, unit_).join("\n") : QString());
    const bool empty = document_.project().joints.empty();
    centre_->setCurrentIndex(empty ? 1 : 0);
    if (empty) first_steps_->show_parts(document_.project().instances.size());
    if (known)
        show_section(id);
    else
        cut_section_.stop();
}

/// Solids are built and cut off the window's thread; a later choice drops an answer that is still to come.
void MainWindow::show_section(const JointId& id) {
    section_->set_outdated(true);
    using Answer = std::optional<Result<drawing::Section>>;
    cut_section_.start<Answer>(
        [results = document_.shared_results(), id, unit = unit_, solids = solids_](const Ticket& ticket) {
            return section_of(*results, id, unit, solids->cutter(), [&] { return ticket.is_wanted(); });
        },
        [this, unit = unit_](const Answer& section) {
            if (!section) return;
            section_->set_outdated(!document_.up_to_date());
            if (*section)
                section_->show_section(**section, unit);
            else
                section_->show_message(message(section->error()));
        });
}

void MainWindow::refuse(const QString& why) {
    ++refusals_;
    consequences_->hide();
    refusal_->setText("✕  " + why);
    refusal_->show();
    // What was typed did not land: the fields show again what holds.
    strip_->show_figures(qt(map_->chosen().text), figures_of(document_.project(), map_->chosen(), unit_));
    if (document_.results()) gap_->show_gaps(document_.project(), document_.results(), unit_);
    bench_->restyle();
    stacks_->restyle();
}

void MainWindow::tell(const QStringList& lines) {
    refusal_->hide();
    constexpr qsizetype most = 3;
    QStringList shown = lines.mid(0, most);
    if (lines.size() > most) shown << QString("… and %1 more").arg(lines.size() - most);
    consequences_->setText("What followed:  " + shown.join("  ·  "));
    consequences_->setToolTip(lines.join("\n"));
    consequences_->show();
}

/// Computes what a fix would change on another thread; an answer to an older project is dropped.
void MainWindow::preview(const check::Fix& fix) {
    auto after = edit::apply(document_.project(), fix.changes);
    if (!after) return findings_->show_preview({message(after.error())});
    if (!document_.results() || !document_.up_to_date())
        return findings_->show_preview({"Still computing; ask again in a moment."});
    using Answer = std::shared_ptr<const Results>;
    preview_.start<Answer>(
        [after = std::make_shared<const Project>(std::move(*after)), now = document_.shared_results()](
            const Ticket& ticket) { return compute_results(after, now, [&] { return ticket.is_wanted(); }); },
        [this, now = document_.snapshot()](const Answer& results) {
            if (results && document_.snapshot() == now && document_.results())
                findings_->show_preview(changes_between(*document_.results(), *results, unit_));
        });
}

void MainWindow::set_unit(LengthUnit unit) {
    unit_ = unit;
    document_.set_unit(unit);
    inches_->setChecked(unit == LengthUnit::inch);
    show_joint(map_->chosen());
    if (document_.results()) show_findings();
    gap_->show_gaps(document_.project(), document_.results(), unit_);
    bench_->show_project(document_.project(), unit_);
    stacks_->show_project(document_.snapshot(), document_.results(), unit_);
    hardware_->show_workshop(document_.project().workshop, unit_);
    show_assembly();
}

void MainWindow::set_dark(bool dark) {
    apply_theme(*qApp, dark);
    dark_->setChecked(dark);
    gap_->restyle();
    bench_->restyle();
    stacks_->restyle();
    assembly_->restyle();
    hardware_->restyle();
    update();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (may_leave())
        event->accept();
    else
        event->ignore();
}

}

#include "moc_document.cpp"
#include "moc_main_window.cpp"
