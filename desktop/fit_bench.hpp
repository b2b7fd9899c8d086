#pragma once
#include "bench_sheets.hpp"
#include <QWidget>

class QButtonGroup;
class QLabel;
class QListWidget;
class QStackedWidget;

namespace kollema::desktop {

class FigureStrip;
class ValueEdit;
class ZonesView;

/// The fit bench: the project's pairs, the zones of the chosen one, its clearance as a distribution, and the
/// sheets that follow from it.
class FitBench : public QWidget {
    Q_OBJECT
public:
    explicit FitBench(QWidget* parent = nullptr);
    void show_project(const Project& project, LengthUnit unit);
    void choose(const PairId& pair);
    const PairId& chosen() const { return chosen_; }
    Working working() const; ///< of the chosen pair
    void restyle();
    void show_sheet(int index);

signals:
    void figure_wished(const PairId& pair, const QString& key, const QString& value);
    void pair_wished();
    void pair_unwished(const PairId& pair);
    void process_wished(const standards::Process& process);
    void process_reset_wished(const QString& id);
    void refused(const QString& message);

private:
    QWidget* build_left();
    QWidget* build_middle();
    QWidget* build_right();
    void show_pair();
    void show_curve(const FitPair& pair, const BenchResult& result);
    const FitPair* pair() const;
    static QString shown_fit(const standards::Fit& fit);

    Collection<FitPair> project_pairs_;
    Workshop workshop_;
    LengthUnit unit_ = LengthUnit::mm;
    PairId chosen_;
    std::optional<Result<BenchResult>> result_;

    QListWidget* pairs_;
    FigureStrip* figures_;
    ZonesView* zones_;
    QLabel *title_, *verdict_, *shares_;
    ValueEdit* asked_;
    QCustomPlot* plot_;
    QButtonGroup* sheet_buttons_;
    QStackedWidget* sheets_;
    PlaySheet* play_;
    PressSheet* press_;
    BearingSheet* bearing_;
    AdviceSheet* advice_;
    ProcessSheet* processes_;
};

}
