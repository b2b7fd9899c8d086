#include "assembly_view.hpp"
#include "driver.hpp"
#include "edit/edits.hpp"
#include "file/project_file.hpp"
#include <QListWidget>
#include <QTemporaryDir>
#include <QToolButton>

using namespace kollema;
using namespace kollema::test;

namespace {

desktop::AssemblyPicture* shown_picture(Window& w) {
    w.window.show_view(desktop::MainWindow::assembly_view);
    auto* picture = w.find<desktop::AssemblyPicture>();
    REQUIRE(QTest::qWaitFor([&] { return picture->scene() && !picture->scene()->bodies.empty(); }, 20'000));
    picture->grab(); // painted once, so that every pixel knows what it shows
    return picture;
}

/// Waits until the picture shows what the project is now.
void see_again(Window& w, desktop::AssemblyPicture* picture) {
    w.settle();
    REQUIRE(QTest::qWaitFor(
        [&] { return picture->scene() && picture->scene()->bodies.size() >= w.project().instances.size(); },
        20'000));
    QTest::qWait(400);
    picture->grab();
}

/// A point of an instance's feature that is seen: in the middle of a face, or on a cylinder towards the
/// viewer.
QPointF place_of(Window& w, const desktop::AssemblyPicture* picture, const char* instance,
                 const Vector3& in_part) {
    return picture->on_screen(w.results().checked.placement.frames.at({instance}).point(in_part));
}

void click(QWidget* widget, const QPointF& at) {
    QTest::mouseClick(widget, Qt::LeftButton, Qt::NoModifier, at.toPoint());
}

/// A plate, a stepped shaft beside it and a ring that will go on it; nothing joined yet but shaft and plate.
Project shaft_and_ring() {
    const auto must = [](Result<Project> p) {
        if (!p) FAIL(in_one_line(p.error()));
        return *p;
    };
    Project p = must(edit::add_part({}, "Plate", Block{120, 80, 12}, "s235", "milled"));
    p = must(edit::add_part(p, "Shaft",
                            shape::TurnedPart{.steps = {{16, 12, "s6", 1}, {28, 6}, {20, 40, "g6", 1, 0.6}}},
                            "c45", "turned"));
    p = must(edit::add_part(
        p, "Hub", shape::Disc{.diameter_mm = 70, .thickness_mm = 14, .bore_mm = 47, .bore_zone = "N7"},
        "aluminium", "turned"));
    return must(edit::add_joint(
        p,
        {.name = "Foot",
         .kind = *kind::with_parameter(*kind::kind_named("shaft_in_bore"), "duty", std::string("is pressed")),
         .members = {{{"plate"}, {"top"}}, {{"shaft"}, {"step-1"}, {0, 0}, 0, true}},
         .places = {{0, 0}}}));
}

}

TEST_CASE("pointing in space: what stands there, turned by hand, and picked where it is", "[space]") {
    Window w;
    auto* picture = shown_picture(w);
    const auto said = [&] { return w.find<QLabel>("pointed")->text(); };
    const auto scene_said = [&] {
        for (const auto* label : w.window.findChildren<QLabel*>())
            if (label->text().contains("pieces of hardware")) return label->text();
        return QString();
    };
    // The middle of the rail's top, and the idler's rim where it looks at the viewer.
    click(picture, place_of(w, picture, "stop-rail", {10, 35, 22}));
    CHECK_THAT(said().toStdString(), Catch::Matchers::StartsWith("Stop rail · "));
    CHECK(QTest::qWaitFor([&] { return said().contains(" kg"); }, 60'000)); // it is weighed after it is shown
    CHECK_THAT(said().toStdString(),
               Catch::Matchers::StartsWith("Stop rail · ") && Catch::Matchers::Contains(" kg · top"));
    QTest::keyClick(&w.window, Qt::Key_I, Qt::ControlModifier);
    CHECK(
        QTest::qWaitFor([&] { return scene_said().contains(QRegularExpression("[0-9] in( |$)")); }, 60'000));
    QTest::keyClick(&w.window, Qt::Key_I, Qt::ControlModifier);
    CHECK(
        QTest::qWaitFor([&] { return scene_said().contains(QRegularExpression("[0-9] mm( |$)")); }, 60'000));
    picture->look_from(geometry::Side::right);
    picture->grab();
    click(picture, place_of(w, picture, "idler-pulley", {0, 25, 20}));
    CHECK_THAT(said().toStdString(),
               Catch::Matchers::StartsWith("Idler pulley · ") && Catch::Matchers::Contains(" kg · back"));
    click(picture, place_of(w, picture, "idler-axle", {3, 0, 41}));
    CHECK_THAT(said().toStdString(),
               Catch::Matchers::StartsWith("Idler axle · ") && Catch::Matchers::Contains(" kg · last end"));
    // A piece of hardware chooses its joint everywhere.
    picture->look_from(geometry::Side::top);
    picture->grab();
    click(picture,
          place_of(w, picture, "stop-rail", {10, 11, 15})); // the head of a screw, in its counterbore
    CHECK(said() == "Rail screws");
    CHECK(w.find<desktop::JointMap>()->chosen().text == "rail-screws");
    // Turning by mouse keeps the picture whole; by keys too.
    const QImage before = picture->grab().toImage();
    QTest::mousePress(picture, Qt::LeftButton, Qt::NoModifier, QPoint(300, 300));
    QTest::mouseMove(picture, QPoint(360, 340));
    QTest::mouseMove(picture, QPoint(380, 350));
    QTest::mouseRelease(picture, Qt::LeftButton, Qt::NoModifier, QPoint(380, 350));
    const QImage turned = picture->grab().toImage();
    CHECK(turned != before);
    picture->setFocus();
    QTest::keyClick(picture, Qt::Key_5);
    QTest::keyClick(picture, Qt::Key_Plus);
    CHECK(picture->grab().toImage() != turned);
    picture->set_cut(2);
    CHECK(!picture->grab().toImage().isNull());
}

TEST_CASE("a part is looked through, taken out, and shown again", "[space]") {
    Window w;
    const JointId before = w.find<desktop::JointMap>()->chosen();
    w.choose("gone-since"); // a finding may still speak of it
    CHECK(w.find<desktop::JointMap>()->chosen() == before);
    auto* picture = shown_picture(w);
    const QImage whole = picture->grab().toImage();
    click(picture, place_of(w, picture, "bearing-block", {25, 10, 32}));
    const QImage lit = picture->grab().toImage();
    CHECK(lit != whole);
    QTest::mouseClick(w.find<QToolButton>("hide"), Qt::LeftButton);
    const QImage hidden = picture->grab().toImage();
    CHECK(hidden != lit);
    click(picture, place_of(w, picture, "bearing-block", {25, 10, 32}));
    CHECK_FALSE(w.find<QLabel>("pointed")->text().startsWith("Bearing block")); // what stands behind it
    picture->choose({"bearing-block"}, {});
    w.find<QComboBox>("assembly_part")
        ->setCurrentIndex(w.find<QComboBox>("assembly_part")->findData("bearing-block"));
    QTest::mouseClick(w.find<QToolButton>("ghost"), Qt::LeftButton);
    CHECK(picture->grab().toImage() != hidden);
    picture->show_all_parts();
    picture->grab();
    click(picture, place_of(w, picture, "bearing-block", {25, 10, 32}));
    CHECK(w.find<QLabel>("pointed")->text().startsWith("Bearing block"));
}

TEST_CASE("a turned part from the gallery: a step more, a size refused, then made", "[space]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    const auto field = [](QWidget* dialog, const QString& name) {
        for (auto* line : dialog->findChildren<QLineEdit*>())
            if (line->accessibleName() == name) return line;
        return static_cast<QLineEdit*>(nullptr);
    };
    with_dialog(&w.window, [&](QWidget* dialog) {
        dialog->findChild<QListWidget*>()->setCurrentRow(1);
        CHECK(field(dialog, "Name")->text() == "Turned part");
        field(dialog, "Name")->setText("Axle");
        field(dialog, "Step 1: diameter")->setText("17");
        field(dialog, "Step 1: length")->setText("24+1/2");
        for (auto* button : dialog->findChildren<QPushButton*>())
            if (button->text() == "One step more") QTest::mouseClick(button, Qt::LeftButton);
        INFO(dialog->findChild<QLabel*>("refusal")->text().toStdString());
        REQUIRE(QTest::qWaitFor([&] { return field(dialog, "Step 2: diameter") != nullptr; }));
        field(dialog, "Step 2: diameter")->setText("-4");
        auto* add = dialog->findChild<QPushButton*>("primary");
        QTest::mouseClick(add, Qt::LeftButton);
        CHECK(dialog->isVisible());
        CHECK(dialog->findChild<QLabel*>("refusal")->isVisible());
        field(dialog, "Step 2: diameter")->setText("21");
        QTest::mouseClick(add, Qt::LeftButton);
    });
    w.keys(Qt::Key_B, Qt::ControlModifier);
    w.settle();
    REQUIRE(w.project().parts.size() == 1);
    const auto sizes = shape::parameters(w.project().parts[0].body);
    const auto size = [&](const char* key) {
        return std::get<double>(std::ranges::find(sizes, key, &Parameter::key)->value);
    };
    CHECK(size("steps/1/diameter") == 17);
    CHECK(size("steps/1/length") == 24.5);
    CHECK(size("steps/2/diameter") == 21);

    // Its sizes can be changed afterwards, and undone.
    shown_picture(w);
    with_dialog(&w.window, [&](QWidget* dialog) {
        field(dialog, "Step 2: diameter")->setText("25");
        QTest::mouseClick(dialog->findChild<QPushButton*>("primary"), Qt::LeftButton);
    });
    QTest::mouseClick(w.find<QToolButton>("sizes"), Qt::LeftButton);
    const auto now = [&] { return shape::parameters(w.project().parts[0].body); };
    const auto second = [&] {
        const auto all = now();
        return std::get<double>(std::ranges::find(all, "steps/2/diameter", &Parameter::key)->value);
    };
    CHECK(second() == 25);
    w.window.document().undo_stack().undo();
    CHECK(second() == 21);
}

TEST_CASE(
    "a bearing and a ring by pointing at seats: see the play, find a fault, mend it, undo, save, reopen",
    "[space]") {
    Window w;
    w.window.document().open(shaft_and_ring(), {});
    w.settle();
    auto* picture = shown_picture(w);
    // By keyboard: the hub's bore and the shaft's third step from the lists, "carry and turn", the ball
    // bearing.
    const auto take = [&](const char* part, const char* feature) { w.take_seat(part, feature); };
    take("hub", "bore");
    // The shaft's third step with the mouse, where it stands free above the plate.
    picture->look_from(geometry::Side::front);
    picture->grab();
    click(picture, place_of(w, picture, "shaft", {0, -10, 45}));
    CHECK(w.find<QListWidget>("taken_seats")->count() == 2);
    auto* duty = w.find<QComboBox>("joint_duty");
    duty->setCurrentIndex(duty->findData("turn"));
    auto* kinds = w.find<QListWidget>("join_kinds");
    REQUIRE(kinds->count() > 0);
    for (int row = 0; row < kinds->count(); ++row)
        if (kinds->item(row)->text().startsWith("Ball bearing")) kinds->setCurrentRow(row);
    CHECK(w.find<QLabel>("would_be")->text().contains("bearing 6204"));
    // A small section of each, as soon as its solids are cut.
    CHECK(QTest::qWaitFor([&] { return !kinds->item(0)->icon().isNull(); }, 20'000));
    QTest::mouseClick(w.find<QPushButton>("join"), Qt::LeftButton);
    see_again(w, picture);
    REQUIRE(w.project().joints.size() == 2);
    CHECK(w.results().checked.placement.loose.empty());
    // The ring: the shaft's step, then the hub's face at the collar.
    take("shaft", "step-3");
    take("hub", "front");
    duty->setCurrentIndex(duty->findData("retain"));
    REQUIRE(kinds->count() == 1);
    CHECK(w.find<QLabel>("would_be")->text().contains("Axial play"));
    QTest::mouseClick(w.find<QPushButton>("join"), Qt::LeftButton);
    see_again(w, picture);
    REQUIRE(w.project().joints.size() == 3);
    CHECK(w.findings_of("bearing-fit") ==
          2); // taken as turning around the inner ring: g6 is loose there, N7 tight
    const JointId bearing = w.project().joints[1].id;
    w.window.document().apply(
        "Load", edit::set_parameter(w.project(), bearing, "load", std::string("around the outer ring")));
    w.settle();
    CHECK(w.findings_of("bearing-fit") == 0);
    w.window.document().undo_stack().undo();
    w.settle();
    CHECK(w.findings_of("bearing-fit") == 2);
    w.window.document().undo_stack().redo();
    w.settle();
    const QTemporaryDir folder;
    const auto path = folder.filePath("shaft.kollema").toStdString();
    REQUIRE(file::save(w.project(), path));
    CHECK(*file::load(path) == w.project());
}

TEST_CASE("an empty project offers the first steps: a part, another, and joining them", "[space]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    CHECK(w.find<QPushButton>("first_demo")->isVisible());
    CHECK(w.find<QPushButton>("first_file")->isVisible());
    CHECK_FALSE(w.find<QPushButton>("first_join")->isVisible());
    for (int i = 0; i < 2; ++i) {
        with_dialog(&w.window, [](QWidget* dialog) {
            QTest::mouseClick(dialog->findChild<QPushButton*>("primary"), Qt::LeftButton);
        });
        QTest::mouseClick(w.find<QPushButton>("first_part"), Qt::LeftButton);
        w.settle();
    }
    REQUIRE(w.project().parts.size() == 2);
    CHECK_FALSE(w.find<QPushButton>("first_demo")->isVisible());
    QTest::mouseClick(w.find<QPushButton>("first_join"), Qt::LeftButton);
    CHECK(w.find<QListWidget>("part_features")->hasFocus());
    // Both stand in the picture, the loose one beside the other, and can be pointed at.
    auto* picture = shown_picture(w);
    REQUIRE(picture->scene()->bodies.size() == 2);
    for (const auto& body : picture->scene()->bodies) {
        picture->grab();
        click(picture, picture->on_screen(
                           body.placed.point((body.mesh->bounds.least + body.mesh->bounds.greatest) / 2 +
                                             Vector3(0, 0, body.mesh->bounds.greatest.z() / 2))));
    }
    CHECK(w.find<QListWidget>("taken_seats")->count() == 2);
    w.window.open_demo();
    w.settle();
}

TEST_CASE("a hole and a keyway cut by pointing, changed, and taken away", "[space]") {
    Window w;
    w.window.document().open(shaft_and_ring(), {});
    w.settle();
    shown_picture(w);
    const auto field = [](QWidget* dialog, const QString& name) {
        for (auto* line : dialog->findChildren<QLineEdit*>())
            if (line->accessibleName() == name) return line;
        FAIL("no field " << name.toStdString());
        return static_cast<QLineEdit*>(nullptr);
    };
    const auto confirm = [](QWidget* dialog) {
        QTest::mouseClick(dialog->findChild<QPushButton*>("primary"), Qt::LeftButton);
    };
    const auto cut = [&](const char* part, const char* feature, const std::function<void(QWidget*)>& act) {
        w.take_seat(part, feature);
        with_dialog(&w.window, act);
        QTest::mouseClick(w.find<QToolButton>("cut_feature"), Qt::LeftButton);
        w.settle();
    };
    const auto features = [&](const char* part) {
        return kollema::find(w.project(), PartId{part})->features;
    };
    const std::size_t before = features("plate").size();
    cut("plate", "top", [&](QWidget* dialog) {
        field(dialog, "Diameter")->setText("9");
        field(dialog, "x")->setText("-20");
        field(dialog, "Depth")->setText("-3"); // refused, and the dialog stays
        confirm(dialog);
        CHECK(dialog->isVisible());
        CHECK(dialog->findChild<QLabel*>("refusal")->isVisible());
        field(dialog, "Depth")->setText("6");
        confirm(dialog);
    });
    REQUIRE(features("plate").size() == before + 1);
    const Feature hole = features("plate").back();
    CHECK(std::get<Hole>(hole.shape).diameter_mm == 9);
    CHECK((hole.frame.origin - Vector3(40, 40, 12)).norm() < 1e-9);
    cut("plate", hole.id.text.c_str(), [&](QWidget* dialog) {
        CHECK(field(dialog, "x")->text() == "-20");
        field(dialog, "Diameter")->setText("11");
        confirm(dialog);
    });
    CHECK(std::get<Hole>(features("plate").back().shape).diameter_mm == 11);
    w.take_seat("plate", hole.id.text.c_str());
    QTest::mouseClick(w.find<QToolButton>("uncut_feature"), Qt::LeftButton);
    CHECK(features("plate").size() == before);
    cut("shaft", "step-3", [&](QWidget* dialog) {
        auto* cuts = dialog->findChild<QListWidget*>();
        for (int row = 0; row < cuts->count(); ++row)
            if (cuts->item(row)->text() == "Keyway") cuts->setCurrentRow(row);
        field(dialog, "Width")->setText("6");
        field(dialog, "Turned by")->setText("90");
        confirm(dialog);
    });
    const Feature keyway = features("shaft").back();
    CHECK(std::get<Keyway>(keyway.shape).width_mm == 6);
    CHECK((keyway.frame.x - Vector3::UnitY()).norm() < 1e-9);
}

TEST_CASE("a wheel with its key by seats: it drives, and a hub too short is told and mended", "[space]") {
    Window w;
    const auto must = [](Result<Project> p) {
        if (!p) FAIL(in_one_line(p.error()));
        return *p;
    };
    Project p = must(edit::add_part({}, "Shaft", shape::TurnedPart{.steps = {{30, 8}, {22, 40, "h6", 1}}},
                                    "c45", "turned"));
    p = must(edit::add_part(
        p, "Wheel", shape::Disc{.diameter_mm = 80, .thickness_mm = 25, .bore_mm = 22, .bore_zone = "H7"},
        "c45", "turned"));
    w.window.document().open(p, {});
    w.settle();
    shown_picture(w);
    w.join("Seat", "turn", "Shaft in bore", {{"wheel", "bore"}, {"shaft", "step-2"}});
    w.join("Key", "drive", "Parallel key", {{"wheel", "bore"}, {"shaft", "step-2"}});
    REQUIRE(w.project().joints.size() == 2);
    CHECK(w.results().checked.placement.mismatches.empty());
    w.choose("key");
    w.type("length", "28");
    CHECK(w.findings_of("key-length") == 1);
    w.choose_finding("stands out of");
    w.press_button("Take a key");
    w.settle();
    CHECK(w.findings_of("key-length") == 0);
    CHECK(w.results().checked.placement.designs.at({"key"})->pieces.front().length_mm == 25);
}
