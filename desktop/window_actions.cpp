// The window's menus: every command with its keys, its words for the command finder, and what it calls.
#include "command_finder.hpp"
#include "figure_strip.hpp"
#include "file/project_file.hpp"
#include "file/text_file.hpp"
#include "fit_bench.hpp"
#include "gap_view.hpp"
#include "hardware_finder.hpp"
#include "joint_map.hpp"
#include "main_window.hpp"
#include "new_items.hpp"
#include "part_gallery.hpp"
#include "presenter/figures.hpp"
#include "presenter/text.hpp"
#include "section_view.hpp"
#include "taper_dialog.hpp"
#include "working_dialog.hpp"
#include <QApplication>
#include <QEventLoop>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenuBar>
#include <QMessageBox>
#include <QProgressDialog>
#include <QRegularExpression>
#include <QSettings>
#include <QStackedWidget>
#include <algorithm>
#include <memory>

namespace kollema::desktop {
namespace {

const QString file_filter = QStringLiteral("Kollema projects (*.kollema);;All files (*)");
constexpr qsizetype most_recent = 8;

/// An action's text without the marks of a menu.
QString bare_text(const QAction& action) {
    static const QRegularExpression mark("&(.)"); // "&&" is a letter
    return action.text().replace(mark, "\\1").remove(QStringLiteral("…"));
}

/// What an action is found by though menus are filled anew: its object's name, else its text.
QString key_of(const QAction& action) {
    return action.objectName().isEmpty() ? bare_text(action) : action.objectName();
}

}

QAction* MainWindow::add_action(QMenu* menu, const QString& text, const QKeySequence& keys,
                                const QString& words, auto call) {
    auto* action = menu->addAction(text);
    action->setShortcut(keys);
    action->setData(words);
    connect(action, &QAction::triggered, this, call);
    return action;
}

void MainWindow::build_actions() {
    build_file_menu();
    build_edit_menu();
    build_view_menu();
    build_bench_menu();
}

void MainWindow::build_file_menu() {
    auto* menu = menuBar()->addMenu("&File");
    add_action(menu, "&New project", QKeySequence::New, "empty", [this] {
        if (may_leave()) document_.open(Project{.name = "New project"}, {});
    });
    add_action(menu, "&Open…", QKeySequence::Open, "load", [this] { ask_for_file(); });
    recent_ = menu->addMenu("Open &recent");
    add_action(menu, "Open the &demo", {}, "fruit sorter example", [this] {
        if (may_leave()) open_demo();
    });
    menu->addSeparator();
    add_action(menu, "&Save", QKeySequence::Save, "write", [this] { save(); });
    add_action(menu, "Save &as…", QKeySequence("Ctrl+Shift+S"), "write copy", [this] { save_as(); });
    add_action(menu, "Save the section as S&VG…", {}, "picture export drawing", [this] { save_picture(); });
    menu->addSeparator();
    add_action(menu, "&Quit", QKeySequence::Quit, "close leave", [this] { close(); });
    fill_recent();
}

void MainWindow::build_edit_menu() {
    auto* menu = menuBar()->addMenu("&Edit");
    auto* undo = document_.undo_stack().createUndoAction(this, "&Undo");
    auto* redo = document_.undo_stack().createRedoAction(this, "&Redo");
    undo->setObjectName("undo"); // their texts say what they would undo
    redo->setObjectName("redo");
    undo->setShortcut(QKeySequence::Undo);
    redo->setShortcut(QKeySequence("Ctrl+Shift+Z"));
    menu->addAction(undo);
    menu->addAction(redo);
    menu->addSeparator();
    add_action(menu, "Add a &part…", QKeySequence("Ctrl+B"), "block plate shaft turned lever tube new",
               [this] { add_part(); });
    add_action(menu, "&Join parts…", QKeySequence("Ctrl+T"),
               "screw dowel pin bearing key ring joint new point", [this] { start_joining(); });
    add_action(menu, "Require a &gap…", QKeySequence("Ctrl+G"), "requirement limits stack new",
               [this] { ask_for_gap(this, document_.project(), unit_, take_edits()); });
    add_action(menu, "&Type a chain", QKeySequence("Ctrl+Shift+G"), "stack tolerance sizes table new",
               [this] { new_chain(); });
    add_action(menu, "Type a &hole pattern", QKeySequence("Ctrl+Shift+H"),
               "screws dowels bolt circle table new", [this] { new_pattern(); });
}

void MainWindow::build_view_menu() {
    auto* menu = menuBar()->addMenu("&Look");
    add_action(menu, "&Find a command…", QKeySequence("Ctrl+Space"), "search help",
               [this] { find_command(); });
    add_action(menu, "&Joints", QKeySequence("F2"), "view map assembly", [this] { show_view(joints_view); });
    add_action(menu, "Fit &bench", QKeySequence("F3"), "view limits zones press play bearing",
               [this] { show_view(bench_view); });
    add_action(menu, "&Assembly", QKeySequence("F5"), "view space three dimensions parts turn point join",
               [this] { show_view(assembly_view); });
    add_action(menu, "&Stacks", QKeySequence("F9"), "view chains tolerance gap requirement worst case",
               [this] { show_view(stacks_view); });
    add_action(menu, "&Hardware", QKeySequence("F4"), "view screws nuts pins rings keys bearings catalogue",
               [this] { show_view(hardware_view); });
    menu->addSeparator();
    joints_menu_ = menu->addMenu("Section of");
    add_action(menu, "Joint &map", QKeySequence("F6"), "focus keyboard",
               [this] { map_->setFocus(Qt::ShortcutFocusReason); });
    add_action(menu, "First f&igure of the joint", QKeySequence("F7"), "focus keyboard thread size", [this] {
        const auto figures = figures_of(document_.project(), map_->chosen(), unit_);
        if (!figures.empty()) strip_->focus_figure(figures.front().key);
    });
    add_action(menu, "Show &all of the section", QKeySequence("F8"), "fit zoom",
               [this] { section_->show_all(); });
    menu->addSeparator();
    add_action(menu, "Show &working", QKeySequence("Ctrl+W"), "formula source steps joint pair screw",
               [this] { show_working_here(); });
    add_action(menu, "Show working of the &gap", QKeySequence("Ctrl+Shift+W"),
               "formula source steps loop stack", [this] { show_working_of_gap(); });
    menu->addSeparator();
    inches_ = add_action(menu, "Show &inches", QKeySequence("Ctrl+I"), "mm unit millimetres",
                         [this](bool on) { set_unit(on ? LengthUnit::inch : LengthUnit::mm); });
    inches_->setCheckable(true);
    dark_ = add_action(menu, "&Dark", QKeySequence("Ctrl+D"), "light theme night",
                       [this](bool on) { set_dark(on); });
    dark_->setCheckable(true);
}

QList<QAction*> MainWindow::commands() const {
    QList<QAction*> all;
    for (auto* menu : menuBar()->findChildren<QMenu*>())
        for (auto* action : menu->actions())
            if (!action->isSeparator() && !action->menu() && action->isEnabled()) all << action;
    return all;
}

void MainWindow::find_command() {
    const auto listed = [this] {
        QList<Command> list;
        for (const auto* action : commands()) {
            const QString text = bare_text(*action);
            list << Command{key_of(*action), text, action->toolTip() + " " + action->data().toString(),
                            action->shortcut().toString(QKeySequence::NativeText)};
        }
        return list;
    };
    const auto run = [this](const QString& key) {
        for (auto* action : commands())
            if (key_of(*action) == key) return action->trigger();
    };
    CommandFinder(listed, run, this).exec();
}

void MainWindow::build_bench_menu() {
    auto* menu = menuBar()->addMenu("&Bench");
    const std::tuple<const char*, const char*, const char*> sheets[] = {
        {"&Play and temperature", "Ctrl+1", "tilt reach drift heat"},
        {"&Press and shrink fit", "Ctrl+2", "interference stress heating bush"},
        {"&Bearing seat", "Ctrl+3", "shoulder fillet load"},
        {"&Advice on a fit", "Ctrl+4", "recommend choose function"},
        {"P&rocesses", "Ctrl+5", "tolerance turning milling cost workshop"}};
    int index = 0;
    for (const auto& [text, keys, words] : sheets) {
        add_action(menu, text, QKeySequence(keys), words, [this, index] {
            show_view(bench_view);
            bench_->show_sheet(index);
        });
        ++index;
    }
    menu->addSeparator();
    add_action(menu, "&New pair", QKeySequence("Ctrl+Shift+N"), "hole shaft fit add", [this] {
        show_view(bench_view);
        emit bench_->pair_wished();
    });
    add_action(menu, "&Taper, angle and slope…", QKeySequence("Ctrl+Shift+T"), "cone ratio",
               [this] { TaperDialog(this).exec(); });
}

/// The working of what is in view.
void MainWindow::show_working_here() {
    if (views_->currentIndex() == bench_view) {
        if (const FitPair* pair = kollema::find(document_.project(), bench_->chosen()))
            WorkingDialog(qt(pair->name), bench_->working(), this).exec();
    } else if (views_->currentIndex() == hardware_view) {
        if (const auto item = hardware_->chosen())
            WorkingDialog(qt(item->standard + " " + item->size), hardware_->working(), this).exec();
    } else
        show_working_of_joint();
}

void MainWindow::show_working_of_joint() {
    if (const Joint* joint = kollema::find(document_.project(), map_->chosen()))
        WorkingDialog(qt(joint->name), working_of(document_.project(), joint->id), this).exec();
}

void MainWindow::show_working_of_gap() {
    if (!document_.results()) return;
    const auto& gaps = document_.results()->gaps;
    const auto found = std::ranges::find_if(gaps, [&](const auto& gap) { return gap->id == gap_->chosen(); });
    if (found != gaps.end() && *(*found)->result)
        WorkingDialog(qt(kollema::find(document_.project(), (*found)->id)->name),
                      (**found).result->value().working, this)
            .exec();
}

void MainWindow::save_picture() {
    const QString path =
        QFileDialog::getSaveFileName(this, "Save the section as SVG", {}, "SVG pictures (*.svg)");
    if (path.isEmpty()) return;
    if (const auto done = file::write_text_atomically(path.toStdString(), section_->svg().toStdString());
        !done)
        return refuse(message(done.error()));
    tell({"Saved to " + path});
}

/// Reads a project, a large one on another thread with a way to leave it.  Empty when it was left.
std::optional<Result<Project>> MainWindow::read_file(const QString& path) {
    constexpr qint64 read_at_once = 4 << 20; // bytes; a moment
    if (QFileInfo(path).size() < read_at_once) return file::load(path.toStdString());
    std::optional<Result<Project>> read;
    QEventLoop loop;
    QProgressDialog progress("Reading " + QFileInfo(path).fileName(), "Leave it", 0, 0, this);
    progress.setWindowModality(Qt::WindowModal);
    progress.setMinimumDuration(0);
    progress.show();
    connect(&progress, &QProgressDialog::canceled, &loop, &QEventLoop::quit);
    connect(&read_, &Job::failed, &loop, [&](const QString& message) {
        refuse(message);
        loop.quit();
    });
    read_.start<Result<Project>>([name = path.toStdString()](const Ticket&) { return file::load(name); },
                                 [&](Result<Project> project) {
                                     read = std::move(project);
                                     loop.quit();
                                 });
    loop.exec();
    read_.stop(); // what comes late is dropped
    return read;
}

bool MainWindow::open_file(const QString& path) {
    const auto read = read_file(path);
    if (!read) return false;
    const auto& project = *read;
    if (!project) {
        refuse(message(project.error()));
        return false;
    }
    document_.open(*project, path);
    remember(path);
    return true;
}

void MainWindow::open_demo() {
    QFile demo(":/demo.kollema");
    if (!demo.open(QIODevice::ReadOnly)) return;
    if (auto project = file::from_json(demo.readAll().toStdString(), "demo"))
        document_.open(*project, {});
    else
        refuse(message(project.error()));
}

void MainWindow::ask_for_file() {
    if (!may_leave()) return;
    const QString path =
        QFileDialog::getOpenFileName(this, "Open a project", QFileInfo(document_.path()).path(), file_filter);
    if (!path.isEmpty()) open_file(path);
}

bool MainWindow::save() {
    if (!commit_typing()) return false;
    return document_.path().isEmpty() ? save_as() : save_to(document_.path());
}

bool MainWindow::save_as() {
    if (!commit_typing()) return false;
    QFileDialog dialog(this, "Save the project as", QFileInfo(document_.path()).path(), file_filter);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setDefaultSuffix("kollema"); // before it asks whether to overwrite
    dialog.selectFile(QFileInfo(document_.path()).fileName());
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return false;
    return save_to(dialog.selectedFiles().front());
}

bool MainWindow::save_to(const QString& path) {
    if (const auto done = file::save(document_.project(), path.toStdString()); !done) {
        refuse(message(done.error()));
        return false;
    }
    document_.saved_as(path);
    remember(path);
    tell({"Saved to " + path});
    return true;
}

bool MainWindow::may_leave() {
    if (!commit_typing()) return false;
    if (document_.undo_stack().isClean()) return true;
    QMessageBox box(QMessageBox::Question, "Unsaved changes", "The project has changes that are not saved.",
                    QMessageBox::NoButton, this);
    const QAbstractButton* keep = box.addButton("Save them", QMessageBox::AcceptRole);
    const QAbstractButton* drop = box.addButton("Discard them", QMessageBox::DestructiveRole);
    box.addButton("Stay here", QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == keep) return save();
    return box.clickedButton() == drop;
}

void MainWindow::remember(const QString& path) {
    QSettings settings;
    QStringList paths = settings.value("recent").toStringList();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    paths.removeAll(absolute);
    paths.prepend(absolute);
    settings.setValue("recent", paths.mid(0, most_recent));
    fill_recent();
}

void MainWindow::fill_recent() {
    recent_->clear();
    for (const auto& path : QSettings().value("recent").toStringList()) {
        auto* action =
            recent_->addAction(menu_text(QFileInfo(path).fileName() + "   " + QFileInfo(path).path()));
        // Opening fills this menu anew, so the action must have come to its end before.
        connect(
            action, &QAction::triggered, this,
            [this, path] {
                if (may_leave()) open_file(path);
            },
            Qt::QueuedConnection);
    }
    recent_->setEnabled(!recent_->isEmpty());
}

void MainWindow::update_title() {
    const QString name =
        document_.path().isEmpty() ? qt(document_.project().name) : QFileInfo(document_.path()).fileName();
    setWindowTitle(
        QString("%1%2 – Kollema")
            .arg(name.isEmpty() ? "New project" : name, document_.undo_stack().isClean() ? "" : " *"));
}

}
