#include "driver.hpp"
#include "file/project_file.hpp"
#include "section_view.hpp"
#include "working_dialog.hpp"
#include <QFile>
#include <QListWidget>
#include <QMenuBar>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTimer>

using namespace kollema;
using namespace kollema::test;

namespace {

/// Types a path into the file dialog that the next key opens, and confirms it.
void answer_file_dialog(Window& w, const QString& path) {
    const auto name_of = [](QWidget* dialog) { return dialog->findChild<QLineEdit*>("fileNameEdit"); };
    with_dialog(
        &w.window,
        [=](QWidget* dialog) {
            name_of(dialog)->setText(path);
            QTest::keyClick(name_of(dialog), Qt::Key_Return);
        },
        [=](QWidget* dialog) { return name_of(dialog) && name_of(dialog)->hasFocus(); });
}

}

TEST_CASE("the main story, by keyboard and mouse: larger screws, what follows, a fix, undo, save, reopen",
          "[window]") {
    Window w;
    const Project original = w.project();
    const double yield_before = w.yield();
    CHECK(w.findings_of("thread-engagement") == 1);

    // F6 leads to the map, the arrows to the rail's screws; F7 to the first figure, the thread; down twice is
    // M8 … M10 … back.
    w.keys(Qt::Key_F6);
    REQUIRE(QTest::qWaitFor([&] { return w.find<desktop::JointMap>()->hasFocus(); }));
    w.keys(Qt::Key_Down);
    w.keys(Qt::Key_Down);
    CHECK(w.find<desktop::JointMap>()->chosen().text == "rail-screws");
    w.keys(Qt::Key_F7);
    auto* thread = w.find<QComboBox>("thread");
    REQUIRE(QTest::qWaitFor([&] { return thread->hasFocus(); }));
    CHECK(thread->currentText() == "M6");
    w.keys(Qt::Key_Down);
    CHECK(thread->currentText() == "M8");

    // Matched holes of both members, the finding and the yield follow.
    CHECK(w.hole("stop-rail", "rail-screws.1.1").diameter_mm == 9);
    CHECK(w.hole("stop-rail", "rail-screws.1.2").counterbore->diameter_mm == 15);
    CHECK(w.hole("base-plate", "rail-screws.2.2").thread->name == "M8");
    CHECK(w.yield() < yield_before - 0.02);
    CHECK(w.findings_of("thread-engagement") == 1);
    CHECK(w.find<QLabel>("consequences")->isVisible());
    CHECK(w.find<QLabel>("consequences")->toolTip().contains("yield"));
    CHECK(w.find<QLabel>("big")->text().contains("%"));

    // A fix, looked at first, then done by a click.
    const Project with_m8 = w.project();
    w.choose_finding("Take length");
    w.press_button("Do it: Take length");
    CHECK(w.findings_of("thread-engagement") == 0);
    CHECK(w.project() != with_m8);
    w.choose_finding("Add two dowels");
    w.press_button("Do it: Add two dowels");
    CHECK(w.yield() > 0.9973);
    const Project mended = w.project();

    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project() == with_m8);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project() == original);
    CHECK(w.yield() == yield_before);
    for (int i = 0; i < 3; ++i)
        w.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.project() == mended);
    const double yield_after = w.yield();

    const QTemporaryDir folder;
    const QString path = folder.filePath("story.kollema");
    CHECK(w.window.windowTitle().contains('*'));
    answer_file_dialog(w, path);
    w.keys(Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK_FALSE(w.window.windowTitle().contains('*'));
    CHECK(QFile::exists(path));
    Window again;
    answer_file_dialog(again, path);
    again.keys(Qt::Key_O, Qt::ControlModifier);
    CHECK(again.project() == mended);
    CHECK(again.yield() == yield_after);
    CHECK(again.results().checked.findings.size() == w.results().checked.findings.size());
    CHECK(again.window.windowTitle().startsWith("story.kollema"));
}

TEST_CASE("a fix shows what it would change before it is done", "[window]") {
    Window w;
    const Project before = w.project();
    w.choose_finding("two dowels");
    for (auto* button : w.window.findChildren<QPushButton*>("preview"))
        if (button->accessibleDescription().contains("two dowels")) QTest::mouseClick(button, Qt::LeftButton);
    const auto shown = [&] {
        for (auto* label : w.window.findChildren<QLabel*>("preview_text"))
            if (label->isVisible() && label->text().contains("yield")) return true;
        return false;
    };
    CHECK(QTest::qWaitFor(shown, 30'000));
    CHECK(QTest::qWaitFor([&] { return w.window.is_settled(); }, 60'000));
    CHECK(shown()); // the solids, compared meanwhile, leave the answer where it is
    CHECK(w.project() == before);
    // An edit takes it away: it told of the project before.
    w.choose("rail-screws");
    w.type("thickness:stop-rail", "23");
    CHECK(w.project() != before);
    w.settle();
    CHECK_FALSE(shown());
}

TEST_CASE("what cannot be is refused with a message and changes nothing", "[window]") {
    Window w;
    w.choose("rail-screws");
    const Project before = w.project();
    for (const auto* text : {"abc", "-5", "0", "", "1/0", "6,6"}) {
        CAPTURE(text);
        w.find<QLabel>("refusal")->hide();
        w.type("thickness:stop-rail", text);
        CHECK(w.project() == before);
        CHECK_FALSE(w.refusal().isEmpty());
        CHECK(w.find<QLineEdit>("thickness:stop-rail")->text() == "22"); // what holds stands there again
    }
    w.choose("block-screws");
    w.type("thickness:bearing-block", "500"); // no standard pin or screw is that long
    CHECK(w.refusal().contains("has no length between"));
    CHECK(w.project() == before);
    w.choose("block-dowels");
    w.type("slip_zone", "Q99");
    CHECK(w.refusal().contains("Q99"));
    w.type("upper_limit", "24");
    CHECK(w.refusal().contains("above"));
    CHECK(w.project() == before);
    w.type("slip_zone", "G7");
    CHECK(w.refusal().isEmpty());
    CHECK(w.hole("bearing-block", "block-dowels.1.1").tolerance.zone == "G7");
}

TEST_CASE("a broken or newer file is refused and the open project stays", "[window]") {
    Window w;
    const Project before = w.project();
    const QTemporaryDir folder;
    const auto write = [&](const QString& name, const QByteArray& text) {
        QFile file(folder.filePath(name));
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write(text);
        return file.fileName();
    };
    for (const auto& [text, why] :
         {std::pair{QByteArray("{\"schema\": "), "JSON"},
          {QByteArray("{\"schema\":\"kollema-project\",\"version\":99}"), "newer"}}) {
        CHECK_FALSE(w.window.open_file(write("x.kollema", text)));
        CHECK(w.refusal().contains(why));
        CHECK(w.project() == before);
    }
    CHECK_FALSE(w.window.open_file(folder.filePath("nothing")));
}

TEST_CASE("expressions with units, inches and the section's figures lead to the same number", "[window]") {
    Window w;
    w.choose("rail-screws");
    w.type("thickness:stop-rail", "7/8 in");
    CHECK(std::get<Block>(kollema::find(w.project(), PartId{"stop-rail"})->body.one()).height_mm ==
          Approx(22.225).margin(1e-12));
    w.keys(Qt::Key_I, Qt::ControlModifier);
    CHECK(w.find<QLineEdit>("thickness:stop-rail")->text() == "0.875");
    CHECK(w.find<QLineEdit>("lower_limit")->text() == "0.97244"); // of 0.97244094…: what means something
    w.type("thickness:stop-rail", "1 - 1/8");
    CHECK(std::get<Block>(kollema::find(w.project(), PartId{"stop-rail"})->body.one()).height_mm ==
          Approx(22.225).margin(1e-12));
    w.settle();
    REQUIRE(QTest::qWaitFor([&] { return !w.find<desktop::SectionView>()->is_outdated(); }, 20'000));
    QSignalSpy clicked(w.find<desktop::SectionView>(), &desktop::SectionView::figure_clicked);
    auto* section = w.find<desktop::SectionView>();
    for (int y = 4; y < section->height() && clicked.isEmpty(); y += 8)
        QTest::mouseClick(section, Qt::LeftButton, {}, {section->width() - 24, y});
    REQUIRE_FALSE(clicked.isEmpty());
    CHECK(QApplication::focusWidget()->parentWidget()->parentWidget() ==
          w.find<desktop::FigureStrip>("joint_figures"));
}

TEST_CASE("a requirement's rules are changed where it stands: rest, decision, place", "[window]") {
    Window w;
    const auto requirement = [&] { return w.project().requirements.front(); };
    const double by_chance = w.yield();
    const auto pick = [&](const char* name, const QString& text) {
        auto* box = w.find<QComboBox>(name);
        box->setFocus();
        const int index = box->findText(text);
        REQUIRE(index >= 0);
        QTest::keyClick(box, Qt::Key_Home);
        for (int i = 0; i < index; ++i)
            QTest::keyClick(box, Qt::Key_Down);
        if (box->currentIndex() == index) emit box->activated(index);
        w.settle();
    };
    pick("resting", "centred");
    CHECK(requirement().resting == Resting::centred);
    CHECK(w.yield() > by_chance);
    pick("decided_by", "worst case");
    CHECK(requirement().decided_by == DecidedBy::worst_case);
    auto* at = w.find<QLineEdit>("asked_at");
    CHECK(at->text() == "0 ; 0");
    at->setFocus();
    at->selectAll();
    QTest::keyClicks(at, "30 ; 0");
    QTest::keyClick(at, Qt::Key_Return);
    w.settle();
    CHECK(requirement().at == Vector2(30, 0));
    at->selectAll();
    QTest::keyClicks(at, "30");
    QTest::keyClick(at, Qt::Key_Return);
    w.settle();
    CHECK(requirement().at == Vector2(30, 0)); // refused, told, nothing changed
    at->selectAll();
    QTest::keyClick(at, Qt::Key_Delete);
    QTest::keyClick(at, Qt::Key_Return);
    w.settle();
    CHECK_FALSE(requirement().at);
}

TEST_CASE("the command finder finds by words and does it", "[window]") {
    Window w;
    with_dialog(&w.window, [](QWidget* dialog) {
        auto* words = dialog->findChild<QLineEdit*>("finder_words");
        QTest::keyClicks(words, "rail sect");
        QTest::keyClick(words, Qt::Key_Return);
    });
    w.keys(Qt::Key_Space, Qt::ControlModifier);
    CHECK(w.find<desktop::JointMap>()->chosen().text == "rail-screws");
}

TEST_CASE("the working of a joint shows every step with its source", "[window]") {
    Window w;
    w.choose("rail-screws");
    int rows = 0;
    bool sources = true;
    with_dialog(&w.window, [&](QWidget* modal) {
        auto* dialog = qobject_cast<desktop::WorkingDialog*>(modal);
        auto* table = dialog->findChild<QTableWidget*>();
        rows = table->rowCount();
        for (int r = 0; r < rows; ++r)
            sources &= !table->item(r, 4)->text().isEmpty();
        dialog->accept();
    });
    w.keys(Qt::Key_W, Qt::ControlModifier);
    CHECK(rows >= 6);
    CHECK(sources);
}

TEST_CASE("a tolerance typed into the list of contributors moves the yield", "[window]") {
    Window w;
    const double before = w.yield();
    QTableWidget* table = nullptr;
    for (auto* t : w.window.findChildren<QTableWidget*>())
        if (t->accessibleName() == "Contributors") table = t;
    REQUIRE(table);
    int row = -1;
    for (int r = 0; r < table->rowCount(); ++r)
        if (table->item(r, 0)->text().contains("screw hole to right face")) row = r;
    REQUIRE(row >= 0);
    table->item(row, 1)->setText("±0.4");
    CHECK(w.yield() < before);
    CHECK(kollema::find(w.project(), PartId{"stop-rail"})->dimensions.front().plus_mm == 0.4);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.yield() == before);
}

TEST_CASE("many edits in a row leave the results of the last one", "[window][alive]") {
    Window w;
    w.choose("rail-screws");
    for (int i = 0; i < 12; ++i)
        for (const auto* thread : {"M8", "M5", "M6"})
            w.find<QComboBox>("thread")->setCurrentText(thread);
    w.settle();
    Window fresh;
    CHECK(w.project() == fresh.project());
    CHECK(w.yield() == fresh.yield());
    CHECK(w.results().checked.findings.size() == fresh.results().checked.findings.size());
}
