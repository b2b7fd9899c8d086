#pragma once
#include "geometry/recent.hpp"
#include <algorithm>
#include <condition_variable>
#include <exception>
#include <mutex>
#include <optional>
#include <vector>

namespace kollema::geometry {

/// What was made lately, shared by threads: who asks for what another is making just now waits for it instead
/// of making it again.
template <class From, class Made>
class MadeOnce {
public:
    explicit MadeOnce(std::size_t most_bytes) : recent_(most_bytes) {}

    /// `make` may take long and throw: then the next who asks makes it.  `bytes_of` what it made.
    template <class Make, class Bytes>
    Made take(const From& from, std::size_t hash, const Make& make, const Bytes& bytes_of) {
        std::unique_lock lock(mutex_);
        const auto is_it = [&](const Making& one) { return one.hash == hash && *one.from == from; };
        for (;;) {
            if (const Made* known = recent_.find(from, hash)) return *known;
            if (std::ranges::none_of(making_, is_it)) break;
            changed_.wait(lock);
        }
        making_.push_back({hash, &from});
        lock.unlock();
        std::optional<Made> made;
        std::exception_ptr failed;
        try {
            made = make();
        } catch (...) {
            failed = std::current_exception();
        }
        lock.lock();
        std::erase_if(making_, [&](const Making& one) { return one.from == &from; });
        changed_.notify_all();
        if (failed) std::rethrow_exception(failed);
        recent_.add(from, hash, *made, bytes_of(*made));
        ++made_;
        return *made;
    }

    std::size_t made() const {
        const std::lock_guard lock(mutex_);
        return made_;
    }

private:
    struct Making {
        std::size_t hash = 0;
        const From* from = nullptr; ///< of who makes it, who keeps it that long
    };
    mutable std::mutex mutex_;
    std::condition_variable changed_;
    Recent<From, Made> recent_;
    std::vector<Making> making_;
    std::size_t made_ = 0;
};

}
