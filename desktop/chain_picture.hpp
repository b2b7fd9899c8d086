#pragma once
#include "presenter/chains.hpp"
#include <QWidget>

namespace kollema::desktop {

/// A chain to scale: its sizes as arrows end to end, one below the other, and the gap that closes them.
class ChainPicture : public QWidget {
    Q_OBJECT
public:
    explicit ChainPicture(QWidget* parent = nullptr);
    void show_chain(const ShownChain& chain, LengthUnit unit);
    void show_message(const QString& message);
    void choose(int row); ///< −1: none

signals:
    void row_clicked(int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    struct Arrow {
        QString text;
        double from = 0, to = 0;
        int row = -1; ///< −1: the gap, or what is not listed
    };
    double lane_height() const;

    std::vector<Arrow> arrows_;
    QString message_;
    int chosen_ = -1;
    bool met_ = true;
};

}
