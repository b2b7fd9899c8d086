#pragma once
#include <cstddef>
#include <list>
#include <unordered_map>
#include <utility>

namespace kollema::geometry {

/// What was made, found by what it was made from; what was not asked for longest goes first where all
/// together take more memory than they may.  The newest always stays.
template <class From, class Made>
class Recent {
public:
    explicit Recent(std::size_t most_bytes) : most_bytes_(most_bytes) {}

    const Made* find(const From& from, std::size_t hash) {
        const auto [first, last] = places_.equal_range(hash);
        for (auto place = first; place != last; ++place)
            if (place->second->from == from) {
                all_.splice(all_.begin(), all_, place->second);
                return &place->second->made;
            }
        return nullptr;
    }

    void add(From from, std::size_t hash, Made made, std::size_t bytes) {
        all_.push_front({std::move(from), std::move(made), hash, bytes});
        places_.emplace(hash, all_.begin());
        bytes_ += bytes;
        while (bytes_ > most_bytes_ && all_.size() > 1)
            give_up_oldest();
    }

    std::size_t size() const { return all_.size(); }

private:
    struct Item {
        From from;
        Made made;
        std::size_t hash = 0, bytes = 0;
    };

    void give_up_oldest() {
        const auto oldest = std::prev(all_.end());
        const auto [first, last] = places_.equal_range(oldest->hash);
        for (auto place = first; place != last; ++place)
            if (place->second == oldest) {
                places_.erase(place);
                break;
            }
        bytes_ -= oldest->bytes;
        all_.erase(oldest);
    }

    std::size_t most_bytes_, bytes_ = 0;
    std::list<Item> all_; ///< the newest first
    std::unordered_multimap<std::size_t, typename std::list<Item>::iterator> places_;
};

}
