#pragma once
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <initializer_list>
#include <utility>
#include <vector>

namespace kollema {

/// Things with an id, in the order in which they were added, found by their id in logarithmic time.  What is
/// changed in place keeps its id.  Of several with one id the first is found.
template <class T>
class Collection {
public:
    using value_type = T;
    using Key = decltype(T::id);

    Collection() = default;
    Collection(std::initializer_list<T> items) : Collection(std::vector<T>(items)) {}
    Collection(std::vector<T> items) : items_(std::move(items)) { sort(); }

    auto begin() { return items_.begin(); }
    auto end() { return items_.end(); }
    auto begin() const { return items_.begin(); }
    auto end() const { return items_.end(); }
    std::size_t size() const { return items_.size(); }
    bool empty() const { return items_.empty(); }
    T& operator[](std::size_t i) { return items_[i]; }
    const T& operator[](std::size_t i) const { return items_[i]; }
    T& front() { return items_.front(); }
    const T& front() const { return items_.front(); }
    T& back() { return items_.back(); }
    const T& back() const { return items_.back(); }

    /// Where it stands; size() when there is none.
    std::size_t position(const Key& id) const {
        const auto at = place_of(id);
        return at != by_id_.end() && items_[*at].id == id ? *at : items_.size();
    }
    const T* find(const Key& id) const {
        const std::size_t at = position(id);
        return at < items_.size() ? &items_[at] : nullptr;
    }
    T* find(const Key& id) { return const_cast<T*>(std::as_const(*this).find(id)); }

    void push_back(T item) {
        auto at = place_of(item.id);
        while (at != by_id_.end() && items_[*at].id == item.id)
            ++at;
        by_id_.insert(at, static_cast<std::uint32_t>(items_.size()));
        items_.push_back(std::move(item));
    }
    template <class Predicate>
    friend std::size_t erase_if(Collection& all, Predicate gone) {
        const std::size_t count = std::erase_if(all.items_, gone);
        if (count > 0) all.sort();
        return count;
    }
    bool operator==(const Collection& other) const { return items_ == other.items_; }

private:
    std::vector<std::uint32_t>::const_iterator place_of(const Key& id) const {
        return std::ranges::lower_bound(by_id_, id, {}, [&](auto i) -> const Key& { return items_[i].id; });
    }
    void sort() {
        by_id_.resize(items_.size());
        for (std::size_t i = 0; i < items_.size(); ++i)
            by_id_[i] = static_cast<std::uint32_t>(i);
        std::ranges::stable_sort(by_id_, {}, [&](auto i) -> const Key& { return items_[i].id; });
    }

    std::vector<T> items_;
    std::vector<std::uint32_t> by_id_; ///< positions in the order of the ids
};

}
