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
    parser.addOptions({demo, picture});
    parser.addPositionalArgument("PROJECT", "Project file to open.", "[PROJECT]");
    parser.process(application);

    kollema::desktop::load_resources();
    kollema::desktop::MainWindow window;
    if (!parser.positionalArguments().isEmpty())
        window.open_file(parser.positionalArguments().front());
    else if (parser.isSet(demo))
        window.open_demo();
    window.show();
    if (parser.isSet(picture))
        QObject::connect(&window.document(), &kollema::desktop::Document::results_changed, &window, [&] {
            QTimer::singleShot(300, &window, [&] {
                const bool written = window.grab().save(parser.value(picture));
                if (!written)
                    std::fprintf(stderr, "kollema: %s cannot be written\n",
                                 qPrintable(parser.value(picture)));
                QApplication::exit(written ? 0 : 1);
            });
        });
    return QApplication::exec();
}
