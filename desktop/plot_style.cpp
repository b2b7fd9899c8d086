#include "plot_style.hpp"
#include "theme.hpp"
#include <qcustomplot.h>

namespace kollema::desktop {

void style_plot(QCustomPlot& plot) {
    const Theme& t = theme();
    plot.setBackground(t.sheet);
    const QFont small(plot.font().family(), 8);
    for (auto* axis : {plot.xAxis, plot.yAxis}) {
        axis->setBasePen(QPen(t.faint));
        axis->setTickPen(QPen(t.faint));
        axis->setSubTickPen(Qt::NoPen);
        axis->setTickLabelColor(t.ink);
        axis->setLabelColor(t.faint);
        axis->grid()->setVisible(false);
        axis->setTickLabelFont(small);
        axis->setLabelFont(small);
    }
}

}
