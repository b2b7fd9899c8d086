#pragma once
#include "geometry/part_solids.hpp"
#include "model/project.hpp"
#include "presenter/results.hpp"
#include "quantity/format.hpp"
#include <QFutureWatcher>
#include <QObject>
#include <QString>
#include <QStringList>
#include <QUndoStack>
#include <atomic>
#include <memory>

namespace kollema::desktop {

/// The project in the window: its value, its undo stack, and the results that belong to it.  Results are
/// computed from a copy on another thread; an answer to an older project is dropped.
class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    const Project& project() const { return *project_; }
    std::shared_ptr<const Project> snapshot() const { return project_; } ///< stays as it is now
    /// The newest results; they belong to project() only when up_to_date().
    const Results* results() const { return results_.get(); }
    std::shared_ptr<const Results> shared_results() const { return results_; }
    bool up_to_date() const { return up_to_date_; }
    QUndoStack& undo_stack() { return undo_; }
    const QString& path() const { return path_; }
    void set_unit(LengthUnit unit) { unit_ = unit; } ///< in which consequences are told

    /// One act of the user: becomes an undoable command; a failed one is reported and changes nothing.
    bool apply(const QString& text, Result<Project> after);

    void open(const Project& project, const QString& path); ///< forgets the undo history
    void saved_as(const QString& path);
    void show(std::shared_ptr<const Project> project); ///< used by the undo commands

    const std::shared_ptr<geometry::PartSolids>& solids() const { return solids_; }
    bool is_comparing_solids() const { return crossing_watcher_.isRunning(); }

    /// Becomes true when the project changes or closes: whatever computes from a copy of it may end then.
    std::shared_ptr<const std::atomic<bool>> stop_flag() const { return stop_; }

signals:
    void project_changed();
    void results_changed();
    void findings_changed(); ///< the solids were compared: parts that stand in each other are known
    void edit_landed(const QStringList& consequences); ///< after the results of an edit are there
    void edit_refused(const QString& message);
    void path_changed();

private:
    void recompute();
    void take_results();
    void compare_solids();
    void take_crossings();
    void stop_computing();

    /// Results and what they changed since those before, told on the thread that computed them.
    struct Computed {
        std::shared_ptr<const Results> results;
        QStringList consequences;
    };
    std::shared_ptr<const Project> project_ = std::make_shared<const Project>();
    QString path_;
    LengthUnit unit_ = LengthUnit::mm;
    QUndoStack undo_;
    std::shared_ptr<const Results> results_;
    bool up_to_date_ = false;
    bool tell_consequences_ = false;
    std::shared_ptr<std::atomic<bool>> stop_;
    QFutureWatcher<Computed> watcher_;
    std::shared_ptr<geometry::PartSolids> solids_ = std::make_shared<geometry::PartSolids>();
    QFutureWatcher<std::shared_ptr<const Results>> crossing_watcher_;
};

}
