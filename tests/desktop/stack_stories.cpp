// Chains typed, pasted and mended in the real window, by keyboard.
#include "chain_picture.hpp"
#include "driver.hpp"
#include "file/project_file.hpp"
#include "formula_picture.hpp"
#include "pattern_sheet.hpp"
#include "stacks_view.hpp"
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QTableWidget>
#include <QTemporaryDir>

using namespace kollema;
using namespace kollema::test;

namespace {

void computed(Window& w) {
    REQUIRE(QTest::qWaitFor([&] { return w.window.is_settled(); }, 60'000));
}

/// Types into whatever has the focus.
void type_here(const QString& text) {
    REQUIRE(QApplication::focusWidget());
    QTest::keyClicks(QApplication::focusWidget(), text);
}

void key_here(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
    QTest::keyClick(QApplication::focusWidget(), key, modifiers);
}

void type_row(const QStringList& cells) {
    for (int i = 0; i < cells.size(); ++i) {
        if (i > 0) key_here(Qt::Key_Tab);
        type_here(cells[i]);
    }
    key_here(Qt::Key_Return);
}

/// The bracket with three parts in it, in inches.
void type_bracket(Window& w) {
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.keys(Qt::Key_I, Qt::ControlModifier);
    w.keys(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(w.find<desktop::StacksView>()->isVisible());
    type_row({"bracket", "3", "+-0.005"});
    type_row({"block", "1", "0.003", "-"});
    type_row({"spacer", "1 1/4", "0.003", "-"});
    type_row({"plate", "0.7", "+0.003 -0.003", "-"});
    key_here(Qt::Key_Escape);
}

const TypedChain& only_chain(const Window& w) {
    REQUIRE(w.project().chains.size() == 1);
    return w.project().chains.front();
}

QString big_figure(Window& w) {
    for (const char* name : {"chain_figure", "pattern_figure"})
        if (auto* label = w.find<QLabel>(name); label->isVisible()) return label->text();
    return {};
}

}

TEST_CASE("a bracket with three parts is typed without the mouse, and its yield read", "[window]") {
    Window w;
    type_bracket(w);
    const auto& chain = only_chain(w);
    REQUIRE(chain.rows.size() == 4);
    CHECK(chain.unit == LengthUnit::inch);
    CHECK(chain.rows[2].nominal == "1 1/4");
    CHECK(chain.rows[3].sense == "-");
    QTest::keyClick(&w.window, Qt::Key_G, Qt::AltModifier);
    type_here("0.01");
    key_here(Qt::Key_Return);
    w.type("chain_upper", "0.08");
    computed(w);
    CHECK(big_figure(w).contains("100"));
    // 0.05 by hand, 0.036 to 0.064 in the worst case.
    QString all;
    for (auto* label : w.find<desktop::StacksView>()->findChildren<QLabel*>())
        all += label->text();
    CHECK(all.contains("0.036 … 0.064"));
    CHECK(all.contains("kept by worst case"));
    // Nothing must change; cheaper grades could be taken.
    REQUIRE(w.find<QListWidget>("ways_out")->count() == 1);
    CHECK(w.find<QListWidget>("ways_out")->item(0)->text().startsWith("All at the cheapest grades"));
    // Alone it may open by what is left, 0.026 to the nearer limit.
    auto* table = w.find<QTableWidget>("chain_rows");
    CHECK(table->item(0, 9)->text() == "±0.021");
    CHECK(table->item(1, 9)->text() == "±0.019");
    // A click on an arrow chooses its row.
    auto* picture = w.find<desktop::ChainPicture>();
    QTest::mouseClick(picture, Qt::LeftButton, {}, {picture->width() / 2, 6 + 46 + 20});
    CHECK(table->currentRow() == 1);
}

TEST_CASE("a missed chain takes a way out, and undo takes it back; it is saved and read again", "[window]") {
    Window w;
    type_bracket(w);
    w.type("chain_lower", "0.045");
    computed(w);
    const TypedChain missed = only_chain(w);
    auto* ways = w.find<QListWidget>("ways_out");
    REQUIRE(ways->count() > 0);
    int row = 0;
    while (row < ways->count() - 1 && !ways->item(row)->text().startsWith("Make "))
        ++row;
    INFO(ways->item(row)->text().toStdString());
    CHECK(ways->item(row)->text().contains("worst case"));
    ways->setFocus();
    ways->setCurrentRow(row);
    QTest::mouseClick(w.find<QPushButton>("do_way"), Qt::LeftButton);
    computed(w);
    CHECK(only_chain(w) != missed);
    CHECK(w.find<QListWidget>("chains")->item(0)->text().startsWith("✓"));
    QTemporaryDir folder;
    const std::string file = folder.filePath("chain.kollema").toStdString();
    REQUIRE(file::save(w.project(), file));
    const auto read = file::load(file);
    REQUIRE(read);
    CHECK(read->chains == w.project().chains);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    computed(w);
    CHECK(only_chain(w) == missed);
    CHECK(ways->count() > 0);
    ways->setCurrentRow(0); // all at the cheapest grades, rounded to what can be typed in inches
    CHECK(ways->item(0)->text().startsWith("All at"));
    emit ways->itemActivated(ways->item(0));
    computed(w);
    CHECK(w.find<QListWidget>("chains")->item(0)->text().startsWith("✓"));
}

TEST_CASE("a pasted table is rows, a broken cell is told and mended, and rows go out again", "[window]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.keys(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    key_here(Qt::Key_Escape);
    QApplication::clipboard()->setText("Name\tNominal\tLimits\tDirection\n"
                                       "housing\t40\tH8\t\nshaft\t38\twide\t-\n");
    auto* table = w.find<QTableWidget>("chain_rows");
    table->setFocus();
    key_here(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(only_chain(w).rows.size() == 2);
    computed(w);
    QString all;
    for (auto* label : w.find<desktop::StacksView>()->findChildren<QLabel*>())
        all += label->text();
    CHECK(all.contains("row 2, limits"));
    table->setCurrentCell(1, 2);
    type_here("+"); // opens the cell
    type_here("-0.1");
    key_here(Qt::Key_Return);
    computed(w);
    CHECK(only_chain(w).rows[1].limits == "+-0.1");
    CHECK(w.find<QListWidget>("chains")->item(0)->text().contains("100"));
    table->setFocus();
    table->setCurrentCell(0, 0);
    key_here(Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text().contains("housing\t40\tH8"));
    key_here(Qt::Key_Delete, Qt::ControlModifier);
    REQUIRE(only_chain(w).rows.size() == 1);
    CHECK(only_chain(w).rows[0].name == "shaft");
    w.type("chain_yield", "2"); // no share
    CHECK_FALSE(w.refusal().isEmpty());
    QApplication::clipboard()->setText("nominal\tnominal\n1\t2\n");
    table->setFocus();
    key_here(Qt::Key_V, Qt::ControlModifier);
    CHECK(w.refusal().contains("doubled"));
    CHECK(only_chain(w).rows.size() == 1);
}

TEST_CASE("a requirement of the assembly stands among the chains, and leads back to it", "[window]") {
    Window w;
    w.keys(Qt::Key_F9);
    computed(w);
    auto* list = w.find<QListWidget>("chains");
    REQUIRE(list->count() > 3);
    int of_assembly = 0;
    while (!list->item(of_assembly)->text().contains("of the assembly"))
        ++of_assembly;
    list->setCurrentRow(of_assembly);
    auto* table = w.find<QTableWidget>("chain_rows");
    CHECK(table->rowCount() > 3);
    CHECK_FALSE(table->item(0, 0)->flags().testFlag(Qt::ItemIsEditable));
    CHECK_FALSE(w.find<QLineEdit>("chain_name")->isEnabled());
    QTest::mouseClick(w.find<QPushButton>("show_in_assembly"), Qt::LeftButton);
    CHECK_FALSE(w.find<desktop::StacksView>()->isVisible());
}

TEST_CASE("a hole pattern is typed, a class taken, undone, saved and read", "[window]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.keys(Qt::Key_H, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.find<desktop::PatternSheet>()->isVisible());
    REQUIRE(w.project().patterns.size() == 1);
    const auto typed = [&]() -> const pattern::Typed& { return w.project().patterns.front().typed; };
    key_here(Qt::Key_Escape);
    computed(w);
    CHECK(big_figure(w).contains("%"));
    // The cover's zone, cell by cell: row 2, the last column.
    auto* members = w.find<QTableWidget>("pattern_members");
    const auto put = [&](QTableWidget* table, int row, int column, const QString& text) {
        table->setFocus();
        table->setCurrentCell(row, column);
        table->editItem(table->currentItem());
        type_here(text);
        key_here(Qt::Key_Tab);
        key_here(Qt::Key_Escape);
    };
    put(members, 1, 5, "0.9");
    CHECK(typed().members[1].position == "0.9");
    computed(w);
    const QString missed = big_figure(w);
    CHECK(missed != "100 %");
    // Typed and at once undone: what was computed before is right again, whatever comes late.
    put(members, 1, 5, "0.4");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(typed().members[1].position == "0.9");
    computed(w);
    CHECK(big_figure(w) == missed);
    w.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    computed(w);
    CHECK(big_figure(w).contains("%"));
    CHECK(big_figure(w) != missed);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    computed(w);
    CHECK(big_figure(w) == missed);
    // What a class promises is what it gives.
    auto* classes = w.find<QListWidget>("pattern_classes");
    REQUIRE(classes->count() == 3);
    CHECK(classes->currentItem()->text().contains("medium"));
    classes->setCurrentRow(2);
    const QString promised = classes->item(2)->text().section('\n', 1).trimmed().section(',', 0, 0);
    QTest::mouseClick(w.find<QPushButton>("take_class"), Qt::LeftButton);
    CHECK(typed().members[1].size == "coarse");
    computed(w);
    CHECK(big_figure(w) == promised);
    CHECK(promised != missed);
    // A cell that cannot be read is told; the form stays.
    put(w.find<QTableWidget>("pattern_holes"), 1, 0, "dowels");
    computed(w);
    CHECK(big_figure(w).isEmpty());
    const auto says = [&](const QString& words) {
        for (auto* label : w.find<desktop::PatternSheet>()->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words)) return true;
        return false;
    };
    CHECK(says("holes, row 2, group"));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(typed().holes.size() == 1);
    // Two dowels beside the screws, pasted.
    QApplication::clipboard()->setText("dowels\tdowel\tfastener\t6\tm6\n\tcover\t\t6.02\tH7\t0.02\n"
                                       "\tbody\tpressed\t\t\t0.02\n");
    members->setFocus();
    members->setCurrentCell(3, 0);
    QTest::keyClick(members, Qt::Key_V, Qt::ControlModifier);
    CHECK(typed().members.size() == 6);
    QApplication::clipboard()->setText("dowels\t-40\n\t40\t0\n");
    auto* holes = w.find<QTableWidget>("pattern_holes");
    holes->setFocus();
    holes->setCurrentCell(1, 0);
    QTest::keyClick(holes, Qt::Key_V, Qt::ControlModifier);
    CHECK(typed().holes.size() == 3);
    computed(w);
    CHECK(big_figure(w).contains("%"));
    // Plates that stay: never better.
    auto* located = w.find<QComboBox>("pattern_located");
    located->setFocus();
    QTest::keyClick(located, Qt::Key_Down);
    CHECK_FALSE(typed().may_move);
    computed(w);
    const Project project = w.project();
    QTemporaryDir folder;
    const auto path = folder.filePath("cover.kollema").toStdString();
    REQUIRE(file::save(project, path));
    CHECK(*file::load(path) == project);
    QTest::mouseClick(w.find<QPushButton>("take_out"), Qt::LeftButton);
    CHECK(w.project().patterns.empty());
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project().patterns.size() == 1);
}

TEST_CASE("a typed chain's unit is changed, and the sample of its Cpk told", "[window]") {
    Window w;
    type_bracket(w);
    auto* unit = w.find<QComboBox>("chain_unit");
    unit->setFocus();
    QTest::keyClick(unit, Qt::Key_Up);
    CHECK(only_chain(w).unit == LengthUnit::mm);
    CHECK(only_chain(w).rows.size() == 4);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(only_chain(w).unit == LengthUnit::inch);
    w.type("chain_measured_on", "40");
    CHECK(only_chain(w).measured_on == 40);
    computed(w);
    bool told = false;
    for (auto* label : w.find<desktop::StacksView>()->findChildren<QLabel*>())
        told = told || label->text().contains("as low as 40");
    CHECK(told);
    for (const char* refused : {"1", "many"}) {
        w.type("chain_measured_on", refused);
        CHECK(only_chain(w).measured_on == 40);
        CHECK(w.find<QLineEdit>("chain_measured_on")->text() == "40");
    }
}

TEST_CASE("a gap as a formula and a loop are typed, judged by their true value, and a remedy is taken",
          "[window]") {
    Window w;
    w.keys(Qt::Key_N, Qt::ControlModifier);
    w.keys(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    type_row({"crank", "40", "+-0.05"});
    type_row({"rod", "150", "+-0.1"});
    type_row({"turn", "45 deg", "+-0.2 deg"});
    key_here(Qt::Key_Escape);
    w.type("chain_formula", "180 - (crank*cos(turn) + sqrt(rod^2 - (crank*sin(turn))^2))");
    w.type("chain_lower", "4.2");
    w.type("chain_upper", "4.7");
    computed(w);
    const auto all_words = [&] {
        QString all;
        for (auto* label : w.find<desktop::StacksView>()->findChildren<QLabel*>())
            if (label->isVisible()) all += label->text();
        return all;
    };
    CHECK(all_words().contains("the curve costs"));
    CHECK(w.find<desktop::FormulaPicture>()->isVisible());
    CHECK_FALSE(w.find<desktop::ChainPicture>()->isVisible());
    const QString by_formula = big_figure(w);
    // The same as a loop that closes.
    w.type("chain_formula", "180 - x");
    auto* closing = w.find<QPlainTextEdit>("chain_closing");
    closing->setFocus();
    for (const char* line : {"unknown x near 170 from 0", "unknown angle f near 10 to 90",
                             "loop crank at turn, rod at -f, x at 180"}) {
        QTest::keyClicks(closing, line);
        QTest::keyClick(closing, Qt::Key_Return);
    }
    w.find<QTableWidget>("chain_rows")->setFocus();
    computed(w);
    CHECK(only_chain(w).closing.find("loop crank") != std::string::npos);
    CHECK(all_words().contains(">x<"));
    CHECK(big_figure(w).left(3) == by_formula.left(3));
    // Missed: something is done at assembly, and undone.
    w.type("chain_upper", "4.42");
    computed(w);
    auto* ways = w.find<QListWidget>("ways_out");
    int row = 0;
    while (row < ways->count() && !ways->item(row)->text().startsWith("Machined"))
        ++row;
    REQUIRE(row < ways->count());
    CHECK(ways->item(row)->text().contains("for ever"));
    ways->setCurrentRow(row);
    QTest::mouseClick(w.find<QPushButton>("do_way"), Qt::LeftButton);
    computed(w);
    CHECK(only_chain(w).at_assembly.what == AtAssembly::machining);
    CHECK(w.find<QListWidget>("chains")->item(0)->text().startsWith("✓"));
    QTemporaryDir folder;
    const std::string file = folder.filePath("loop.kollema").toStdString();
    REQUIRE(file::save(w.project(), file));
    CHECK(file::load(file)->chains == w.project().chains);
    QTest::mouseClick(w.find<QPushButton>("without_remedy"), Qt::LeftButton);
    CHECK(only_chain(w).at_assembly.what == AtAssembly::nothing);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(only_chain(w).at_assembly.what == AtAssembly::machining);
    // A broken line is told by its number.
    w.type("chain_formula", "180 - y");
    computed(w);
    CHECK(all_words().contains("y"));
    CHECK(big_figure(w).isEmpty());
}

TEST_CASE("the holes of a joint are looked at, and a clearance class taken", "[window]") {
    Window w;
    w.keys(Qt::Key_F9);
    computed(w);
    auto* list = w.find<QListWidget>("chains");
    int row = 0;
    while (row < list->count() && !list->item(row)->text().contains("screws"))
        ++row;
    REQUIRE(row < list->count());
    list->setCurrentRow(row);
    computed(w);
    CHECK(w.find<desktop::PatternSheet>()->isVisible());
    CHECK(big_figure(w).contains("%"));
    auto* classes = w.find<QListWidget>("pattern_classes");
    REQUIRE(classes->count() == 3);
    int other = 0;
    while (classes->item(other)->text().contains("as it is"))
        ++other;
    const QString taken = classes->item(other)->text();
    classes->setCurrentRow(other);
    const Project before = w.project();
    QTest::mouseClick(w.find<QPushButton>("take_class"), Qt::LeftButton);
    CHECK(w.project() != before);
    computed(w);
    CHECK(w.find<QListWidget>("pattern_classes")->item(other)->text().contains("as it is"));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.project() == before);
    list->setCurrentRow(0);
    CHECK_FALSE(w.find<desktop::PatternSheet>()->isVisible());
    list->setCurrentRow(row);
    QTest::mouseClick(w.find<QPushButton>("show_in_assembly"), Qt::LeftButton);
    CHECK_FALSE(w.find<desktop::StacksView>()->isVisible());
}
