// Writes the pictures of docs/screenshots from the demo: ./run screenshots.  Hidden: not part of the tests.
#include "command_finder.hpp"
#include "driver.hpp"
#include "edit/edits.hpp"
#include "fit_bench.hpp"
#include "hardware_finder.hpp"
#include "piece_view.hpp"
#include "presenter/figures.hpp"
#include "taper_dialog.hpp"
#include "working_dialog.hpp"
#include <QDir>

using namespace kollema;
using namespace kollema::test;

namespace {

/// Side plate, spacer, rail and guard bolted together, a label riveted and a cover screwed to it.
Project frame_of_plates(bool inches) {
    const auto must = [](Result<Project> p) {
        if (!p) FAIL(in_one_line(p.error()));
        return *p;
    };
    Project p{.name = "Frame of the sorter"};
    const double t = inches ? 6.35 : 8;
    for (const auto* name : {"Side plate", "Spacer", "Rail", "Guard"})
        p = must(edit::add_block(p, name, {std::string(name) == "Guard" ? 240.0 : 160.0, 80, t}, "s235",
                                 "milled"));
    p = must(edit::add_block(p, "Label", {40, 30, 1.5}, "aluminium-soft", "milled"));
    p = must(edit::add_block(p, "Cover", {50, 60, t}, "aluminium", "milled"));
    const auto kind = [](const char* key, const char* parameter, const Value& value) {
        return *kind::with_parameter(*kind::kind_named(key), parameter, value);
    };
    Joint bolts{.name = "Frame bolts",
                .kind = kind("bolt_with_nut", "thread", inches ? "3/8-16UNC" : "M8"),
                .places = {{-60, 0}, {60, 0}}};
    for (const auto* part : {"guard", "rail", "spacer", "side-plate"})
        bolts.members.push_back({{part}, {"top"}});
    p = must(edit::add_joint(p, bolts));
    p = must(edit::add_joint(
        p, {.name = "Guard rivets",
            .kind = *kind::kind_named("solid_rivet"),
            .members = {{{"label"}, {"top"}}, {{"guard"}, {"top"}, {100, 0}}}, // beyond the rail below
            .places = {{-14, 0}, {14, 0}}}));
    return must(edit::add_joint(p, {.name = "Cover screws",
                                    .kind = kind("countersunk_screw", "thread", inches ? "1/4-20UNC" : "M6"),
                                    .members = {{{"cover"}, {"top"}}, {{"side-plate"}, {"bottom"}}},
                                    .places = {{0, -20}, {0, 20}}}));
}

}

TEST_CASE("pictures", "[.pictures]") {
    const QDir folder(qEnvironmentVariable("KOLLEMA_PICTURES", KOLLEMA_SOURCE_DIR "/docs/screenshots"));
    const auto shoot = [&](QWidget& widget, const char* name) {
        QTest::qWait(250);
        REQUIRE(widget.grab().save(folder.filePath(name)));
    };
    Window w;
    w.choose("rail-screws");
    shoot(w.window, "main-window.png");
    w.find<QComboBox>("thread")->setCurrentText("M8");
    w.settle();
    w.choose_finding("Take length");
    for (auto* button : w.window.findChildren<QPushButton*>("preview"))
        if (button->accessibleDescription().contains("length")) QTest::mouseClick(button, Qt::LeftButton);
    QTest::qWait(800);
    shoot(w.window, "edit-and-preview.png");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    w.choose("block-dowels");
    w.keys(Qt::Key_D, Qt::ControlModifier);
    w.keys(Qt::Key_I, Qt::ControlModifier);
    w.type("slip_zone", "Q99");
    shoot(w.window, "dark-inches-refusal.png");
    w.keys(Qt::Key_D, Qt::ControlModifier);
    w.keys(Qt::Key_I, Qt::ControlModifier);
    const auto bench = [&](const char* pair, int sheet, const char* name) {
        w.window.show_view(desktop::MainWindow::bench_view);
        w.find<desktop::FitBench>()->choose({pair});
        w.find<desktop::FitBench>()->show_sheet(sheet);
        shoot(w.window, name);
    };
    bench("pivot-in-bush", 0, "bench-play.png");
    bench("bush-in-arm", 1, "bench-press.png");
    bench("idler-seat", 2, "bench-bearing.png");
    bench("drive-pulley", 3, "bench-advice.png");
    bench("motor-register", 4, "bench-processes.png");
    w.keys(Qt::Key_D, Qt::ControlModifier);
    w.keys(Qt::Key_I, Qt::ControlModifier);
    bench("bush-in-arm", 0, "bench-dark-inches.png");
    w.keys(Qt::Key_D, Qt::ControlModifier);
    w.keys(Qt::Key_I, Qt::ControlModifier);
    w.window.show_view(desktop::MainWindow::hardware_view);
    w.find<QLineEdit>("hardware_words")->setText("m8");
    w.find<desktop::HardwareFinder>()->choose_among("ISO 4762", "M8");
    shoot(w.window, "hardware.png");
    w.find<desktop::HardwareFinder>()->choose("DIN 471", "20");
    shoot(w.window, "hardware-ring.png");
    if (!qEnvironmentVariableIsEmpty("KOLLEMA_ALL_PIECES"))
        for (const auto& kind : standards::hardware_list()) {
            desktop::PieceView view;
            view.resize(420, 300);
            view.show_piece(
                piece::view_of(*standards::hardware(kind.standard, kind.sizes[kind.sizes.size() / 2])),
                LengthUnit::mm);
            QString name = desktop::qt(kind.standard).replace(' ', '_').replace('/', '_');
            REQUIRE(view.grab().save(folder.filePath("piece_" + name + ".png")));
        }
    w.window.show_view(desktop::MainWindow::joints_view);
    for (const bool inches : {false, true}) { // a frame of four plates: bolts, rivets, countersunk screws
        if (inches) w.keys(Qt::Key_I, Qt::ControlModifier);
        w.window.document().open(frame_of_plates(inches), {});
        w.settle();
        w.choose(inches ? "cover-screws" : "guard-rivets");
        shoot(w.window, inches ? "joint-countersunk-inches.png" : "joint-rivets.png");
        w.choose("frame-bolts");
        if (!inches) shoot(w.window, "joint-bolts.png");
        if (inches) w.keys(Qt::Key_I, Qt::ControlModifier);
    }
    w.window.document().open(Project{.name = "New project"}, {});
    w.window.document().apply(
        "Add", edit::add_block(w.project(), "Base plate", {160, 90, 20}, "aluminium", "milled"));
    w.settle();
    shoot(w.window, "first-parts.png");
    w.window.open_demo();
    w.settle();
    desktop::WorkingDialog working("Rail screws", desktop::working_of(w.project(), {"rail-screws"}),
                                   &w.window);
    working.show();
    shoot(working, "working.png");
}
