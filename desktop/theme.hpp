#pragma once
#include "check/finding.hpp"
#include <QColor>
#include <QFont>

class QApplication;
class QWidget;

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

/// Sets palette and style sheet for the whole application.  A style sheet goes through every widget under it,
/// so it stands on each window and on what dress() names, and what is hidden takes it when it is shown.
void apply_theme(QApplication& application, bool dark);
/// A part of the main window that wears the style sheet by itself.
void dress(QWidget& part);

/// Makes the files built into the program known, and loads the shipped font.  Once, before the first window.
void load_resources();

}
