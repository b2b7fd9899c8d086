#pragma once
class QCustomPlot;

namespace kollema::desktop {

/// Colours and fonts of the theme for a plot: quiet axes, no grid.
void style_plot(QCustomPlot& plot);

}
