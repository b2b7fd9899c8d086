#include "stack/sampling.hpp"
#include <algorithm>
#include <chrono>
#include <cmath>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace kollema::stack {
namespace {

constexpr std::uint64_t most_groups = 1024;

/// Groups of one share, drawn on several threads.
class Run {
public:
    using Draw = std::function<void(const Block&, std::span<double>)>;

    Run(const Sampling& sampling, std::size_t size, const Draw& draw)
        : sampling_(sampling),
          size_(size),
          draw_(draw),
          groups_(groups_of(sampling.samples)),
          first_(groups_of(groups_, sampling.share)[0]),
          end_(groups_of(groups_, sampling.share)[1]),
          next_(first_),
          sums_(end_ - first_) {}

    /// False when stopped.
    bool run(const KeepGoing& keep_going) {
        const unsigned wanted =
            sampling_.threads ? sampling_.threads : std::max(1U, std::thread::hardware_concurrency());
        const auto workers = static_cast<unsigned>(std::min<std::uint64_t>(wanted, end_ - first_));
        working_ = workers;
        std::vector<std::jthread> helpers; // one fewer where nobody asks: the caller works too
        for (unsigned i = keep_going ? 0 : 1; i < workers; ++i)
            helpers.emplace_back([this] { work(); });
        if (keep_going)
            watch(keep_going);
        else if (workers > 0)
            work();
        helpers.clear(); // they end before anybody reads what they wrote
        return !stopped_;
    }

    std::vector<Sums> take() { return std::move(sums_); }

private:
    void work() {
        for (std::uint64_t g = next_++; g < end_ && !stopped_; g = next_++)
            sums_[g - first_] = group(g);
        const std::lock_guard lock(mutex_);
        --working_;
        ended_.notify_one();
    }

    Sums group(std::uint64_t g) {
        Sums sums(size_), of_block(size_);
        const std::uint64_t end = std::min((g + 1) * groups_.blocks_a_group, groups_.blocks);
        for (std::uint64_t b = g * groups_.blocks_a_group; b < end && !stopped_; ++b) {
            std::ranges::fill(of_block, 0.0);
            draw_({b, std::min(samples_a_block, sampling_.samples - b * samples_a_block), stopped_},
                  of_block);
            for (std::size_t i = 0; i < size_; ++i)
                sums[i] += of_block[i];
            ++blocks_done_;
        }
        return sums;
    }

    void watch(const KeepGoing& keep_going) {
        const std::uint64_t blocks =
            std::min(end_ * groups_.blocks_a_group, groups_.blocks) - first_ * groups_.blocks_a_group;
        std::unique_lock lock(mutex_);
        while (!ended_.wait_for(lock, std::chrono::milliseconds(20), [this] { return working_ == 0; })) {
            lock.unlock();
            if (!keep_going(static_cast<double>(blocks_done_) / static_cast<double>(blocks))) stopped_ = true;
            lock.lock();
        }
    }

    const Sampling& sampling_;
    std::size_t size_;
    const Draw& draw_;
    Groups groups_;
    std::uint64_t first_, end_;
    std::atomic<std::uint64_t> next_, blocks_done_{0};
    std::atomic<bool> stopped_{false};
    std::mutex mutex_;
    std::condition_variable ended_;
    unsigned working_ = 0;
    std::vector<Sums> sums_; ///< by group
};

Sums added(const std::vector<Sums>& groups, std::size_t size) {
    Sums total(size);
    for (const auto& group : groups)
        for (std::size_t i = 0; i < size; ++i)
            total[i] += group[i];
    return total;
}

Sums replayed(Ledger& ledger, std::uint64_t groups, std::size_t size) {
    const bool known = ledger.next < ledger.simulations.size() &&
                       ledger.simulations[ledger.next].size() == groups &&
                       std::ranges::all_of(ledger.simulations[ledger.next],
                                           [size](const Sums& sums) { return sums.size() == size; });
    if (known) return added(ledger.simulations[ledger.next++], size);
    ledger.astray = true;
    return Sums(size);
}

}

Groups groups_of(std::uint64_t samples) {
    const std::uint64_t blocks = (samples - 1) / samples_a_block + 1;
    const std::uint64_t blocks_a_group = (blocks - 1) / most_groups + 1;
    return {blocks, blocks_a_group, (blocks - 1) / blocks_a_group + 1};
}

std::array<std::uint64_t, 2> groups_of(const Groups& groups, const Share& share) {
    // Without overflow for any number of shares: whole groups a share, one more for the first of them.
    const std::uint64_t whole = groups.count / share.of, more = groups.count % share.of;
    const auto start = [&](std::uint64_t number) { return number * whole + std::min(number, more); };
    return {start(share.number - 1), start(share.number)};
}

std::optional<Sums> gather(const Sampling& sampling, const KeepGoing& keep_going, std::size_t size,
                           const std::function<void(const Block&, std::span<double>)>& draw) {
    Ledger* ledger = sampling.ledger;
    if (ledger && ledger->replay) return replayed(*ledger, groups_of(sampling.samples).count, size);
    Run run(sampling, size, draw);
    if (!run.run(keep_going)) return std::nullopt;
    std::vector<Sums> groups = run.take();
    Sums total = added(groups, size);
    if (ledger) ledger->simulations.push_back(std::move(groups));
    return total;
}

void Tally::add_to(std::span<double> sums) const {
    const std::array<double, size> all{count, inside, below, above, sum, squares};
    for (std::size_t i = 0; i < size; ++i)
        sums[i] += all[i];
}

Tally Tally::from(std::span<const double> sums) {
    return {sums[0], sums[1], sums[2], sums[3], sums[4], sums[5]};
}

Moments Tally::moments(double middle) const {
    if (count == 0) return {middle, 0};
    const double offset = sum / count;
    const double variance = count > 1 ? std::max(0.0, (squares - count * offset * offset) / (count - 1)) : 0;
    return {middle + offset, std::sqrt(variance)};
}

Interval wilson95(double hits, double n) {
    constexpr double z = 1.959963984540054;
    const double p = hits / n;
    const double middle = p + z * z / (2 * n);
    const double half = z * std::sqrt(p * (1 - p) / n + z * z / (4 * n * n));
    const double scale = 1 + z * z / n;
    return {std::max(0.0, (middle - half) / scale), std::min(1.0, (middle + half) / scale)};
}

}
