#include "background/job.hpp"
#include <QMetaObject>
#include <exception>
#include <sys/resource.h>

namespace kollema::desktop {
namespace {

/// Of the exception that is being handled.
QString thrown() {
    try {
        throw;
    } catch (const std::exception& e) {
        return QString::fromUtf8(e.what());
    } catch (...) {
        return "of an unknown kind";
    }
}

}

Job::Job(QObject* parent, Haste haste) : QObject(parent), haste_(haste) { pool_.setMaxThreadCount(1); }

Job::~Job() {
    stop();
    pool_.waitForDone(); // what is still posted to this object vanishes with it
}

void Job::stop() {
    if (ticket_) ticket_->wanted_ = false;
    ticket_.reset();
}

void Job::begin(std::function<Landing(const Ticket&)> work) {
    stop();
    ticket_ = std::make_shared<Ticket>();
    pool_.start([this, haste = haste_, ticket = ticket_, work = std::move(work)] {
        if (!ticket->is_wanted()) return;
        // Of this thread alone and those that it begins: Linux's own reading of it.
        constexpr int gives_way = 10;
        if (haste == Haste::later) setpriority(PRIO_PROCESS, 0, gives_way);
        Landing landing;
        try {
            landing = work(*ticket);
        } catch (...) {
            landing = [this, what = thrown()] { emit failed(internal_fault(what)); };
        }
        QMetaObject::invokeMethod(
            this, [this, ticket, landing] { land(ticket, landing); }, Qt::QueuedConnection);
    });
}

void Job::land(const std::shared_ptr<Ticket>& ticket, const Landing& landing) {
    if (ticket != ticket_) return; // another one is waited for
    ticket_.reset();
    try {
        landing();
    } catch (...) {
        emit failed(internal_fault(thrown()));
    }
}

QString internal_fault(const QString& what) {
    return QString("Kollema itself failed here (%1): the project is as it was. Undo the last step, or save "
                   "under another name and open it again")
        .arg(what.left(200));
}

}
#include "moc_job.cpp"
