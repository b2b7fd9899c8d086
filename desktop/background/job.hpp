#pragma once
#include <QObject>
#include <QString>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>
#include <utility>

namespace kollema::desktop {

/// What a computation and the one who waits for it know of each other.  May be shared by threads.
class Ticket {
public:
    bool is_wanted() const { return wanted_; } ///< false: nobody waits any more, the computation may end
    void tell_progress(double share) const { share_ = share; }
    double progress() const { return share_; } ///< from 0 to 1

private:
    friend class Job;
    std::atomic<bool> wanted_ = true;
    mutable std::atomic<double> share_ = 0;
};

/// The one door to work off the window's thread: one computation at a time, in a pool of its own, for Qt's
/// painter fills large shapes by the global one and would wait for us there.  A computation that is begun
/// takes the place of the one before, whose answer is dropped.  What it throws becomes a message.
class Job : public QObject {
    Q_OBJECT
public:
    /// What nobody looks at gives way to what is shown where the machine has too few cores for both.
    enum class Haste { shown, later };
    explicit Job(QObject* parent = nullptr, Haste haste = Haste::shown);
    ~Job() override; ///< stops, and waits for the end

    /// `compute` runs elsewhere and owns what it uses; `take` is called with its answer on this thread.
    template <class T>
    void start(std::function<T(const Ticket&)> compute, std::function<void(T)> take) {
        begin([compute = std::move(compute), take = std::move(take)](const Ticket& ticket) {
            auto answer = std::make_shared<T>(compute(ticket));
            return [answer, take] { take(std::move(*answer)); };
        });
    }
    void stop();
    bool is_running() const { return ticket_ != nullptr; }
    double progress() const { return ticket_ ? ticket_->progress() : 0; }

signals:
    void failed(const QString& message);

private:
    using Landing = std::function<void()>;
    void begin(std::function<Landing(const Ticket&)> work);
    void land(const std::shared_ptr<Ticket>& ticket, const Landing& landing);

    std::shared_ptr<Ticket> ticket_; ///< of the computation whose answer is waited for
    QThreadPool pool_;
    Haste haste_;
};

/// What is told where the program itself is at fault: what happened, and that the project is as it was.
QString internal_fault(const QString& what);

}
