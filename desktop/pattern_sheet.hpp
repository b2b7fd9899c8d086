#pragma once
#include "presenter/patterns.hpp"
#include <QWidget>

class QCustomPlot;
class QLabel;
class QListWidget;
class QPushButton;

namespace kollema::desktop {

/// Holes to scale as their joint has them; the deeper the colour, the more a hole governs what does not go
/// together.
class PatternPicture : public QWidget {
    Q_OBJECT
public:
    explicit PatternPicture(QWidget* parent = nullptr);
    void show_holes(std::vector<ShownHole> holes);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    std::vector<ShownHole> holes_;
};

/// Whether the fasteners of a joint pass all its holes: yield, what governs, and charts to choose by.
class PatternSheet : public QWidget {
    Q_OBJECT
public:
    explicit PatternSheet(QWidget* parent = nullptr);
    void show_pattern(const QString& name, const ShownPattern& pattern, LengthUnit unit);
    void show_message(const QString& name, const QString& message);
    void restyle();

signals:
    void class_wished(const std::string& name);

private:
    void draw_charts();

    ShownPattern pattern_;
    LengthUnit unit_ = LengthUnit::mm;
    QLabel *name_, *plates_, *yield_, *verdict_, *numbers_;
    PatternPicture* picture_;
    QCustomPlot *by_hole_, *by_zone_;
    QListWidget* classes_;
    QPushButton* take_;
};

}
