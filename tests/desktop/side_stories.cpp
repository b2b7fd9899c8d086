#include "driver.hpp"
#include "file/project_file.hpp"
#include "gap_view.hpp"
#include "places.hpp"
#include "section_view.hpp"
#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QMenu>
#include <QMessageBox>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTimer>

using namespace kollema;
using namespace kollema::test;

namespace {

QLineEdit* line(QWidget* form, const QString& name) {
    for (auto* edit : form->findChildren<QLineEdit*>())
        if (edit->accessibleName().startsWith(name)) return edit;
    FAIL("no field " << name.toStdString());
    return nullptr;
}

QComboBox* choice(QWidget* form, const QString& name) {
    for (auto* box : form->findChildren<QComboBox*>())
        if (box->accessibleName().startsWith(name)) return box;
    FAIL("no choice " << name.toStdString());
    return nullptr;
}

void confirm(QWidget* form) { QTest::mouseClick(form->findChild<QPushButton*>("primary"), Qt::LeftButton); }

/// Opens a form by its keys and lets `fill` work in it.
void in_form(Window& w, Qt::Key key, const std::function<void(QWidget*)>& fill) {
    with_dialog(&w.window, fill);
    w.keys(key, Qt::ControlModifier);
}

void add_block(Window& w, const QString& name, const QString& length, const QString& width,
               const QString& height) {
    in_form(w, Qt::Key_B, [&](QWidget* form) {
        line(form, "Name")->setText(name);
        line(form, "Length")->setText(length);
        line(form, "Width")->setText(width);
        line(form, "Height")->setText(height);
        confirm(form);
    });
}

}

TEST_CASE("a bolt with nut through four plates: length and holes follow a thickness, and go back",
          "[window]") {
    Window w;
    const bool inches = GENERATE(false, true);
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    if (inches) w.keys(Qt::Key_I, Qt::ControlModifier);
    for (const auto* name : {"Side plate", "Spacer", "Rail", "Guard"})
        add_block(w, name, inches ? "5" : "120", inches ? "3" : "80", inches ? "1/4" : "8");
    w.join("Frame bolts", "clamp", "Bolts with nuts",
           {{"guard", "top"}, {"rail", "top"}, {"spacer", "top"}, {"side-plate", "top"}},
           inches ? "-1.5, 0; 1.5, 0" : "-40, 0; 40, 0");
    REQUIRE(w.project().joints.size() == 1);
    REQUIRE(w.project().joints.front().members.size() == 4);
    if (inches) w.find<QComboBox>("thread")->setCurrentText("3/8-16UNC");
    w.settle();
    const auto design = [&] { return *w.results().checked.placement.designs.at({"frame-bolts"}); };
    // 32 + 2·1.6 + 6.8 + 1.25 = 43.25 and ISO 888; in inches 1 + 2·0.065 + 0.337 + 1/16 = 1.53 and quarters.
    CHECK(design().pieces.front().length_mm == Approx(inches ? 1.75 * 25.4 : 45).epsilon(1e-12));
    CHECK(design().pieces.size() == 4); // nut and two washers
    const Project before = w.project();
    w.type("thickness:spacer", inches ? "3/4" : "16");
    w.settle();
    CHECK(design().pieces.front().length_mm == Approx(inches ? 2.25 * 25.4 : 55).epsilon(1e-12));
    CHECK(w.find<QLabel>("consequences")->toolTip().contains(inches ? "1.75 in" : "45"));
    w.find<QComboBox>("thread")->setCurrentText(inches ? "1/2-13UNC" : "M10");
    w.settle();
    for (const auto* part : {"side-plate", "spacer", "rail", "guard"})
        for (const auto& feature : kollema::find(w.project(), PartId{part})->features)
            if (const auto* hole =
                    std::get_if<Hole>(&feature.shape)) // ISO 273 and ASME B18.2.8, medium and normal
                CHECK(hole->diameter_mm == Approx(inches ? 0.562 * 25.4 : 11).epsilon(2e-3));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project() == before);
    CHECK(w.findings_of("clamps-only") == 1); // a note: nothing asks where the plates stand
    if (inches) w.keys(Qt::Key_I, Qt::ControlModifier);
}

TEST_CASE("a project from nothing: two parts, screwed and doweled, a gap, saved", "[window]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    CHECK(w.project().parts.empty());
    in_form(w, Qt::Key_B, [&](QWidget* form) { // a negative size is refused in the form, which stays open
        line(form, "Length")->setText("-5");
        confirm(form);
        CHECK(form->findChild<QLabel*>("refusal")->isVisible());
        static_cast<QDialog*>(form)->reject();
    });
    CHECK(w.project().parts.empty());
    add_block(w, "Foot", "120", "60+20", "3/4 in");
    add_block(w, "Tower", "40", "60", "25");
    REQUIRE(w.project().parts.size() == 2);
    CHECK(w.project().instances.front().grounded);
    CHECK(w.findings_of("loose-part") == 1);
    w.join("Bolts", "clamp", "Cap screws", {{"tower", "top"}, {"foot", "top"}}, "8, -20; 8, 20");
    w.join("Pins", "locate", "Dowel pins", {{"tower", "top"}, {"foot", "top"}}, "-8, -18; -8, 18");
    REQUIRE(w.project().joints.size() == 2);
    CHECK(w.findings_of("loose-part") == 0);
    CHECK(w.findings_of("clamps-only") == 0);
    in_form(w, Qt::Key_G, [&](QWidget* form) {
        line(form, "Name")->setText("Overhang");
        choice(form, "From")->setCurrentText("Foot: left");
        choice(form, "To")->setCurrentText("Tower: left");
        line(form, "At least")->setText("39");
        line(form, "At most")->setText("41");
        confirm(form);
    });
    REQUIRE(w.project().requirements.size() == 1);
    CHECK(w.results().gaps.front()->result->value().nominal ==
          Approx(40).epsilon(1e-9)); // 60 − 20, positive whichever face is named first
    CHECK(w.yield() > 0.99);
    CHECK_FALSE(first_defect(w.project()));
    CHECK(*file::from_json(file::to_json(w.project()), "x") == w.project());
}

TEST_CASE("a picture of the section and the list of contributors can be taken along", "[window]") {
    Window w;
    w.choose("rail-screws");
    REQUIRE(QTest::qWaitFor([&] { return !w.find<desktop::SectionView>()->is_outdated(); }, 20'000));
    const QString text = QString::fromUtf8(w.find<desktop::SectionView>()->svg());
    CHECK(text.contains("<svg"));
    CHECK(text.contains("engagement 3.4"));
    auto* gap = w.find<desktop::GapView>();
    auto* table = gap->findChild<QTableWidget*>();
    REQUIRE_FALSE(table->actions().isEmpty());
    table->actions().front()->trigger();
    const QStringList lines = QApplication::clipboard()->text().trimmed().split('\n');
    CHECK(lines.size() == table->rowCount() + 1);
    CHECK(lines.front() == "contributor,tolerance,variance share,worst case share");
    CHECK(lines[1].startsWith("\"Rail screws"));
}

TEST_CASE("files opened before are offered again", "[window]") {
    Window w;
    const QTemporaryDir folder;
    const QString path = folder.filePath("again.kollema");
    REQUIRE(file::save(w.project(), path.toStdString()));
    REQUIRE(w.window.open_file(path));
    w.window.open_demo();
    const auto trigger_recent = [&] {
        for (auto* menu : w.window.findChildren<QMenu*>())
            for (auto* action : menu->actions())
                if (action->text().startsWith("again.kollema")) return action->trigger();
        FAIL("it is not offered");
    };
    trigger_recent();
    CHECK(QTest::qWaitFor([&] { return w.window.windowTitle().startsWith("again.kollema"); }));
    QFile::remove(path);
    trigger_recent(); // gone since: said, and nothing lost
    CHECK(QTest::qWaitFor([&] { return w.refusal().contains("no such file"); }));
}

TEST_CASE("unsaved work is not lost without a question", "[window]") {
    Window w;
    w.choose("rail-screws");
    w.type("thickness:stop-rail", "24");
    const Project changed = w.project();
    QString buttons;
    const auto answer = [&](const QString& with) {
        with_dialog(&w.window, [&buttons, with](QWidget* question) {
            for (auto* button : question->findChildren<QPushButton*>()) {
                buttons += button->text() + ";";
                if (button->text() == with) QTest::mouseClick(button, Qt::LeftButton);
            }
        });
    };
    answer("Stay here");
    CHECK_FALSE(w.window.close());
    CHECK(buttons.contains("Save them"));
    CHECK(w.project() == changed);
    answer("Discard them");
    w.keys(Qt::Key_N, Qt::ControlModifier);
    CHECK(w.project().parts.empty());
}

TEST_CASE("limits can be opened to one side and closed again", "[window]") {
    Window w;
    w.type("upper_limit", "");
    CHECK_FALSE(w.project().requirements.front().upper_mm);
    CHECK(w.results().gaps.front()->result->value().distribution.above == 0);
    w.type("upper_limit", "25 + 0.4");
    CHECK(w.project().requirements.front().upper_mm == Approx(25.4).epsilon(1e-9));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(w.project().requirements.front().upper_mm);
    QTest::keyClicks(w.find<QLineEdit>("upper_limit"), "99"); // not confirmed when the window goes: no harm
}

TEST_CASE("a large file is read beside the window, and says when it is broken", "[window]") {
    const QTemporaryDir folder;
    const auto write = [&](const char* name, QByteArray text) {
        QFile file(folder.filePath(name));
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write(text);
        return file.fileName();
    };
    QFile demo(QString::fromStdString(in_source("data/demo/fruit-sorter.kollema")));
    REQUIRE(demo.open(QIODevice::ReadOnly));
    const QByteArray text = demo.readAll(), room(5 << 20, ' '); // blanks are no part of a project
    Window w;
    const Project before = w.project();
    w.window.document().open(Project{.name = "Other"}, {});
    CHECK(w.window.open_file(write("large.kollema", text + room)));
    CHECK(w.project() == before);
    w.settle();
    CHECK_FALSE(w.window.open_file(write("broken.kollema", text.chopped(10) + room)));
    CHECK(w.refusal().contains("not a complete JSON document"));
    CHECK(w.project() == before);
}
