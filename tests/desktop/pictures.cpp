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
