#pragma once
#include <initializer_list>

class QFrame;
class QLabel;
class QLayout;
class QSplitter;
class QString;
class QWidget;

namespace kollema::desktop {

/// The pieces that all views are built of: a framed sheet, its heading, and sheets side by side.
QFrame* framed(QLayout* layout);
QLabel* heading(const QString& text);
/// Widths in pixels; the middle one takes what room there is more.
QSplitter* side_by_side(std::initializer_list<QWidget*> sheets, std::initializer_list<int> widths);

}
