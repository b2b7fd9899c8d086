#pragma once
#include "background/job.hpp"
#include "presenter/patterns.hpp"
#include <QWidget>
#include <memory>

class QCustomPlot;
class QLabel;
class QListWidget;
class QPushButton;

namespace kollema::desktop {

class PatternForm;

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

/// Whether the fasteners of a joint or of a typed pattern pass all holes: yield, what governs, and charts to
/// choose by.  Computes what it shows, off the window's thread; a typed pattern is changed here.
class PatternSheet : public QWidget {
    Q_OBJECT
public:
    explicit PatternSheet(QWidget* parent = nullptr);
    /// Precondition: the project has the source.  A typed pattern is shown in its own unit.
    void look_at(std::shared_ptr<const Project> project, const PatternSource& source, LengthUnit unit);
    bool is_computing() const { return compute_.is_running(); }
    void edit_first_cell();
    void restyle();

signals:
    void class_wished(const JointId& joint, const std::string& name);
    void pattern_wished(const QString& what, const TypedPattern& pattern);
    void refused(const QString& message);

private:
    struct Question {
        std::shared_ptr<const Project> project;
        PatternSource source;
        LengthUnit unit = LengthUnit::mm;
    };
    struct Answer {
        Question asked;
        Result<ShownPattern> shown;
    };

    QWidget* build_left();
    QWidget* build_right();
    const TypedPattern* typed() const; ///< null where a joint is looked at
    bool is_of_now(const Question& asked) const;
    void compute();
    void take(std::shared_ptr<const Answer> answer);
    void take_class();
    void show_now();
    void show_message(const QString& message);
    void show_classes();
    void show_pattern(const ShownPattern& pattern);
    void draw_charts();

    Question now_;     ///< what is looked at
    Question running_; ///< what is computed, while it is
    std::shared_ptr<const Answer> answer_;
    Job compute_;

    ShownPattern pattern_;
    PatternForm* form_;
    QLabel *name_, *plates_, *yield_, *verdict_, *numbers_, *classes_title_;
    PatternPicture* picture_;
    QCustomPlot *by_hole_, *by_zone_;
    QListWidget* classes_;
    QPushButton* take_;
};

}
