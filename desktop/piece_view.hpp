#pragma once
#include "piece/view.hpp"
#include "quantity/format.hpp"
#include <QWidget>
#include <optional>

namespace kollema::desktop {

/// A piece of hardware from its table, true to scale, with the letters of its standard.
class PieceView : public QWidget {
    Q_OBJECT
public:
    explicit PieceView(QWidget* parent = nullptr);
    void show_piece(const piece::PieceView& view, LengthUnit unit);
    void clear();
    bool save_svg(const QString& path);
    QSize minimumSizeHint() const override { return {300, 180}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void paint(QPainter& painter, const QRectF& room) const;
    std::optional<piece::PieceView> view_;
    LengthUnit unit_ = LengthUnit::mm;
};

}
