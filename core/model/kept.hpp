#pragma once
#include <map>
#include <memory>
#include <utility>

namespace kollema {

/// A value that others hold too: equal at once where it is the same object.
template <class T>
struct Shared {
    std::shared_ptr<const T> value;
    const T& operator*() const { return *value; }
    bool operator==(const Shared& other) const { return value == other.value || *value == *other.value; }
};

/// Results that hang on the values from which they were computed: what is asked for again with an equal value
/// is not computed again.  A value itself; copies share the results.
template <class Key, class Input, class Output>
class Kept {
public:
    /// The output for an input, taken over from `before` (of an earlier version of the project; may be null)
    /// where its input under this key was equal.
    template <class Compute>
    const Output& take(const Key& key, Input input, const Kept* before, Compute compute) {
        const auto old = before ? before->all_.find(key) : all_.end();
        if (before && old != before->all_.end() && old->second->first == input)
            return (all_[key] = old->second)->second;
        auto output = compute(std::as_const(input));
        return (all_[key] = std::make_shared<const Entry>(std::move(input), std::move(output)))->second;
    }
    /// The output under a key, where its input was equal.
    const Output* find(const Key& key, const Input& input) const {
        const auto known = all_.find(key);
        return known != all_.end() && known->second->first == input ? &known->second->second : nullptr;
    }
    const Output& operator[](const Key& key) const { return all_.at(key)->second; }
    std::shared_ptr<const Input> input(const Key& key) const {
        const auto& entry = all_.at(key);
        return {entry, &entry->first};
    }
    std::shared_ptr<const Output> output(const Key& key) const {
        const auto& entry = all_.at(key);
        return {entry, &entry->second};
    }

private:
    using Entry = std::pair<Input, Output>;
    std::map<Key, std::shared_ptr<const Entry>> all_;
};

}
