// Writes the pictures of docs/screenshots from the demo: ./run screenshots.  Hidden: not part of the tests.
#include "assembly_view.hpp"
#include "command_finder.hpp"
#include "driver.hpp"
#include "edit/edits.hpp"
#include "fit_bench.hpp"
#include "hardware_finder.hpp"
#include "piece_view.hpp"
#include "places.hpp"
#include "presenter/figures.hpp"
#include "section_view.hpp"
#include "taper_dialog.hpp"
#include "working_dialog.hpp"
#include <QDir>
#include <QListWidget>
#include <QToolButton>

using namespace kollema;
using namespace kollema::test;

TEST_CASE("pictures in space", "[.pictures]") {
    const QDir folder(
        qEnvironmentVariable("KOLLEMA_PICTURES", QString::fromStdString(in_source("docs/screenshots"))));
    Window w;
    const auto shoot = [&](const char* name) {
        REQUIRE(QTest::qWaitFor([&] { return !w.find<desktop::SectionView>()->is_outdated(); }, 20'000));
        QTest::qWait(400);
        REQUIRE(w.window.grab().save(folder.filePath(name)));
    };
    w.choose("inner-bearing");
    shoot("joint-bearing.png");
    w.choose("pulley-key");
    shoot("joint-key.png");
    w.window.show_view(desktop::MainWindow::assembly_view);
    auto* picture = w.find<desktop::AssemblyPicture>();
    REQUIRE(QTest::qWaitFor([&] { return picture->scene() && !picture->scene()->bodies.empty(); }, 20'000));
    picture->look_from(geometry::Side::slanted);
    picture->set_names(true);
    shoot("assembly.png");
    picture->set_names(false);
    w.choose("idler-ring");
    w.find<QComboBox>("cut")->setCurrentIndex(2);
    picture->set_cut(2);
    picture->look_from(geometry::Side::front);
    shoot("assembly-cut.png");
    // The seats of the register again, and how they could be joined.
    w.find<QComboBox>("cut")->setCurrentIndex(0);
    picture->set_cut(0);
    picture->look_from(geometry::Side::slanted);
    w.take_seat("motor-plate", "wall-front");
    w.take_seat("drive-motor", "step-3");
    w.find<QComboBox>("joint_duty")->setCurrentIndex(w.find<QComboBox>("joint_duty")->findData("locate"));
    QTest::qWait(1500);
    shoot("joining.png");
}

TEST_CASE("picture of stacks", "[.pictures][.stacks]") {
    const QDir folder(
        qEnvironmentVariable("KOLLEMA_PICTURES", QString::fromStdString(in_source("docs/screenshots"))));
    Window w;
    w.window.show_view(desktop::MainWindow::stacks_view);
    REQUIRE(QTest::qWaitFor([&] { return w.window.is_settled(); }, 60'000));
    QTest::qWait(300);
    REQUIRE(w.window.grab().save(folder.filePath("stacks.png")));
    auto* list = w.find<QListWidget>("chains");
    const auto show = [&](const QString& text, const QString& file) {
        int row = 0;
        while (row < list->count() && !list->item(row)->text().contains(text))
            ++row;
        if (row == list->count()) return;
        list->setCurrentRow(row);
        REQUIRE(QTest::qWaitFor([&] { return w.window.is_settled(); }, 60'000));
        QTest::qWait(300);
        REQUIRE(w.window.grab().save(folder.filePath(file)));
    };
    show("Guard on the motor plate", "pattern.png");
    show("Idler over its guard", "loop.png");
}

TEST_CASE("picture of the gallery", "[.pictures]") {
    const QDir folder(
        qEnvironmentVariable("KOLLEMA_PICTURES", QString::fromStdString(in_source("docs/screenshots"))));
    Window w;
    with_dialog(&w.window, [&](QWidget* dialog) {
        auto* shapes = dialog->findChild<QListWidget*>();
        shapes->setCurrentRow(5);
        QTest::qWait(300);
        CHECK(dialog->grab().save(folder.filePath("part-gallery.png")));
        dialog->close();
    });
    w.keys(Qt::Key_B, Qt::ControlModifier);
}

TEST_CASE("pictures", "[.pictures]") {
    const QDir folder(
        qEnvironmentVariable("KOLLEMA_PICTURES", QString::fromStdString(in_source("docs/screenshots"))));
    const auto shoot = [&](QWidget& widget, const char* name) {
        auto* section = widget.findChild<desktop::SectionView*>();
        REQUIRE(QTest::qWaitFor([&] { return !section || !section->is_outdated(); }, 20'000));
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
    w.window.show_view(desktop::MainWindow::hardware_view);
    w.find<QLineEdit>("hardware_words")->setText("m8");
    w.find<desktop::HardwareFinder>()->choose_among("ISO 4762", "M8");
    shoot(w.window, "hardware.png");
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
        "Add", edit::add_part(w.project(), "Base plate", Block{160, 90, 20}, "aluminium", "milled"));
    w.settle();
    shoot(w.window, "first-parts.png");
    w.window.open_demo();
    w.settle();
    desktop::WorkingDialog working("Rail screws", desktop::working_of(w.project(), {"rail-screws"}),
                                   &w.window);
    working.show();
    shoot(working, "working.png");
}
