// The fit bench and the hardware finder in the real window, by mouse and keyboard.
#include "driver.hpp"
#include "file/project_file.hpp"
#include "fit_bench.hpp"
#include "hardware_finder.hpp"
#include "piece_view.hpp"
#include "taper_dialog.hpp"
#include "zones_view.hpp"
#include <QAction>
#include <QCheckBox>
#include <QListWidget>
#include <QSettings>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>

using namespace kollema;
using namespace kollema::test;

namespace {

const FitPair& pair_of(const Window& w, const char* id) {
    const FitPair* pair = kollema::find(w.project(), PairId{id});
    REQUIRE(pair);
    return *pair;
}

QString words_of(Window& w, const char* name) { return w.find<QLabel>(name)->text(); }

}

TEST_CASE("a fit is moved by keys, mouse and typing, and undone", "[window]") {
    Window w;
    w.keys(Qt::Key_F3);
    auto* bench = w.find<desktop::FitBench>();
    REQUIRE(bench->isVisible());
    w.find<QListWidget>("pairs")->setCurrentRow(4); // the keyed pulley: 14 H7/k6
    CHECK(bench->chosen().text == "drive-pulley");
    auto* zones = w.find<desktop::ZonesView>();
    zones->setFocus();
    QTest::keyClick(zones, Qt::Key_Up);
    CHECK(pair_of(w, "drive-pulley").fit == "H7/m6");
    QTest::keyClick(zones, Qt::Key_Down);
    QTest::keyClick(zones, Qt::Key_Down);
    CHECK(pair_of(w, "drive-pulley").fit == "H7/j6");
    QTest::keyClick(zones, Qt::Key_Left);
    CHECK(pair_of(w, "drive-pulley").fit == "H7/j5");
    QTest::keyClick(zones, Qt::Key_Right, Qt::ShiftModifier);
    CHECK(pair_of(w, "drive-pulley").fit == "H8/j5");
    w.type("pair_fit", "H7/g6");
    CHECK(pair_of(w, "drive-pulley").fit == "H7/g6");
    w.type("asked", "20 um");
    CHECK(pair_of(w, "drive-pulley").asked_mm == Approx(0.02).epsilon(1e-9));
    CHECK(words_of(w, "shares").contains("%"));

    // Dragging the shaft's zone down makes it looser; the nearest letter takes it.
    const QPoint on_shaft(static_cast<int>(58 + (zones->width() - 58) * 0.36), 0);
    int y = 0; // where the zone is: find its ink under the "shaft" column from the bottom
    REQUIRE(QTest::qWaitFor([&] {
        const QImage picture = zones->grab().toImage();
        for (int row = picture.height() - 30; row > 20 && y == 0; --row)
            if (picture.pixelColor(on_shaft.x(), row) !=
                picture.pixelColor(on_shaft.x(), picture.height() - 27))
                y = row - 6;
        return y > 0;
    }));
    QTest::mousePress(zones, Qt::LeftButton, {}, {on_shaft.x(), y});
    QTest::mouseMove(zones, {on_shaft.x(), y + 45});
    QTest::mouseRelease(zones, Qt::LeftButton, {}, {on_shaft.x(), y + 45});
    const auto dragged = *standards::fit(14, pair_of(w, "drive-pulley").fit);
    CHECK(dragged.clearance_min_um() > standards::fit(14, "H7/g6")->clearance_min_um());

    const std::string before = pair_of(w, "drive-pulley").fit;
    w.type("pair_fit", "H7/q6");
    CHECK(w.refusal().contains("no fundamental deviation"));
    CHECK(pair_of(w, "drive-pulley").fit == before);
    CHECK(w.find<QLineEdit>("pair_fit")->text().toStdString() == before);
    w.type("pair_hub_outer", "3");
    CHECK(w.refusal().contains("larger"));
}

TEST_CASE("the bench's sheets say what matters", "[window]") {
    Window w;
    w.keys(Qt::Key_2, Qt::ControlModifier);
    auto* bench = w.find<desktop::FitBench>();
    const auto text_of = [](QWidget* sheet) {
        QString all;
        for (auto* label : sheet->findChildren<QLabel*>())
            all += label->text() + "\n";
        return all;
    };
    bench->choose({"bush-in-arm"});
    CHECK(text_of(w.find<desktop::PressSheet>()).contains("the bush closes in by"));
    CHECK(text_of(w.find<desktop::PressSheet>()).contains("burn the skin"));
    bench->choose({"pivot-in-bush"});
    CHECK(text_of(w.find<desktop::PressSheet>()).contains("nothing is pressed"));
    CHECK(text_of(w.find<desktop::PlaySheet>()).contains("mm per metre"));
    bench->choose({"idler-seat"});
    CHECK(text_of(w.find<desktop::BearingSheet>()).contains("4 mm stand out"));
    CHECK(text_of(w.find<desktop::BearingSheet>()).contains("18 mm is lower than the least, 19 mm"));
    w.type("pair_chamfer", "4");
    CHECK(text_of(w.find<desktop::BearingSheet>()).contains("40 %"));
    w.type("pair_chamfer", "1");
    w.type("pair_seat_length", "10");
    w.type("pair_shoulder", "20");
    CHECK(text_of(w.find<desktop::BearingSheet>()).contains("suit the bearing"));

    // Advice: choose what the pair must do from the keyboard, take the first card's fit.
    bench->choose({"drive-pulley"});
    w.keys(Qt::Key_4, Qt::ControlModifier);
    auto* duty = w.find<QComboBox>("duty");
    duty->setFocus();
    QTest::keyClick(duty, Qt::Key_End);
    emit duty->activated(duty->currentIndex());
    QPushButton* take = nullptr;
    REQUIRE(QTest::qWaitFor([&] {
        for (auto* button : w.find<desktop::AdviceSheet>()->findChildren<QPushButton*>())
            if (!take && button->isVisible() && button->isEnabled()) take = button;
        return take != nullptr;
    }));
    QTest::mouseClick(take, Qt::LeftButton);
    CHECK(standards::fit(14, pair_of(w, "drive-pulley").fit)->kind == standards::FitKind::interference);

    // A process's own figure is typed, survives, and goes back with Delete.
    w.keys(Qt::Key_5, Qt::ControlModifier);
    auto* table = w.find<QTableWidget>("processes");
    table->setCurrentCell(0, 1);
    table->item(0, 1)->setText("16");
    CHECK(w.refusal().contains("finest first")); // hand sawing is held to 17 at best
    table->item(0, 1)->setText("17");
    CHECK(w.project().workshop.processes.size() == 1);
    table->setCurrentCell(0, 1);
    table->setFocus();
    QTest::keyClick(table, Qt::Key_Delete);
    CHECK(w.project().workshop.processes.empty());
}

TEST_CASE("pairs come and go, and are saved with the project", "[window]") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("bench.kollema");
    Window w;
    const auto pairs = w.project().pairs.size();
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(w.project().pairs.size() == pairs + 1);
    w.type("pair_size", "1 in");
    CHECK(w.refusal().contains("larger")); // the hub copied from the pair before is too small
    w.type("pair_hub_outer", "50");
    w.type("pair_size", "1 in");
    w.type("pair_fit", "RC4");
    CHECK(w.project().pairs.back().fit == "RC4");
    CHECK(w.project().pairs.back().nominal_mm == Approx(25.4).epsilon(1e-9));
    w.keys(Qt::Key_I, Qt::ControlModifier);
    CHECK(w.find<QLineEdit>("pair_size")->text() == "1");
    REQUIRE(file::save(w.project(), path.toStdString()));
    CHECK(*file::load(path.toStdString()) == w.project());
    for (auto* button : w.window.findChildren<QPushButton*>())
        if (button->isVisible() && button->text() == "Take off") QTest::mouseClick(button, Qt::LeftButton);
    CHECK(w.project().pairs.size() == pairs);
    w.window.setFocus();
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project().pairs.size() == pairs + 1);
}

TEST_CASE("hardware is found by words, by duty and by system, and put on the shelf", "[window]") {
    QSettings().remove("favourites");
    Window w;
    w.keys(Qt::Key_F4);
    auto* list = w.find<QTableWidget>("standards_found");
    auto* words = w.find<QLineEdit>("hardware_words");
    CHECK(QApplication::focusWidget() == words);
    const int all = list->rowCount();
    CHECK(all > 40);
    QTest::keyClicks(words, "nut m8");
    CHECK((list->rowCount() > 3 && list->rowCount() < all));
    CHECK(w.find<QComboBox>("piece_size")->currentData() == "M8");
    words->clear();
    QTest::keyClicks(words, "din 471 20");
    REQUIRE(list->rowCount() == 1);
    CHECK(w.find<desktop::HardwareFinder>()->chosen()->size == "20");
    CHECK(w.find<QTableWidget>("dimensions")->rowCount() == 9);
    words->clear();
    QTest::keyClicks(words, "zebra");
    CHECK(list->rowCount() == 0);
    words->clear();
    auto* duty = w.find<QComboBox>("duty_of_piece");
    duty->setCurrentIndex(duty->findData("drive"));
    emit duty->activated(duty->currentIndex());
    CHECK(list->rowCount() == 3); // parallel, taper and woodruff keys
    duty->setCurrentIndex(0);
    emit duty->activated(0);

    QTest::keyClicks(words, "iso4762 m6");
    REQUIRE(list->rowCount() == 1);
    w.settle();
    w.choose("rail-screws");
    QTest::mouseClick(w.find<QPushButton>("stock"), Qt::LeftButton);
    CHECK(find_stock(w.project().workshop, "ISO 4762", "M6"));
    auto* lengths = w.find<QTableWidget>("lengths");
    lengths->setFocus();
    lengths->setCurrentCell(0, 0);
    QTest::keyClick(lengths, Qt::Key_Space);
    const auto* item = find_stock(w.project().workshop, "ISO 4762", "M6");
    REQUIRE(item);
    CHECK(item->lengths_mm.size() == 11);
    auto* only = w.find<desktop::HardwareFinder>()->findChildren<QCheckBox*>().front();
    words->clear();
    QTest::mouseClick(only, Qt::LeftButton, {}, {8, only->height() / 2});
    CHECK(list->rowCount() == 1);
    QTest::mouseClick(only, Qt::LeftButton, {}, {8, only->height() / 2});
    QTest::mouseClick(w.find<QPushButton>("favourite"), Qt::LeftButton);
    CHECK(QSettings().value("favourites").toStringList() == QStringList{"ISO 4762"});
    QSettings().remove("favourites");
    QTest::mouseClick(w.find<QPushButton>("stock"), Qt::LeftButton);
    CHECK(w.project().workshop.stock.empty());
}

TEST_CASE("a taper and its angle are held against each other while typed", "[window]") {
    desktop::TaperDialog dialog;
    dialog.show();
    auto* typed = dialog.findChild<QLineEdit*>("taper");
    auto* warning = dialog.findChild<QLabel*>("refusal");
    CHECK_FALSE(warning->isVisible());
    typed->clear();
    QTest::keyClicks(typed, "1:200 = 0.57");
    CHECK(warning->text().contains("contradicts"));
    QTest::keyClicks(typed, " x");
    CHECK(warning->text().contains("neither"));
}

TEST_CASE("the drawing of a piece is saved as a picture", "[window]") {
    const QTemporaryDir folder;
    desktop::PieceView view;
    view.resize(500, 300);
    view.show_piece(piece::view_of(*standards::hardware("ISO 15", "6204")), LengthUnit::mm);
    REQUIRE(view.save_svg(folder.filePath("piece.svg")));
    QFile file(folder.filePath("piece.svg"));
    REQUIRE(file.open(QIODevice::ReadOnly));
    CHECK(file.readAll().contains("<svg"));
}
