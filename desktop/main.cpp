#include "file/project_file.hpp"
#include "main_window.hpp"
#include "theme.hpp"
#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>
#include <cstdio>

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setOrganizationName("Kollema");
    QApplication::setApplicationName("Kollema");
    QCommandLineParser parser;
    parser.setApplicationDescription("Joints, fits and tolerance stacks between parts that go together");
    parser.addHelpOption();
    const QCommandLineOption demo("demo", "Open the demo project.");
    const QCommandLineOption picture(
        "picture", "Write a picture of the window to FILE when its results are there, and quit.", "FILE");
    const QCommandLineOption view("view", "Show joints, assembly, bench or hardware.", "VIEW");
    parser.addOptions({demo, picture, view});
    parser.addPositionalArgument("PROJECT", "Project file to open.", "[PROJECT]");
    parser.process(application);

    kollema::desktop::load_resources();
    kollema::desktop::MainWindow window;
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
    else if (parser.isSet(picture))
        window.document().open(kollema::Project{.name = "New project"}, {});
    window.show();
    const QStringList views{"joints", "assembly", "bench", "hardware"};
    if (const auto index = views.indexOf(parser.value(view)); index > 0)
        window.show_view(static_cast<kollema::desktop::MainWindow::View>(index));
    QTimer look;
    if (parser.isSet(picture)) {
        QObject::connect(&look, &QTimer::timeout, &window, [&] {
            if (!window.is_settled()) return;
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
