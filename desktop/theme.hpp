#pragma once
#include "check/finding.hpp"
#include <QColor>
#include <QFont>

class QApplication;

namespace kollema::desktop {

/// The colours of the window, light or dark.  Signs and words always stand beside them.
struct Theme {
    QColor paper, sheet, ink, faint, line, accent, accent_ink;
    QColor error, warning, good, note;
    QColor hardware, selection;
    QColor tints[4]; ///< of cut parts
    bool dark = false;
};

const Theme& theme(); ///< the one in use
QColor colour(Severity severity);

/// Sets palette, style sheet and the shipped font for the whole application.
void apply_theme(QApplication& application, bool dark);

/// Makes the files built into the program known, and loads the shipped font.  Once, before the first window.
void load_resources();

}
