#include "geometry/side_by_side.hpp"
#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

namespace kollema::geometry {

bool side_by_side(std::size_t count, const std::function<bool()>& keep_going,
                  const std::function<void(std::size_t)>& work) {
    std::atomic<std::size_t> next = 0;
    std::atomic<bool> ended = false;
    std::exception_ptr thrown;
    std::mutex mutex;
    const auto run = [&](bool asks) {
        try {
            for (std::size_t i = next++; i < count; i = next++) {
                if (asks && !keep_going()) ended = true;
                if (ended) return;
                work(i);
            }
        } catch (...) {
            ended = true;
            const std::lock_guard lock(mutex);
            if (!thrown) thrown = std::current_exception();
        }
    };
    {
        std::vector<std::jthread> helpers; // the caller works too
        const std::size_t cores = std::max(1U, std::thread::hardware_concurrency());
        for (std::size_t i = 1; i < std::min(cores, count); ++i)
            helpers.emplace_back(run, false);
        run(true);
    }
    if (thrown) std::rethrow_exception(thrown);
    return !ended;
}

}
