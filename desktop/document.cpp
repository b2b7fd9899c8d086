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
          before_(document.project()),
          after_(std::move(after)) {}
    void redo() override { document_.show(after_); }
    void undo() override { document_.show(before_); }

private:
    Document& document_;
    Project before_, after_;
};

}

Document::Document(QObject* parent) : QObject(parent) {
    connect(&watcher_, &QFutureWatcherBase::finished, this, &Document::take_results);
}

Document::~Document() {
    stop_computing();
    watcher_.waitForFinished();
}

bool Document::apply(const QString& text, Result<Project> after) {
    if (!after) {
        emit edit_refused(message(after.error()));
        return false;
    }
    if (*after == project_) return true; // nothing to undo
    tell_consequences_ = true;
    undo_.push(new EditCommand(*this, text, std::move(*after)));
    return true;
}

void Document::open(const Project& project, const QString& path) {
    undo_.clear();
    path_ = path;
    tell_consequences_ = false;
    results_.reset();
    show(project);
    emit path_changed();
}

void Document::saved_as(const QString& path) {
    path_ = path;
    undo_.setClean();
    emit path_changed();
}

void Document::show(const Project& project) {
    project_ = project;
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
    watcher_.setFuture(QtConcurrent::run(
        [project = project_, before = results_, stop = stop_]() -> std::shared_ptr<const Results> {
            return compute_results(project, before, [&] { return !*stop; });
        }));
}

void Document::take_results() {
    if (watcher_.isCanceled() || watcher_.future().resultCount() == 0) return;
    auto results = watcher_.result();
    if (!results) return;
    QStringList consequences;
    if (tell_consequences_ && results_)
        consequences = changes_between(project_of_results_, *results_, project_, *results, unit_);
    results_ = std::move(results);
    project_of_results_ = project_;
    up_to_date_ = true;
    emit results_changed();
    if (!consequences.isEmpty()) emit edit_landed(consequences);
    tell_consequences_ = true;
}

}
