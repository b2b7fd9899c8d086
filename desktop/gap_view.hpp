#pragma once
#include "presenter/results.hpp"
#include "quantity/format.hpp"
#include <QWidget>

class QComboBox;
class QCustomPlot;
class QLabel;

namespace kollema::desktop {

class SteadyTable;
class ValueEdit;

/// A requirement: its limits, what statistics and worst case say, the gap's distribution, and who contributes
/// most.
class GapView : public QWidget {
    Q_OBJECT
public:
    explicit GapView(QWidget* parent = nullptr);
    void show_gaps(const Project& project, const Results* results, LengthUnit unit);
    /// The project has changed; what was computed is of before.
    void show_outdated(const Project& project);
    const RequirementId& chosen() const { return chosen_; }
    void choose(const RequirementId& requirement);
    void restyle(); ///< after a change of theme

signals:
    void gap_shown(const RequirementId& requirement); ///< another one, or the same anew; empty for none
    void limits_wished(const RequirementId& requirement, const QString& lower, const QString& upper);
    void tolerance_wished(const PartId& part, const DimensionId& dimension, const QString& text);
    void requirement_wished(const QString& what, const Requirement& requirement);
    void edit_refused(const QString& message);

private:
    QLayout* rules_row();
    void connect_rules();
    void show_rules(const Requirement* requirement);
    void show_chosen();
    void show_numbers(const GapResult& gap);
    void show_curve(const GapResult& gap);
    void show_contributions(const GapResult& gap);
    void copy_as_csv() const;
    double shown(double mm) const { return from_mm(mm, unit_); }

    Collection<Requirement> requirements_;
    std::vector<std::shared_ptr<const GapResult>> gaps_;
    LengthUnit unit_ = LengthUnit::mm;
    RequirementId chosen_;
    bool outdated_ = false;

    QComboBox* requirement_;
    ValueEdit *lower_, *upper_, *at_;
    QComboBox *resting_, *decided_by_;
    QLabel *verdict_, *yield_, *numbers_, *remarks_;
    QCustomPlot* plot_;
    SteadyTable* table_;
};

}
