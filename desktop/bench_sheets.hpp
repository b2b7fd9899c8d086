#pragma once
#include "presenter/bench.hpp"
#include <QWidget>

class QComboBox;
class QCheckBox;
class QCustomPlot;
class QLabel;
class QVBoxLayout;

namespace kollema::desktop {

class SteadyTable;

/// Play, tilt, movement at the reach, and the clearance over temperature.
class PlaySheet : public QWidget {
    Q_OBJECT
public:
    explicit PlaySheet(QWidget* parent = nullptr);
    void show_pair(const FitPair& pair, const BenchResult& result, LengthUnit unit);

private:
    QLabel* numbers_;
    QCustomPlot* plot_;
};

/// Pressure, forces, stress across the walls, heating and cooling with their cautions.
class PressSheet : public QWidget {
    Q_OBJECT
public:
    explicit PressSheet(QWidget* parent = nullptr);
    void show_pair(const FitPair& pair, const BenchResult& result, LengthUnit unit);

private:
    void show_walls(const FitPair& pair, const BenchResult& result, LengthUnit unit);
    QLabel *numbers_, *cautions_;
    QCustomPlot* plot_;
};

/// Seats of a ball bearing: zones from the load, shoulders, fillet, length, chamfer.
class BearingSheet : public QWidget {
    Q_OBJECT
public:
    explicit BearingSheet(QWidget* parent = nullptr);
    void show_pair(const FitPair& pair, const BenchResult& result, LengthUnit unit);
    fit::SeatTask task() const;

signals:
    void task_changed();
    void fit_wished(const QString& fit); ///< the recommended zone of the shaft for the pair

private:
    QComboBox *direction_, *load_;
    QCheckBox *precise_, *split_;
    QLabel *zones_, *remarks_;
};

/// From what the pair must do to two or three fits.
class AdviceSheet : public QWidget {
    Q_OBJECT
public:
    explicit AdviceSheet(QWidget* parent = nullptr);
    void show_pair(const FitPair& pair, const std::vector<standards::Process>& processes, LengthUnit unit);

signals:
    void fit_wished(const QString& fit);

private:
    void advise();
    QComboBox *duty_, *load_, *apart_, *basis_;
    QVBoxLayout* cards_;
    FitPair pair_;
    std::vector<standards::Process> processes_;
    LengthUnit unit_ = LengthUnit::mm;
};

/// What each way of making holds; the workshop's own figures are typed here.
class ProcessSheet : public QWidget {
    Q_OBJECT
public:
    explicit ProcessSheet(QWidget* parent = nullptr);
    void show_processes(const Workshop& workshop, const FitPair& pair, LengthUnit unit);

signals:
    void process_wished(const standards::Process& process);
    void reset_wished(const QString& id);
    void refused(const QString& message);

private:
    void take(int row, int column);
    SteadyTable* table_;
    std::vector<standards::Process> processes_;
    LengthUnit unit_ = LengthUnit::mm;
};

}
