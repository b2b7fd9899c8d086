#include "run_tests.hpp"
#include "theme.hpp"
#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>

int main(int argc, char** argv) {
    // Settings of the person who runs the tests stay untouched.
    const QTemporaryDir home;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, home.path());
    QApplication application(argc, argv);
    QApplication::setOrganizationName("Kollema");
    QApplication::setApplicationName("Kollema tests");
    kollema::desktop::load_resources();
    return run_tests(argc, argv);
}
