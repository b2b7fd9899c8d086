#include "formula/steps.hpp"
#include "formula/tape.hpp"
#include <algorithm>

namespace kollema::formula {

TapeForMany::TapeForMany(const Tape& tape, std::span<const Tape::At> asked, stack::Instructions set)
    : run_(formula::steps(set)),
      places_(tape.size()) {
    const auto steps = tape.steps();
    std::vector<char> needed(steps.size());
    for (const Tape::At at : asked)
        needed[at] = 1;
    for (std::size_t i = steps.size(); i-- > 0;)
        if (needed[i] && steps[i].op != Op::constant && steps[i].op != Op::input)
            needed[steps[i].a] = needed[steps[i].b] = 1;
    room_.resize(together * static_cast<std::size_t>(std::ranges::count(needed, 1)));
    double* next = room_.data();
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (!needed[i]) continue;
        const auto& s = steps[i];
        const auto at = static_cast<Tape::At>(i);
        if (s.op == Op::input) {
            inputs_.emplace_back(at, s.a);
            continue;
        }
        places_[i] = next;
        if (s.op == Op::constant)
            std::fill_n(next, together, s.value);
        else
            steps_.push_back({s.op, s.a, s.b, next});
        next += together;
    }
}

void TapeForMany::evaluate(const double* inputs, std::size_t stride) {
    for (const auto& [at, number] : inputs_)
        places_[at] = &inputs[number * stride];
    for (const auto& s : steps_)
        run_.run(s.op, places_[s.a], places_[s.b], s.out, together);
}

}
