#pragma once
#include "drawing/section.hpp"
#include <QWidget>
#include <optional>
#include <vector>

class QPixmap;

namespace kollema::desktop {

/// A joint's section, true to scale: hatched members, real hardware, and figures that lead to their field on
/// a click. The wheel zooms, dragging moves, double click shows all.
class SectionView : public QWidget {
    Q_OBJECT
public:
    explicit SectionView(QWidget* parent = nullptr);
    void show_section(const drawing::Section& section, LengthUnit unit);
    void show_message(const QString& message); ///< instead of a section
    void set_outdated(bool outdated);          ///< says that the picture belongs to an older project
    bool is_outdated() const { return outdated_; }
    void show_all();
    void set_plain(bool plain); ///< without figures, lenses and scale
    QByteArray svg() const;     ///< the picture as it is
    QSize minimumSizeHint() const override { return {320, 180}; }

signals:
    void figure_clicked(const QString& figure);

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    struct Label {
        QRectF box;
        QPointF anchor;
        QString text, figure;
        drawing::Side side;
    };
    void fit();
    double column_width(drawing::Side side) const; ///< of the figures on one side
    void place_labels();
    QPointF on_screen(Point point) const;
    void paint(class QPainter& painter) const;
    QPolygonF polygon(const Polygon& points) const;
    void paint_parts(QPainter& painter) const;
    void paint_hardware(QPainter& painter) const;
    void paint_lens(QPainter& painter, const drawing::Lens& lens) const;
    void paint_scale(QPainter& painter) const;

    std::optional<drawing::Section> section_;
    LengthUnit unit_ = LengthUnit::mm; ///< of the scale's bar
    QString message_;
    bool outdated_ = false;
    double scale_ = 1; ///< pixels a mm
    QPointF offset_, drag_from_;
    std::vector<Label> labels_;
    QString hovered_;
    bool plain_ = false;
};

/// A picture of it in a list.
QPixmap small_section(const drawing::Section& section, const QSize& size);

}
