#include "formula/steps.hpp"
#include "formula/tape.hpp"
#include <algorithm>

namespace kollema::formula {
namespace {

bool is_computed(const Tape::Step& s) { return s.op != Op::constant && s.op != Op::input; }

/// Whether each step is asked for, or taken by one that is.
std::vector<char> needed_for(std::span<const Tape::At> asked, std::span<const Tape::Step> steps) {
    std::vector<char> needed(steps.size());
    for (const Tape::At at : asked)
        needed[at] = 1;
    for (std::size_t i = steps.size(); i-- > 0;)
        if (needed[i] && is_computed(steps[i])) needed[steps[i].a] = needed[steps[i].b] = 1;
    return needed;
}

struct Rooms {
    std::vector<std::size_t> of; ///< by step
    std::size_t count = 0;
};

/// Values share a room that are not wanted at the same time: a long sum stays in the nearest cache so.
/// Constants, written once, and what is asked for keep theirs.
Rooms rooms_of(std::span<const Tape::At> asked, std::span<const Tape::Step> steps,
               const std::vector<char>& needed) {
    const std::size_t never = steps.size();
    std::vector<std::size_t> last_use(steps.size(), never);
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (needed[i] && is_computed(steps[i])) last_use[steps[i].a] = last_use[steps[i].b] = i;
    for (const Tape::At at : asked)
        last_use[at] = never;
    Rooms rooms{.of = std::vector<std::size_t>(steps.size())};
    std::vector<std::size_t> free;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (!needed[i] || steps[i].op == Op::input) continue;
        if (!is_computed(steps[i])) {
            rooms.of[i] = rooms.count++;
            continue;
        }
        for (const Tape::At at : {steps[i].a, steps[i].b}) {
            if (last_use[at] != i || !is_computed(steps[at])) continue;
            free.push_back(rooms.of[at]);
            last_use[at] = never; // once, though both may be the same
        }
        if (free.empty()) free.push_back(rooms.count++);
        rooms.of[i] = free.back();
        free.pop_back();
    }
    return rooms;
}

}

TapeForMany::TapeForMany(const Tape& tape, std::span<const Tape::At> asked, stack::Instructions set)
    : run_(formula::steps(set)),
      places_(tape.size()) {
    const auto steps = tape.steps();
    const auto needed = needed_for(asked, steps);
    const Rooms rooms = rooms_of(asked, steps, needed);
    room_.resize(together * rooms.count);
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (!needed[i]) continue;
        const auto& s = steps[i];
        if (s.op == Op::input) {
            inputs_.emplace_back(static_cast<Tape::At>(i), s.a);
            continue;
        }
        double* const room = room_.data() + together * rooms.of[i];
        places_[i] = room;
        if (s.op == Op::constant)
            std::fill_n(room, together, s.value);
        else
            steps_.push_back({s.op, s.a, s.b, room});
    }
}

void TapeForMany::evaluate(const double* inputs, std::size_t stride) {
    for (const auto& [at, number] : inputs_)
        places_[at] = &inputs[number * stride];
    for (const auto& s : steps_)
        run_.run(s.op, places_[s.a], places_[s.b], s.out, together);
}

}
