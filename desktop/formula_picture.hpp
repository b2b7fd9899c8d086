#pragma once
#include "presenter/chains.hpp"
#include <QWidget>

namespace kollema::desktop {

/// A chain that is no sum: its loops to scale, closed as they are at nominal sizes, and beside them how far
/// each size within its limits swings the gap.
class FormulaPicture : public QWidget {
    Q_OBJECT
public:
    explicit FormulaPicture(QWidget* parent = nullptr);
    void show_chain(const ShownChain& chain, LengthUnit unit);
    void choose(int row); ///< −1: none

signals:
    void row_clicked(int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    struct Swing {
        QString text;
        double half = 0; ///< of the gap, mm
    };
    QRectF loops_area() const;
    QRectF swings_area() const;
    double lane_height() const;
    void draw_loops(QPainter& painter, const QRectF& area) const;
    void draw_swings(QPainter& painter, const QRectF& area) const;

    std::vector<ShownLoop> loops_;
    std::vector<Swing> swings_;
    int chosen_ = -1;
};

}
