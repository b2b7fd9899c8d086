#define CATCH_CONFIG_RUNNER
#include "theme.hpp"
#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    // Settings of the person who runs the tests stay untouched.
    const QTemporaryDir home;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, home.path());
    QApplication application(argc, argv);
    QApplication::setOrganizationName("Kollema");
    QApplication::setApplicationName("Kollema tests");
    kollema::desktop::load_resources();
    return Catch::Session().run(argc, argv);
}
