#pragma once
#include "presenter/figures.hpp"
#include <QFrame>
#include <map>

class QGridLayout;

namespace kollema::desktop {

/// The chosen joint's figures as fields; a change is a wish that the window turns into an edit.
class FigureStrip : public QFrame {
    Q_OBJECT
public:
    explicit FigureStrip(QWidget* parent = nullptr);
    void show_figures(const std::vector<Figure>& figures);
    void focus_figure(const QString& key);

signals:
    void change_wished(const QString& key, const QString& value);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* make_field(const Figure& figure);
    void update_field(QWidget* field, const Figure& figure);
    void lay_out();

    QGridLayout* grid_;
    std::vector<Figure> figures_;
    std::map<QString, QWidget*> fields_;
    std::vector<QWidget*> cells_;
    int columns_ = 0;
};

}
