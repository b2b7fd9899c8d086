#pragma once
// Drives the real window as a person does: keys, clicks, and waiting for the results.
#include "check/evaluation.hpp"
#include "figure_strip.hpp"
#include "joint_map.hpp"
#include "main_window.hpp"
#include "presenter/text.hpp"
#include <QComboBox>
#include <QElapsedTimer>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTest>
#include <QTimer>
#include <algorithm>
#include <catch2/catch.hpp>
#include <functional>

namespace kollema::test {

/// Acts on the dialog that the next key or click opens, as soon as it stands there and `ready` is content
/// with it.
inline void with_dialog(QObject* context, const std::function<void(QWidget*)>& act,
                        const std::function<bool(QWidget*)>& ready = {}) {
    auto* look = new QTimer(context);
    QObject::connect(look, &QTimer::timeout, context, [look, act, ready] {
        QWidget* dialog = QApplication::activeModalWidget();
        if (!dialog || !dialog->isVisible() || (ready && !ready(dialog))) return;
        look->stop();
        look->deleteLater();
        act(dialog);
    });
    look->start(5);
}

struct Window {
    desktop::MainWindow window;

    explicit Window(const QString& path = {}) {
        if (path.isEmpty())
            window.open_demo();
        else
            REQUIRE(window.open_file(path));
        window.show();
        window.activateWindow(); // a virtual screen has no window manager that would
        REQUIRE(QTest::qWaitForWindowActive(&window));
        settle();
    }
    ~Window() { window.document().undo_stack().setClean(); } // no question about unsaved changes

    const Project& project() const { return const_cast<desktop::MainWindow&>(window).document().project(); }
    const desktop::Results& results() {
        settle();
        return *window.document().results();
    }
    void settle() {
        REQUIRE(QTest::qWaitFor([&] { return window.document().up_to_date(); }, 120'000));
    }

    template <class W>
    W* find(const QString& name = {}) {
        auto* found = name.isEmpty() ? window.findChild<W*>() : window.findChild<W*>(name);
        REQUIRE(found);
        return found;
    }
    void choose(const char* joint) { find<desktop::JointMap>()->choose({joint}); }
    void keys(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        // After a dialog has closed; without a window manager a wish to be active can get lost.
        if (!QApplication::activeModalWidget())
            REQUIRE(QTest::qWaitFor([&] {
                if (window.isActiveWindow()) return true;
                window.activateWindow();
                return false;
            }));
        QWidget* target = QApplication::focusWidget() ? QApplication::focusWidget() : &window;
        QTest::keyClick(target, key, modifiers);
    }
    void type(const QString& field, const QString& text) {
        auto* edit = find<QLineEdit>(field);
        edit->setFocus();
        edit->selectAll();
        QTest::keyClick(edit, Qt::Key_Delete);
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    /// Clicks the finding of which something says this.
    void choose_finding(const QString& text) {
        settle();
        auto* list = find<QListView>("findings");
        int row = 0;
        while (row < list->model()->rowCount() &&
               !list->model()->index(row, 0).data(Qt::ToolTipRole).toString().contains(text))
            ++row;
        REQUIRE(row < list->model()->rowCount());
        const auto index = list->model()->index(row, 0);
        list->scrollTo(index);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(index).center());
        REQUIRE(list->currentIndex() == index);
    }
    void press_button(const QString& accessible_name) {
        QPushButton* wanted = nullptr;
        const auto there = [&] { // a new card shows itself when the events are through
            for (auto* button : window.findChildren<QPushButton*>())
                if (button->isVisible() && button->accessibleName().contains(accessible_name))
                    wanted = button;
            return wanted != nullptr;
        };
        REQUIRE(QTest::qWaitFor(there));
        QTest::mouseClick(wanted, Qt::LeftButton);
    }
    /// Takes a seat from the list, as the keyboard does.
    void take_seat(const char* part, const char* feature) {
        auto* parts = find<QComboBox>("assembly_part");
        parts->setCurrentIndex(parts->findData(part));
        emit parts->activated(parts->currentIndex());
        auto* features = find<QListWidget>("part_features");
        for (int row = 0; row < features->count(); ++row)
            if (features->item(row)->data(Qt::UserRole).toString() == feature) features->setCurrentRow(row);
        features->setFocus();
        QTest::keyClick(features, Qt::Key_Return);
    }
    /// Joins seats by the list, with a kind that does a duty, and goes back to the joints.
    void join(const QString& name, const char* duty_word, const QString& kind,
              const std::vector<std::pair<const char*, const char*>>& seats, const QString& places = "0, 0") {
        settle(); // what can be pointed at is what the results show
        keys(Qt::Key_T, Qt::ControlModifier);
        for (const auto& [part, feature] : seats)
            take_seat(part, feature);
        type("join_places", places);
        find<QLineEdit>("join_name")->setText(name);
        auto* duty = find<QComboBox>("joint_duty");
        duty->setCurrentIndex(duty->findData(duty_word));
        auto* kinds = find<QListWidget>("join_kinds");
        int row = 0;
        while (row < kinds->count() && !kinds->item(row)->text().startsWith(kind))
            ++row;
        REQUIRE(row < kinds->count());
        kinds->setCurrentRow(row);
        INFO(find<QLabel>("would_be")->text().toStdString());
        REQUIRE(find<QPushButton>("join")->isEnabled());
        QTest::mouseClick(find<QPushButton>("join"), Qt::LeftButton);
        settle();
        keys(Qt::Key_F2);
    }
    QString refusal() {
        auto* line = find<QLabel>("refusal");
        return line->isVisible() ? line->text() : QString();
    }
    double yield() { return results().gaps.front()->result->value().distribution.yield; }
    auto findings_of(const std::string& rule) {
        return std::ranges::count_if(results().findings, [&](const auto& f) { return f.rule == rule; });
    }
    Hole hole(const char* part, const char* feature) const {
        return std::get<Hole>(
            kollema::find(*kollema::find(project(), PartId{part}), FeatureId{feature})->shape);
    }
};

}
