#pragma once
#include "presenter/figures.hpp"
#include <QFrame>
#include <map>

class QGridLayout;

namespace kollema::desktop {

/// The figures of a joint or a pair as fields; a change is a wish that the window turns into an edit.
class FigureStrip : public QFrame {
    Q_OBJECT
public:
    /// `cell_width`: how wide a field wants to be, in pixels; as many stand side by side as there is room
    /// for, but not more than `most_columns`.
    explicit FigureStrip(int cell_width = 128, int most_columns = 99, QWidget* parent = nullptr);
    /// `subject`: whose figures they are.  A field that is being typed into stays as it is; where they are of
    /// another subject, what was typed is said first.
    void show_figures(const QString& subject, const std::vector<Figure>& figures);
    const QString& subject() const { return subject_; }
    void commit(); ///< what is being typed is said
    void focus_figure(const QString& key);

signals:
    void change_wished(const QString& subject, const QString& key, const QString& value);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QWidget* make_field(const Figure& figure);
    void update_field(QWidget* field, const Figure& figure);
    void lay_out();

    int cell_width_, most_columns_;
    QGridLayout* grid_;
    QString subject_;
    std::vector<Figure> figures_;
    std::map<QString, QWidget*> fields_;
    std::vector<QWidget*> cells_;
    int columns_ = 0;
};

}
