#pragma once
#include "fit/family.hpp"
#include "presenter/bench.hpp"
#include <QWidget>
#include <optional>

namespace kollema::desktop {

/// Tolerance zones of a hole and a shaft about the zero line, to scale, with the neighbouring zones beside
/// them.  A zone is moved by dragging it, by clicking a neighbour, or by keys: up and down to the next
/// letter, left and right to the next grade, with Shift for the other member.
class ZonesView : public QWidget {
    Q_OBJECT
public:
    explicit ZonesView(QWidget* parent = nullptr);
    void show_fit(double nominal_mm, const standards::Fit& fit, LengthUnit unit);
    void show_message(const QString& message);
    QSize minimumSizeHint() const override { return {320, 200}; }

signals:
    void fit_wished(const QString& fit);

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    struct Bar {
        QRectF box;
        QString fit; ///< what a click on it takes; empty for the two members themselves
    };
    double y_of(double um) const { return zero_y_ - um * pixels_per_um_; }
    void set_scale();
    void paint_axis(QPainter& painter) const;
    void paint_member(QPainter& painter, standards::Side side) const;
    void paint_neighbours(QPainter& painter);
    QRectF member_box(standards::Side side) const;
    const fit::Family& family_of(standards::Side side) const {
        return side == standards::Side::hole ? holes_ : shafts_;
    }
    QString figure(double um) const;
    void wish(const QString& fit);

    double nominal_mm_ = 0;
    std::optional<standards::Fit> fit_;
    fit::Family holes_, shafts_;
    LengthUnit unit_ = LengthUnit::mm;
    QString message_;
    double pixels_per_um_ = 1, zero_y_ = 0;
    std::vector<Bar> neighbours_;
    std::optional<standards::Side> dragged_;
    double drag_from_y_ = 0, drag_middle_um_ = 0;
    QString drag_to_;
};

}
