// A monkey on the real window: all actions, dialogs, fields and drags, while results arrive.  It finds what
// ends or freezes the program.  KOLLEMA_MONKEY_SEED repeats a run, KOLLEMA_MONKEY_SECONDS says how long one
// lasts.
#include "../../bench/large_projects.hpp"
#include "driver.hpp"
#include <QAbstractItemView>
#include <QDrag>
#include <QFileDialog>
#include <QMenu>
#include <QMenuBar>
#include <QUndoStack>
#include <QWheelEvent>
#include <cstdio>
#include <random>

using namespace kollema;
using namespace kollema::test;

namespace {

int number_of(const char* name, int usual) {
    bool is_number = false;
    const int given = qEnvironmentVariableIntValue(name, &is_number);
    return is_number ? given : usual;
}

class Monkey {
public:
    Monkey(desktop::MainWindow& window, unsigned seed) : window_(window), random_(seed) {
        look_for_dialogs();
    }

    void act() {
        ++acts_;
        switch (any(10)) {
        case 0:
        case 1:
            return trigger();
        case 2:
        case 3:
        case 4:
            return click();
        case 5:
            return drag();
        case 6:
            return type();
        case 7:
            return turn_wheel();
        case 8:
            return press_keys(QApplication::focusWidget());
        default:
            QTest::qWait(any(60)); // results arrive
        }
    }
    int acts() const { return acts_; }

private:
    int any(int below) { return below <= 0 ? 0 : std::uniform_int_distribution<int>(0, below - 1)(random_); }
    template <class List>
    auto one_of(const List& list) {
        return list[static_cast<typename List::size_type>(any(static_cast<int>(list.size())))];
    }
    QPoint somewhere(const QWidget& widget) { return {any(widget.width()), any(widget.height())}; }

    QList<QWidget*> visible(QWidget& of) {
        QList<QWidget*> all;
        for (auto* widget : of.findChildren<QWidget*>())
            if (widget->isVisible() && widget->isEnabled() && !qobject_cast<QMenuBar*>(widget) &&
                widget->window() == &of)
                all << widget;
        return all;
    }

    void trigger() {
        QList<QAction*> all;
        for (auto* menu : window_.menuBar()->findChildren<QMenu*>())
            for (auto* action : menu->actions())
                if (action->isEnabled() && !action->isSeparator() && !action->menu() &&
                    !action->text().contains("Quit"))
                    all << action;
        if (!all.isEmpty()) one_of(all)->trigger();
    }

    void click() {
        const auto all = visible(window_);
        if (all.isEmpty()) return;
        QWidget* widget = one_of(all);
        const Qt::MouseButton button = any(8) == 0   ? Qt::RightButton
                                       : any(8) == 0 ? Qt::MiddleButton
                                                     : Qt::LeftButton;
        if (any(6) == 0)
            QTest::mouseDClick(widget, button, {}, somewhere(*widget));
        else
            QTest::mouseClick(widget, button, {}, somewhere(*widget));
        if (auto* popup = QApplication::activePopupWidget()) popup->close();
    }

    void drag() {
        const auto all = visible(window_);
        if (all.isEmpty()) return;
        QPointer<QWidget> widget = one_of(all);
        QTest::mousePress(widget, Qt::LeftButton, {}, somewhere(*widget));
        for (int i = 0; i < 4 && widget; ++i)
            QTest::mouseMove(widget, somewhere(*widget));
        if (widget) QTest::mouseRelease(widget, Qt::LeftButton, {}, somewhere(*widget));
        if (auto* popup = QApplication::activePopupWidget()) popup->close();
    }

    void turn_wheel() {
        const auto all = visible(window_);
        if (all.isEmpty()) return;
        QWidget* widget = one_of(all);
        const QPoint at = somewhere(*widget);
        QWheelEvent event(at, widget->mapToGlobal(at), {}, {0, 120 * (any(9) - 4)}, Qt::NoButton, {},
                          Qt::NoScrollPhase, false);
        QApplication::sendEvent(widget, &event);
    }

    void type() {
        QList<QLineEdit*> fields;
        for (auto* widget : visible(window_))
            if (auto* field = qobject_cast<QLineEdit*>(widget)) fields << field;
        if (fields.isEmpty()) return;
        QPointer<QLineEdit> field = one_of(fields);
        field->setFocus();
        if (any(2)) field->selectAll();
        static const QStringList texts{"12",     "0",  "-5",          "1e9",      "24.7", "abc",
                                       "1/0",    "H7", "+0.05 -0.02", "±0.1",     "0, 0", "10, 5; 20, 5",
                                       "7/8 in", "",   "999999999",   "<b>x</b>", "(((("};
        QTest::keyClicks(field, one_of(texts));
        if (field && any(2)) QTest::keyClick(field, Qt::Key_Return);
    }

    void press_keys(QWidget* target) {
        static const QList<Qt::Key> keys{Qt::Key_Tab,    Qt::Key_Backtab, Qt::Key_Return,  Qt::Key_Escape,
                                         Qt::Key_Up,     Qt::Key_Down,    Qt::Key_Left,    Qt::Key_Right,
                                         Qt::Key_Delete, Qt::Key_Home,    Qt::Key_End,     Qt::Key_Plus,
                                         Qt::Key_Minus,  Qt::Key_1,       Qt::Key_A,       Qt::Key_Z,
                                         Qt::Key_V,      Qt::Key_Space,   Qt::Key_PageDown};
        static const QList<Qt::KeyboardModifiers> modifiers{Qt::NoModifier, Qt::NoModifier, Qt::NoModifier,
                                                            Qt::ShiftModifier, Qt::ControlModifier};
        if (target) QTest::keyClick(target, one_of(keys), one_of(modifiers));
        if (auto* popup = QApplication::activePopupWidget()) popup->close();
    }

    /// The next look is due before this one acts: what it does may open a dialog of its own and wait for it.
    void look_for_dialogs() {
        QTimer::singleShot(15, &alive_, [this] {
            look_for_dialogs();
            QDrag::cancel(); // of a label's words: it waits for a real mouse's release
            act_in_dialog();
        });
    }

    /// Some acts in what stands open, then it is left; nothing is written to the disk.
    void act_in_dialog() {
        auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
        if (!dialog) return;
        if (qobject_cast<QFileDialog*>(dialog) || dialog->inherits("QMessageBox") || any(5) == 0)
            return dialog->reject();
        const auto all = visible(*dialog);
        if (all.isEmpty()) return dialog->reject();
        QWidget* widget = one_of(all);
        if (any(2))
            QTest::mouseClick(widget, Qt::LeftButton, {}, somewhere(*widget));
        else
            press_keys(widget);
    }

    desktop::MainWindow& window_;
    std::mt19937 random_;
    QObject alive_;
    int acts_ = 0;
};

}

TEST_CASE("a monkey ends nothing, freezes nothing, and everything it did can be undone", "[monkey]") {
    const int seconds = number_of("KOLLEMA_MONKEY_SECONDS", 20);
    const auto seed = static_cast<unsigned>(number_of("KOLLEMA_MONKEY_SEED", 1));
    for (const unsigned run : {seed, seed + 1}) { // the demo, and hundreds of joints
        std::fprintf(stderr, "monkey: seed %u\n", run);
        desktop::MainWindow window;
        if (run % 2 == 1)
            window.open_demo();
        else
            window.document().open(bench::clusters(300), {});
        window.show();
        REQUIRE(QTest::qWaitForWindowExposed(&window));
        Monkey monkey(window, run);
        QElapsedTimer since, pause;
        since.start();
        qint64 longest_ms = 0;
        while (since.elapsed() < seconds * 500LL) {
            pause.start();
            monkey.act();
            longest_ms = std::max(longest_ms, pause.elapsed());
            REQUIRE(window.isVisible());
        }
        std::fprintf(stderr, "monkey: %d acts, the longest %lld ms\n", monkey.acts(),
                     static_cast<long long>(longest_ms));
        REQUIRE(QTest::qWaitFor([&] { return window.document().up_to_date(); }, 300'000));
        CHECK_FALSE(first_defect(window.document().project()));
        auto& undo = window.document().undo_stack();
        while (undo.canUndo())
            undo.undo();
        CHECK_FALSE(first_defect(window.document().project()));
        while (undo.canRedo())
            undo.redo();
        undo.setClean();
        window.close();
    }
}
