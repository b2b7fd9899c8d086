#pragma once
#include "geometry/part_solids.hpp"
#include "geometry/picture.hpp"
#include "quantity/format.hpp"
#include <QPixmap>
#include <QWidget>

class QLineEdit;

namespace kollema::desktop {

/// A part from a slanted view; `seen`, where given, becomes the view that was fitted.
QPixmap picture_of_recipe(const shape::Recipe& recipe, geometry::PartSolids& solids, const QSize& size,
                          geometry::View* seen = nullptr);

/// A body with its lengths in fields at their places in the drawing: a line leads from each to what it moves,
/// an arrow shows whither.
class SizesPicture : public QWidget {
    Q_OBJECT
public:
    explicit SizesPicture(geometry::PartSolids& solids);
    /// Other fields than before: they are made anew.
    void show_body(const Body& body, LengthUnit unit);
    /// The same fields; the picture follows.
    void draw(const Body& body);
    /// Lengths that have a place in the drawing, with their fields.
    const std::vector<std::pair<Parameter, QLineEdit*>>& fields() const { return fields_; }

signals:
    void typed();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    struct Place {
        QWidget* box;
        QPointF at, arrow; ///< in the picture: what moves, and whither
    };
    void arrange();
    QPointF on_screen(const Vector3& point) const;

    geometry::PartSolids& solids_;
    Body body_;
    geometry::View view_;
    QPixmap pixmap_;
    std::vector<std::pair<Parameter, QLineEdit*>> fields_;
    std::vector<Place> places_;
};

}
