// What a person may rely on: a field that is typed into stays, nothing typed is lost, and what fails says so.
#include "background/job.hpp"
#include "driver.hpp"
#include "file/project_file.hpp"
#include "first_steps.hpp"
#include "gap_view.hpp"
#include "lines_edit.hpp"
#include "one_of.hpp"
#include "places.hpp"
#include "value_edit.hpp"
#include <QClipboard>
#include <QContextMenuEvent>
#include <QMenu>
#include <QMessageBox>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolTip>
#include <stdexcept>

using namespace kollema;
using namespace kollema::test;
using desktop::Job;
using desktop::Ticket;

namespace {

/// Letters into a field that has the focus, without its last word.
QLineEdit* begin_typing(Window& w, const char* name, const QString& text) {
    auto* field = w.find<QLineEdit>(name);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, text);
    return field;
}

/// An edit from elsewhere, whose results are still to come.
void edit_elsewhere(Window& w, const char* clearance) {
    auto& document = w.window.document();
    REQUIRE(document.apply("elsewhere", edit::set_parameter(document.project(), {"rail-screws"}, "clearance",
                                                            std::string(clearance))));
}

double upper_limit(const Window& w) { return *w.project().requirements.front().upper_mm; }

}

TEST_CASE("a field that is typed into stays when results arrive; Esc takes it back", "[window][alive]") {
    Window w;
    w.choose("rail-screws");
    std::vector<const char*> names{"upper_limit", "thickness:stop-rail", "asked_at"};
    if (one_of > 1) names.resize(1); // each waits twice for all results of the demo
    for (const char* name : names) {
        CAPTURE(name);
        const QString held = w.find<QLineEdit>(name)->text();
        auto* field = begin_typing(w, name, "24.7");
        edit_elsewhere(w, "fine");
        w.settle();
        REQUIRE(QTest::qWaitFor([&] { return w.window.is_settled(); }, 60'000));
        QTest::keyClicks(field, "5");
        edit_elsewhere(w, "medium");
        w.settle();
        CHECK(field->text() == "24.75");
        CHECK(field->hasFocus());
        QTest::keyClick(field, Qt::Key_Escape);
        CHECK(field->text() == held);
        CHECK_FALSE(field->isModified());
    }
}

TEST_CASE("what is being typed is saved, kept by another view, and asked about before it is lost",
          "[window]") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("typed.kollema");
    REQUIRE(file::save(*file::load(in_source("data/demo/fruit-sorter.kollema")), path.toStdString()));
    Window w(path);
    begin_typing(w, "upper_limit", "25.75");
    w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(*file::load(path.toStdString())->requirements.front().upper_mm == 25.75);
    CHECK(w.window.document().undo_stack().isClean());

    begin_typing(w, "upper_limit", "25.5");
    w.keys(Qt::Key_F9);
    CHECK(upper_limit(w) == 25.5);
    w.keys(Qt::Key_F2);

    // One that cannot be read is neither dropped nor saved: the view stays and says why.
    begin_typing(w, "upper_limit", "wide");
    w.keys(Qt::Key_F9);
    CHECK_FALSE(w.refusal().isEmpty());
    CHECK(w.find<QLineEdit>("upper_limit")->isVisible());
    CHECK(upper_limit(w) == 25.5);

    begin_typing(w, "upper_limit", "25.25");
    QString asked;
    with_dialog(&w.window, [&](QWidget* dialog) {
        asked = qobject_cast<QMessageBox*>(dialog)->text();
        QTest::keyClick(dialog, Qt::Key_Escape); // stay here
    });
    w.window.close();
    CHECK(asked.contains("not saved"));
    CHECK(w.window.isVisible());
    CHECK(upper_limit(w) == 25.25);
}

TEST_CASE("typed for one joint, taken for that joint though another is chosen", "[window]") {
    Window w;
    w.choose("rail-screws");
    begin_typing(w, "thickness:stop-rail", "23");
    w.choose("block-screws");
    const auto size = [&](const char* part) {
        return std::get<Block>(kollema::find(w.project(), PartId{part})->body.one()).height_mm;
    };
    CHECK(size("stop-rail") == 23);
    CHECK(size("bearing-block") != 23);
}

TEST_CASE("limits typed into a contributor's cell are read as typed, or refused with a word", "[window]") {
    Window w;
    auto* table = w.find<desktop::GapView>()->findChild<QTableWidget*>();
    const auto row_of_dimension = [&] {
        for (int row = 0; row < table->rowCount(); ++row)
            if (table->item(row, 1)->flags() & Qt::ItemIsEditable) return row;
        return -1;
    };
    const int row = row_of_dimension();
    REQUIRE(row >= 0);
    const PartId part{table->item(row, 1)->data(Qt::UserRole + 2).toString().toStdString()};
    const DimensionId id{table->item(row, 1)->data(Qt::UserRole + 3).toString().toStdString()};
    const auto dimension = [&] { return *kollema::find(w.project(), part)->dimensions.find(id); };
    const auto type = [&](const QString& text) {
        w.settle();
        int at = 0;
        while (table->item(at, 1)->data(Qt::UserRole + 3).toString().toStdString() != id.text)
            ++at;
        table->setFocus();
        table->setCurrentCell(at, 1);
        table->editItem(table->item(at, 1));
        auto* editor = table->viewport()->findChild<QLineEdit*>();
        REQUIRE(editor);
        editor->selectAll();
        QTest::keyClicks(editor, text);
        edit_elsewhere(w, text.size() % 2 ? "fine" : "medium"); // results arrive meanwhile
        w.settle();
        QApplication::processEvents();
        REQUIRE(table->viewport()->findChild<QLineEdit*>() == editor);
        CHECK(editor->text() == text);
        QTest::keyClick(editor, Qt::Key_Return);
        QTest::qWait(0); // a cell's editor says its word when the key is through
        w.settle();
    };
    struct Case {
        const char* text;
        double plus, minus;
    };
    for (const auto& c : {Case{"0/-0.05", 0, -0.05},
                          {"+0.05/+0.02", 0.05, 0.02},
                          {"0.03", 0.03, -0.03},
                          {"+0.005 -0.002 in", 0.127, -0.0508}}) {
        CAPTURE(c.text);
        type(c.text);
        CHECK(dimension().plus_mm == Approx(c.plus).margin(1e-12));
        CHECK(dimension().minus_mm == Approx(c.minus).margin(1e-12));
    }
    const auto before = dimension();
    for (const char* text : {"0.05 - 0.02", "0.02/0.05", "0,1", "-0.1"}) {
        CAPTURE(text);
        type(text);
        CHECK(dimension() == before);
        CHECK_FALSE(w.refusal().isEmpty());
    }
}

TEST_CASE("the command finder lists what is there when results arrive under it", "[window][alive]") {
    Window w;
    edit_elsewhere(w, "fine");
    int left = 0;
    with_dialog(&w.window, [&](QWidget* dialog) {
        auto* words = dialog->findChild<QLineEdit*>("finder_words");
        QTest::keyClicks(words, "r");
        REQUIRE(QTest::qWaitFor([&] { return w.window.document().up_to_date(); }, 60'000));
        QTest::keyClicks(words, "ail sect");
        left = dialog->findChild<QListWidget*>()->count();
        QTest::keyClick(words, Qt::Key_Return);
    });
    w.keys(Qt::Key_Space, Qt::ControlModifier);
    CHECK(left == 1);
    CHECK(w.find<desktop::JointMap>()->chosen().text == "rail-screws");
}

TEST_CASE("a middle click into the loops with nothing selected anywhere pastes nothing", "[window][alive]") {
    Window w;
    w.keys(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    auto* closing = w.find<desktop::LinesEdit>("chain_closing");
    if (QApplication::clipboard()->supportsSelection())
        QApplication::clipboard()->clear(QClipboard::Selection);
    closing->setFocus();
    QTest::mouseClick(closing->viewport(), Qt::MiddleButton, {}, {5, 5});
    CHECK(closing->toPlainText().isEmpty());
}

TEST_CASE("a window without a project offers its first steps at once", "[window]") {
    desktop::MainWindow window;
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    CHECK(window.findChild<desktop::FirstSteps*>()->isVisible());
}

TEST_CASE("inches reach the places at which parts are joined", "[window]") {
    Window w;
    w.keys(Qt::Key_T, Qt::ControlModifier);
    w.take_seat("base-plate", "top");
    auto* at = w.find<QLineEdit>("seat_at");
    w.type("seat_at", "25.4, -12.7");
    w.type("join_places", "0, 0; 50.8, 0");
    w.keys(Qt::Key_I, Qt::ControlModifier);
    CHECK(at->text() == "1, -0.5");
    CHECK(w.find<QLineEdit>("join_places")->text() == "0, 0; 2, 0");
    w.type("seat_at", "1, 0.5");
    CHECK(at->text() == "1, 0.5");
    w.keys(Qt::Key_I, Qt::ControlModifier);
    CHECK(at->text() == "25.4, 12.7");
    w.type("seat_at", "2,5");
    CHECK(at->text() == "25.4, 12.7"); // a decimal comma, or two numbers: refused
    CHECK(w.find<QLabel>("would_be")->text().contains("comma"));
}

TEST_CASE("names are plain text wherever they stand", "[window]") {
    Window w;
    Project p = w.project();
    const std::string name = "<b>Rail</b> & <img src='/etc/hostname'>";
    p.joints.find({"rail-screws"})->name = name;
    w.window.document().open(p, {});
    w.settle();
    w.choose("rail-screws");
    const auto says_it = [&](const QLabel* label) { return label->text().contains("<b>Rail</b>"); };
    int seen = 0;
    for (const auto* label : w.window.findChildren<QLabel*>())
        if (label->isVisible() && says_it(label)) {
            ++seen;
            CHECK(label->textFormat() == Qt::PlainText);
        }
    CHECK(seen > 0);
    QToolTip::showText({20, 20}, "<b>Rail</b>");
    int tips = 0;
    for (auto* widget : QApplication::topLevelWidgets())
        if (const auto* tip = qobject_cast<QLabel*>(widget); tip && tip->text() == "<b>Rail</b>") {
            ++tips;
            CHECK(tip->textFormat() == Qt::PlainText);
        }
    CHECK(tips == 1);
    QToolTip::hideText();
}

TEST_CASE("work elsewhere: the last answer counts, what fails is told, nothing waits for ever",
          "[presenter]") {
    Job job;
    QSignalSpy failed(&job, &Job::failed);
    std::vector<int> taken;
    const auto take = [&](int answer) { taken.push_back(answer); };
    const auto ends = [&] { return QTest::qWaitFor([&] { return !job.is_running(); }, 20'000); };

    job.start<int>([](const Ticket&) -> int { throw std::runtime_error("no bolt is that long"); }, take);
    CHECK(job.is_running());
    REQUIRE(ends());
    REQUIRE(failed.size() == 1);
    CHECK(failed[0][0].toString().contains("no bolt is that long"));
    CHECK(taken.empty());

    // One that is replaced ends when it looks at its ticket, and its answer is dropped.
    std::atomic<bool> stopped = false;
    job.start<int>(
        [&](const Ticket& ticket) {
            while (ticket.is_wanted())
                ticket.tell_progress(0.5);
            stopped = true;
            return 1;
        },
        take);
    REQUIRE(QTest::qWaitFor([&] { return job.progress() == 0.5; }, 20'000));
    job.start<int>([](const Ticket&) { return 2; }, take);
    REQUIRE(ends());
    CHECK(stopped);
    CHECK(taken == std::vector{2});

    // A receiver that fails is told as well; the next computation is as good as any.
    job.start<int>([](const Ticket&) { return 3; }, [](int) { throw std::out_of_range("map::at"); });
    REQUIRE(ends());
    CHECK(failed.size() == 2);
    job.start<int>([](const Ticket&) { return 4; }, take);
    job.stop();
    job.start<int>([](const Ticket&) { return 5; }, take);
    REQUIRE(ends());
    CHECK(taken == std::vector{2, 5});
    CHECK(failed.size() == 2);
}

TEST_CASE("the window fits a small screen", "[window]") {
    Window w;
    const auto fits = [&] {
        w.window.resize(1024, 768);
        for (int i = 0; i < 3; ++i) // narrower columns make more rows
            QApplication::processEvents();
        CHECK(w.window.width() <= 1024);
        CHECK(w.window.height() <= 768);
    };
    for (const auto key : {Qt::Key_F3, Qt::Key_F4, Qt::Key_F5, Qt::Key_F9, Qt::Key_F2}) {
        w.keys(key);
        fits();
    }
    const auto project = w.project();
    for (const auto& joint : project.joints) {
        CAPTURE(joint.id.text);
        w.choose(joint.id.text.c_str());
        w.settle();
        fits();
    }
}

TEST_CASE("what is hidden while it turns dark is dark when it is shown, and light again", "[window]") {
    Window w;
    const auto looks = [&](Qt::Key view) {
        w.keys(view);
        QApplication::processEvents();
        const QPixmap seen = w.window.grab();
        return seen.toImage().pixelColor(seen.width() / 2, seen.height() - 3).lightness();
    };
    const std::array views{Qt::Key_F2, Qt::Key_F3, Qt::Key_F4, Qt::Key_F9};
    for (const auto view : views) // shown once, so that each has its look
        CHECK(looks(view) > 150);
    w.keys(Qt::Key_D, Qt::ControlModifier);
    for (const auto view : views)
        CHECK(looks(view) < 100);
    with_dialog(&w.window, [](QWidget* dialog) {
        CHECK(dialog->grab().toImage().pixelColor(3, 3).lightness() < 100);
        dialog->close();
    });
    w.keys(Qt::Key_Space, Qt::ControlModifier);
    w.keys(Qt::Key_D, Qt::ControlModifier);
    for (const auto view : views)
        CHECK(looks(view) > 150);
}

TEST_CASE("what is meant to come off is said on the map, by keys and by mouse, and undone", "[window]") {
    Window w;
    w.choose("bush-seat");
    auto* map = w.find<desktop::JointMap>();
    const auto meant = [&] { return kollema::find(w.project(), InstanceId{"arm-bush"})->may_come_off; };
    const auto found = [&] {
        w.settle();
        return std::ranges::count(w.results().findings, "comes-off", &check::Finding::rule);
    };
    const auto before = found();
    REQUIRE(before > 0);
    const auto asked = [&](QContextMenuEvent::Reason reason, const QPoint& at) {
        QContextMenuEvent event(reason, at, map->mapToGlobal(at));
        QApplication::sendEvent(map, &event);
        auto* menu = map->findChild<QMenu*>();
        return menu && menu->isVisible() ? menu : nullptr;
    };
    const auto close = [&](QMenu* menu) {
        menu->close();
        QTest::qWait(1); // it goes when the events do
        QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    };
    auto* menu = asked(QContextMenuEvent::Keyboard, {5, 5}); // the parts of the chosen joint
    REQUIRE(menu);
    REQUIRE(menu->actions().size() == 2);
    CHECK(menu->actions()[1]->text() == "Arm bush is meant to come off");
    CHECK_FALSE(menu->actions()[1]->isChecked());
    menu->setActiveAction(menu->actions()[1]);
    QTest::keyClick(menu, Qt::Key_Return);
    close(menu);
    CHECK(meant());
    CHECK(found() == before - 1);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(meant());
    CHECK(found() == before);
    // The part under the mouse, wherever it stands on the map.
    bool by_mouse = false;
    for (int y = 8; y < map->height() && !by_mouse; y += 12)
        for (int x = 8; x < map->width() && !by_mouse; x += 20)
            if (auto* there = asked(QContextMenuEvent::Mouse, {x, y})) {
                REQUIRE(there->actions().size() == 1);
                if (there->actions()[0]->text().startsWith("Arm bush")) {
                    QTest::mouseClick(there, Qt::LeftButton, {},
                                      there->actionGeometry(there->actions()[0]).center());
                    by_mouse = true;
                }
                close(there);
            }
    CHECK(by_mouse);
    CHECK(meant());
}
