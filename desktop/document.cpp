#include "document.hpp"
#include "presenter/changes.hpp"
#include "presenter/text.hpp"
#include <QUndoCommand>
#include <QtConcurrentRun>

namespace kollema::desktop {
namespace {

class EditCommand : public QUndoCommand {
public:
    EditCommand(Document& document, const QString& text, Project after)
        : QUndoCommand(text),
          document_(document),
          before_(document.snapshot()),
          after_(std::make_shared<const Project>(std::move(after))) {}
    void redo() override { document_.show(after_); }
    void undo() override { document_.show(before_); }

private:
    Document& document_;
    std::shared_ptr<const Project> before_, after_;
};

}

Document::Document(QObject* parent) : QObject(parent) {
    connect(&watcher_, &QFutureWatcherBase::finished, this, &Document::take_results);
    connect(&crossing_watcher_, &QFutureWatcherBase::finished, this, &Document::take_crossings);
}

Document::~Document() {
    stop_computing();
    watcher_.waitForFinished();
    crossing_watcher_.waitForFinished();
}

bool Document::apply(const QString& text, Result<Project> after) {
    if (!after) {
        emit edit_refused(message(after.error()));
        return false;
    }
    if (*after == *project_) return true; // nothing to undo
    tell_consequences_ = true;
    undo_.push(new EditCommand(*this, text, std::move(*after)));
    return true;
}

void Document::open(const Project& project, const QString& path) {
    undo_.clear();
    path_ = path;
    tell_consequences_ = false;
    results_.reset();
    show(std::make_shared<const Project>(project));
    emit path_changed();
}

void Document::saved_as(const QString& path) {
    path_ = path;
    undo_.setClean();
    emit path_changed();
}

void Document::show(std::shared_ptr<const Project> project) {
    project_ = std::move(project);
    up_to_date_ = false;
    emit project_changed();
    recompute();
}

void Document::stop_computing() {
    if (stop_) *stop_ = true;
}

void Document::recompute() {
    stop_computing();
    stop_ = std::make_shared<std::atomic<bool>>(false);
    // The watcher forgets the older computation; that one sees its stop flag and ends by itself.
    watcher_.setFuture(QtConcurrent::run([project = project_, before = results_, tell = tell_consequences_,
                                          unit = unit_, stop = stop_]() -> Computed {
        Computed done{compute_results(project, before, [&] { return !*stop; }), {}};
        if (done.results && before && tell) done.consequences = changes_between(*before, *done.results, unit);
        return done;
    }));
}

void Document::take_results() {
    if (watcher_.isCanceled() || watcher_.future().resultCount() == 0) return;
    const Computed done = watcher_.result();
    if (!done.results) return;
    results_ = done.results;
    up_to_date_ = true;
    emit results_changed();
    if (!done.consequences.isEmpty()) emit edit_landed(done.consequences);
    tell_consequences_ = true;
    compare_solids();
}

/// After the results, for solids take longer; an edit stops it.
void Document::compare_solids() {
    if (results_->failure) return;
    crossing_watcher_.setFuture(QtConcurrent::run([results = results_, solids = solids_, stop = stop_] {
        return with_crossings(results, *solids, [&] { return !*stop; });
    }));
}

void Document::take_crossings() {
    if (crossing_watcher_.isCanceled() || crossing_watcher_.future().resultCount() == 0) return;
    auto more = crossing_watcher_.result();
    if (!more || more->project != project_) return;
    results_ = std::move(more);
    emit findings_changed();
}

}
