#pragma once
#include "background/job.hpp"
#include "geometry/part_solids.hpp"
#include "model/project.hpp"
#include "presenter/results.hpp"
#include "quantity/format.hpp"
#include <QObject>
#include <QString>
#include <QStringList>
#include <QUndoStack>
#include <memory>

namespace kollema::desktop {

/// The project in the window: its value, its undo stack, and the results that belong to it.  Results are
/// computed from a copy on another thread; an answer to an older project is dropped.
class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);

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
    bool is_comparing_solids() const { return compare_.is_running(); }

signals:
    void project_changed();
    void results_changed();
    void findings_changed(); ///< the solids were compared: parts that stand in each other are known
    void edit_landed(const QStringList& consequences); ///< after the results of an edit are there
    void edit_refused(const QString& message);
    void path_changed();

private:
    struct Computed;
    void recompute();
    void take(const Computed& computed);
    void take_failure(const QString& message);
    void compare_solids();

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
    std::shared_ptr<geometry::PartSolids> solids_ = std::make_shared<geometry::PartSolids>();
    Job compute_, compare_{nullptr, Job::Haste::later};
};

}
