// How long the window leaves a key unanswered while a project of thousands of joints is computed, opened and
// edited:
// kollema_window_tests "[.frames]".  A measurement; not part of the tests.
#include "../../bench/large_projects.hpp"
#include "driver.hpp"
#include <cstdio>

using namespace kollema;
using namespace kollema::test;

namespace {

/// The longest time between two turns of the event loop while something goes on.
double started_ms = 0; ///< what the act itself took
double longest_pause_ms(const std::function<void()>& start, const std::function<bool()>& done) {
    QElapsedTimer since;
    double longest = 0;
    since.start();
    start();
    started_ms = static_cast<double>(since.nsecsElapsed()) / 1e6;
    since.restart();
    while (!done()) {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
        longest = std::max(longest, static_cast<double>(since.nsecsElapsed()) / 1e6);
        since.restart();
    }
    return longest;
}

}

TEST_CASE("pauses of the window", "[.frames]") {
    struct Case {
        const char* shape;
        Project (*make)(std::size_t);
        std::size_t joints;
    };
    for (const auto& [shape, make, joints] : {Case{"chain", bench::chain, 100},
                                              {"star", bench::star, 100},
                                              {"clusters", bench::clusters, 100},
                                              {"chain", bench::chain, 1000},
                                              {"star", bench::star, 1000},
                                              {"clusters", bench::clusters, 1000},
                                              {"clusters", bench::clusters, 10'000}}) {
        const Project p = make(joints);
        desktop::MainWindow window;
        window.resize(1280, 800);
        window.show();
        window.activateWindow(); // a virtual screen has no window manager that would
        REQUIRE(QTest::qWaitForWindowActive(&window));
        auto& document = window.document();
        const auto settled = [&] { return document.up_to_date(); };
        const double opening = longest_pause_ms([&] { document.open(p, {}); }, settled), act = started_ms;
        const double after =
            longest_pause_ms([&] { QTest::qWait(0); }, [n = 0]() mutable { return ++n > 20; });
        const double editing = longest_pause_ms(
                         [&] {
                             document.apply("edit", edit::set_parameter(document.project(), p.joints[1].id,
                                                                        "clearance", std::string("fine")));
                         },
                         settled),
                     edit_act = started_ms;
        const double choosing =
            longest_pause_ms([&] { window.findChild<desktop::JointMap*>()->choose(p.joints[5].id); },
                             [n = 0]() mutable { return ++n > 20; });
        const double dark =
                         longest_pause_ms([&] { QTest::keyClick(&window, Qt::Key_D, Qt::ControlModifier); },
                                          [n = 0]() mutable { return ++n > 20; }),
                     dark_act = started_ms;
        std::printf("%s of %zu joints, in ms: opening %.0f, longest pause then %.0f; drawing %.0f; one edit "
                    "%.0f, longest "
                    "pause then %.0f; choosing %.0f; dark %.0f, then %.0f\n",
                    shape, joints, act, opening, after, edit_act, editing, choosing, dark_act, dark);
        std::fflush(stdout);
        document.undo_stack().setClean();
    }
}
