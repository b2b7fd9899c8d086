#include "document.hpp"
#include "presenter/changes.hpp"
#include "presenter/text.hpp"
#include <QUndoCommand>

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
    connect(&compute_, &Job::failed, this, &Document::take_failure);
    connect(&compare_, &Job::failed, this, &Document::edit_refused);
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
    compute_.stop(); // before anything is painted
    compare_.stop();
    project_ = std::move(project);
    up_to_date_ = false;
    emit project_changed();
    recompute();
}

void Document::recompute() {
    compute_.start<Computed>(
        [project = project_, before = results_, tell = tell_consequences_,
         unit = unit_](const Ticket& ticket) {
            Computed done{compute_results(project, before, [&] { return ticket.is_wanted(); }), {}};
            if (done.results && before && tell)
                done.consequences = changes_between(*before, *done.results, unit);
            return done;
        },
        [this](const Computed& done) { take(done); });
}

void Document::take(const Computed& done) {
    if (!done.results) return;
    results_ = done.results;
    up_to_date_ = true;
    emit results_changed();
    if (!done.consequences.isEmpty()) emit edit_landed(done.consequences);
    tell_consequences_ = true;
    compare_solids();
}

/// Nothing is known of this project then; the window says why instead of waiting for ever.
void Document::take_failure(const QString& message) {
    auto results = std::make_shared<Results>();
    results->project = project_;
    results->failure = Failure{.what = project_->name, .why = message.toStdString(), .remedy = {}};
    take({std::move(results), {}});
}

/// After the results, for solids take longer; an edit stops it.
void Document::compare_solids() {
    if (results_->failure) return;
    compare_.start<std::shared_ptr<const Results>>(
        [results = results_, solids = solids_](const Ticket& ticket) {
            return with_crossings(results, *solids, [&] { return ticket.is_wanted(); });
        },
        [this](std::shared_ptr<const Results> more) {
            if (!more || more->project != project_) return;
            results_ = std::move(more);
            emit findings_changed();
        });
}

}
