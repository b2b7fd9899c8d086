#include "background/job.hpp"
#include "file/project_file.hpp"
#include "main_window.hpp"
#include "theme.hpp"
#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>
#include <cstdio>
#include <cstring>
#include <exception>
#include <functional>
#include <memory>
#include <xcb/xcb.h>

namespace {

/// What is thrown while an event is handled becomes a message; the program and the project go on.
class Application : public QApplication {
public:
    using QApplication::QApplication;
    std::function<void(const QString&)> tell;

    bool notify(QObject* receiver, QEvent* event) override {
        try {
            return QApplication::notify(receiver, event);
        } catch (const std::exception& e) {
            const QString message = kollema::desktop::internal_fault(QString::fromUtf8(e.what()));
            std::fprintf(stderr, "kollema: %s\n", qPrintable(message));
            if (tell) tell(message);
            return false;
        }
    }
};

}

namespace {

/// Qt ends a program that finds no display by an abort; a sentence is better.  The connection is kept until
/// Qt has its own: a server without clients may begin anew just then.
class DisplayProbe {
public:
    DisplayProbe(int argc, char** argv) {
        const QByteArray platform = qgetenv("QT_QPA_PLATFORM");
        bool named = !platform.isEmpty() && !platform.startsWith("xcb") && !platform.startsWith("wayland");
        for (int i = 1; i < argc; ++i) // Qt's own option names another platform
            named |=
                QByteArray(argv[i]).startsWith("-platform") || QByteArray(argv[i]).startsWith("--platform");
        if (named || !qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY")) {
            found_ = true;
            return;
        }
        if (qEnvironmentVariableIsEmpty("DISPLAY")) return;
        connection_ = xcb_connect(nullptr, nullptr);
        found_ = connection_ && xcb_connection_has_error(connection_) == 0;
    }
    DisplayProbe(const DisplayProbe&) = delete;
    DisplayProbe& operator=(const DisplayProbe&) = delete;
    ~DisplayProbe() {
        if (connection_) xcb_disconnect(connection_);
    }
    bool is_there() const { return found_; }

private:
    xcb_connection_t* connection_ = nullptr;
    bool found_ = false;
};

/// Help and version need no display.
bool asks_for_words_only(int argc, char** argv) {
    for (int i = 1; i < argc; ++i)
        for (const char* word : {"-h", "--help", "-v", "--version"})
            if (std::strcmp(argv[i], word) == 0) return true;
    return false;
}

}

int main(int argc, char** argv) {
    std::unique_ptr<DisplayProbe> display;
    if (asks_for_words_only(argc, argv))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    else if (display = std::make_unique<DisplayProbe>(argc, argv); !display->is_there()) {
        std::fputs(
            "kollema: there is no display to open the window on. Start it in a graphical session, or use "
            "kollema-cli\n",
            stderr);
        return 1;
    }
    Application application(argc, argv);
    display.reset();
    QApplication::setOrganizationName("Kollema");
    QApplication::setApplicationName("Kollema");
    QApplication::setApplicationVersion(KOLLEMA_VERSION);
    QCommandLineParser parser;
    parser.setApplicationDescription("Joints, fits and tolerance stacks between parts that go together");
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption demo("demo", "Open the demo project.");
    const QCommandLineOption picture(
        "picture", "Write a picture of the window to FILE when its results are there, and quit.", "FILE");
    const QCommandLineOption early(
        "early", "With --picture: as soon as the view is painted; collisions and mass may be missing.");
    const QStringList views = kollema::desktop::MainWindow::view_names();
    const QCommandLineOption view("view", "Show " + views.join(", ") + ".", "VIEW");
    parser.addOptions({demo, picture, early, view});
    parser.addPositionalArgument("PROJECT", "Project file to open.", "[PROJECT]");
    parser.process(application);

    if (parser.isSet(view) && !views.contains(parser.value(view))) {
        std::fprintf(stderr, "kollema: --view %s: there is no such view. Use one of %s\n",
                     qPrintable(parser.value(view)), qPrintable(views.join(", ")));
        return 2;
    }
    if (parser.isSet(early) && !parser.isSet(picture)) {
        std::fputs("kollema: --early says when --picture is taken; name that too\n", stderr);
        return 2;
    }
    kollema::desktop::load_resources();
    kollema::desktop::MainWindow window;
    application.tell = [&window](const QString& message) { window.refuse(message); };
    const QString path = parser.positionalArguments().value(0);
    if (!path.isEmpty() && parser.isSet(picture)) { // nobody is there to read a message in the window
        if (const auto project = kollema::file::load(path.toStdString()); !project) {
            std::fprintf(stderr, "kollema: %s\n", kollema::in_one_line(project.error()).c_str());
            return 3;
        }
    }
    if (!path.isEmpty())
        window.open_file(path);
    else if (parser.isSet(demo))
        window.open_demo();
    window.show();
    if (parser.isSet(view))
        window.show_view(static_cast<kollema::desktop::MainWindow::View>(views.indexOf(parser.value(view))));
    QTimer look;
    if (parser.isSet(picture)) {
        QObject::connect(&look, &QTimer::timeout, &window, [&] {
            if (!(parser.isSet(early) ? window.is_painted() : window.is_settled())) return;
            look.stop();
            QTimer::singleShot(0, &window, [&] { // what came last is drawn first
                const bool written = window.grab().save(parser.value(picture));
                if (!written)
                    std::fprintf(stderr, "kollema: %s cannot be written\n",
                                 qPrintable(parser.value(picture)));
                QApplication::exit(written ? 0 : 1);
            });
        });
        look.start(20);
    }
    return QApplication::exec();
}
