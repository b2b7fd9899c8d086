#include "formula/model.hpp"
#include "formula/expression.hpp"
#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>

namespace kollema::formula {
namespace {

/// Thrown within compile() only, which answers the failure.
struct Refused {
    Failure failure;
};

[[noreturn]] void refuse(std::string what, std::string why, std::string remedy,
                         FailureKind kind = FailureKind::file) {
    throw Refused{{std::move(what), std::move(why), std::move(remedy), kind}};
}

class Compiler {
public:
    explicit Compiler(const Description& description) : d_(description) {}

    Model compile() {
        if (d_.gaps.empty()) refuse("requirements", "there are none", "Say which value is asked for");
        add_names();
        add_definitions();
        for (std::size_t i = 0; i < d_.loops.size(); ++i)
            add_loop(d_.loops[i], fmt::format("loop {}", i + 1));
        for (std::size_t i = 0; i < d_.equations.size(); ++i) {
            const std::string from = fmt::format("equation {}", i + 1);
            all_.equations.push_back({write(d_.equations[i], from), from});
        }
        for (const auto& gap : d_.gaps)
            add_gap(gap);
        if (all_.equations.size() != all_.unknowns.size())
            refuse("the loops",
                   fmt::format("they give {} equations for {} unknowns", all_.equations.size(),
                               all_.unknowns.size()),
                   "A loop in the plane gives 2 or 3, in space 3 or 6", FailureKind::not_held);
        return std::move(all_);
    }

private:
    void add_names() {
        for (const auto& size : d_.sizes) {
            if (const auto sound = stack::validate(std::span(&size, 1), {}); !sound)
                throw Refused{sound.error()};
            add_name(size.name, all_.tape.input(all_.sizes.size()));
            all_.sizes.push_back(size);
        }
        for (const auto& unknown : d_.unknowns) {
            if (!(unknown.min <= unknown.max))
                refuse(fmt::format("unknown \"{}\"", unknown.name), "its min is above its max", "Swap them");
            add_name(unknown.name, all_.tape.input(all_.sizes.size() + all_.unknowns.size()));
            all_.unknowns.push_back(unknown);
        }
    }

    void add_name(const std::string& name, Tape::At at) {
        check_name(name);
        names_[name] = at;
    }

    void check_name(const std::string& name) const {
        if (!is_name(name))
            refuse(
                fmt::format("the name \"{}\"", name), "a formula cannot use it",
                "A name starts with a letter or _, goes on with letters, digits and _, and is no function");
        if (names_.contains(name))
            refuse(fmt::format("the name \"{}\"", name), "it stands twice", "Use another");
    }

    /// Each after those that it needs.
    void add_definitions() {
        std::map<std::string, std::size_t, std::less<>> which;
        for (std::size_t i = 0; i < d_.definitions.size(); ++i) {
            check_name(d_.definitions[i].name);
            if (!which.emplace(d_.definitions[i].name, i).second)
                refuse(fmt::format("the name \"{}\"", d_.definitions[i].name), "it stands twice",
                       "Use another");
        }
        std::vector<std::size_t> waits_for(which.size());
        std::vector<std::vector<std::size_t>> waiting(which.size());
        for (std::size_t i = 0; i < d_.definitions.size(); ++i)
            for (const auto& name : names_in(d_.definitions[i].value))
                if (const auto needed = which.find(name); needed != which.end()) {
                    ++waits_for[i];
                    waiting[needed->second].push_back(i);
                }
        std::vector<std::size_t> ready;
        for (std::size_t i = 0; i < waits_for.size(); ++i)
            if (waits_for[i] == 0) ready.push_back(i);
        for (std::size_t next = 0; next < ready.size(); ++next) {
            const auto& definition = d_.definitions[ready[next]];
            names_[definition.name] =
                write(definition.value, fmt::format("definition \"{}\"", definition.name));
            for (const std::size_t i : waiting[ready[next]])
                if (--waits_for[i] == 0) ready.push_back(i);
        }
        for (std::size_t i = 0; i < waits_for.size(); ++i)
            if (waits_for[i] > 0)
                refuse(fmt::format("definition \"{}\"", d_.definitions[i].name),
                       "it needs itself, by way of others", "Break the circle");
    }

    void add_gap(const Gap& gap) {
        const std::string from = fmt::format("requirement \"{}\"", gap.id);
        if (std::ranges::count(d_.gaps, gap.id, &Gap::id) > 1)
            refuse(from, "this id stands twice", "Use another");
        if (const auto& [low, high] = gap.limits; low && high && *low > *high)
            refuse(from, "its lower limit is above its upper one", "Swap them");
        all_.gaps.push_back({gap.id, gap.name, gap.limits, write(gap.value, from)});
    }

    Tape::At write(const std::string& text, const std::string& from) {
        const auto at = write_expression(text, all_.tape, [this](std::string_view name) -> const Tape::At* {
            const auto found = names_.find(name);
            return found == names_.end() ? nullptr : &found->second;
        });
        if (at) return *at;
        Failure failure = at.error();
        failure.what = from + ": " + failure.what;
        throw Refused{failure};
    }

    Tape::At plus(Tape::At a, Tape::At b) {
        return all_.tape.is(a, 0) ? b : all_.tape.is(b, 0) ? a : all_.tape.binary(Op::add, a, b);
    }
    Tape::At minus(Tape::At a, Tape::At b) {
        return all_.tape.is(b, 0) ? a : all_.tape.binary(Op::subtract, a, b);
    }
    Tape::At times(Tape::At a, Tape::At b) {
        if (all_.tape.is(a, 0) || all_.tape.is(b, 1)) return a;
        if (all_.tape.is(b, 0) || all_.tape.is(a, 1)) return b;
        return all_.tape.binary(Op::multiply, a, b);
    }
    Tape::At zero() { return all_.tape.constant(0); }
    Tape::At sine(Tape::At a) { return all_.tape.unary(Op::sine, a); }
    Tape::At cosine(Tape::At a) { return all_.tape.unary(Op::cosine, a); }

    void must_be_zero(Tape::At value, const std::string& loop, const char* along) {
        all_.equations.push_back({value, loop + ", " + along});
    }

    void add_loop(const Loop& loop, const std::string& name) {
        if (loop.sides.empty() && loop.steps.empty())
            refuse(name, "nothing goes round it", "Give vectors or steps");
        if (!loop.sides.empty())
            add_sides(loop, name);
        else if (is_flat(loop))
            add_flat_steps(loop, name);
        else
            add_steps(loop, name);
    }

    void add_sides(const Loop& loop, const std::string& name) {
        std::array<Tape::At, 3> sum{zero(), zero(), zero()};
        const bool in_space =
            std::ranges::any_of(loop.sides, [](const Side& side) { return side.elevation.has_value(); });
        for (std::size_t i = 0; i < loop.sides.size(); ++i) {
            const Side& side = loop.sides[i];
            const std::string from = fmt::format("{}, vector {}", name, i + 1);
            Tape::At length = write(side.length, from);
            const Tape::At angle = write(side.angle, from);
            if (side.elevation) {
                const Tape::At raised = write(*side.elevation, from);
                sum[2] = plus(sum[2], times(length, sine(raised)));
                length = times(length, cosine(raised));
            }
            sum[0] = plus(sum[0], times(length, cosine(angle)));
            sum[1] = plus(sum[1], times(length, sine(angle)));
        }
        must_be_zero(sum[0], name, "along x");
        must_be_zero(sum[1], name, "along y");
        if (in_space) must_be_zero(sum[2], name, "along z");
    }

    static bool is_flat(const Loop& loop) {
        return std::ranges::all_of(loop.steps, [](const FrameStep& s) { return s.turns == (s.axis == 'z'); });
    }

    /// The sine of half the angle that is left vanishes at whole turns only.
    Tape::At half_turn(Tape::At angle) {
        return times(all_.tape.constant(2), sine(times(angle, all_.tape.constant(0.5))));
    }

    void add_flat_steps(const Loop& loop, const std::string& name) {
        Tape::At x = zero(), y = zero(), turned = zero();
        for (std::size_t i = 0; i < loop.steps.size(); ++i) {
            const FrameStep& step = loop.steps[i];
            const Tape::At by = write(step.by, fmt::format("{}, step {}", name, i + 1));
            if (step.turns)
                turned = plus(turned, by);
            else if (step.axis == 'x') {
                x = plus(x, times(by, cosine(turned)));
                y = plus(y, times(by, sine(turned)));
            } else {
                x = minus(x, times(by, sine(turned)));
                y = plus(y, times(by, cosine(turned)));
            }
        }
        if (loop.closes != Closes::turn) {
            must_be_zero(x, name, "along x");
            must_be_zero(y, name, "along y");
        }
        if (loop.closes != Closes::place) must_be_zero(half_turn(turned), name, "turned about z");
    }

    /// A turn as a quaternion, w first.
    using Turn = std::array<Tape::At, 4>;

    Turn together(const Turn& p, const Turn& q) {
        const auto sum = [&](std::array<std::pair<std::size_t, std::size_t>, 4> pairs,
                             std::array<int, 4> signs) {
            Tape::At all = zero();
            for (std::size_t i = 0; i < 4; ++i) {
                const Tape::At term = times(p[pairs[i].first], q[pairs[i].second]);
                all = signs[i] > 0 ? plus(all, term) : minus(all, term);
            }
            return all;
        };
        return {sum({{{0, 0}, {1, 1}, {2, 2}, {3, 3}}}, {1, -1, -1, -1}),
                sum({{{0, 1}, {1, 0}, {2, 3}, {3, 2}}}, {1, 1, 1, -1}),
                sum({{{0, 2}, {1, 3}, {2, 0}, {3, 1}}}, {1, -1, 1, 1}),
                sum({{{0, 3}, {1, 2}, {2, 1}, {3, 0}}}, {1, 1, -1, 1})};
    }

    /// Where the turn takes an axis: column k of the rotation matrix.
    std::array<Tape::At, 3> turned_axis(const Turn& q, std::size_t k) {
        const std::size_t i = k + 1, j = (k + 1) % 3 + 1, l = (k + 2) % 3 + 1;
        const Tape::At two = all_.tape.constant(2);
        std::array<Tape::At, 3> axis{};
        axis[k] =
            minus(minus(plus(times(q[0], q[0]), times(q[i], q[i])), times(q[j], q[j])), times(q[l], q[l]));
        axis[j - 1] = times(two, plus(times(q[i], q[j]), times(q[0], q[l])));
        axis[l - 1] = times(two, minus(times(q[i], q[l]), times(q[0], q[j])));
        return axis;
    }

    void add_steps(const Loop& loop, const std::string& name) {
        std::array<Tape::At, 3> place{zero(), zero(), zero()};
        Turn turned{all_.tape.constant(1), zero(), zero(), zero()};
        for (std::size_t i = 0; i < loop.steps.size(); ++i) {
            const FrameStep& step = loop.steps[i];
            const Tape::At by = write(step.by, fmt::format("{}, step {}", name, i + 1));
            const auto axis = static_cast<std::size_t>(step.axis - 'x');
            if (step.turns) {
                const Tape::At half = times(by, all_.tape.constant(0.5));
                Turn turn{cosine(half), zero(), zero(), zero()};
                turn[axis + 1] = sine(half);
                turned = together(turned, turn);
            } else {
                const auto along = turned_axis(turned, axis);
                for (std::size_t k = 0; k < 3; ++k)
                    place[k] = plus(place[k], times(by, along[k]));
            }
        }
        constexpr std::array along{"along x", "along y", "along z"};
        constexpr std::array about{"turned about x", "turned about y", "turned about z"};
        for (std::size_t k = 0; k < 3; ++k)
            if (loop.closes != Closes::turn) must_be_zero(place[k], name, along[k]);
        for (std::size_t k = 0; k < 3; ++k)
            if (loop.closes != Closes::place)
                must_be_zero(times(all_.tape.constant(2), turned[k + 1]), name, about[k]);
    }

    const Description& d_;
    Model all_;
    std::map<std::string, Tape::At, std::less<>> names_;
};

}

Result<Model> compile(const Description& description) {
    if (description.sizes.size() > most_sizes)
        return fail(
            {.what = "the formula",
             .why = fmt::format("it has {} sizes; {} are computed at most", description.sizes.size(),
                                most_sizes),
             .remedy = "Add up what only adds up before, or give it as a chain, which may be any length"});
    try {
        return Compiler(description).compile();
    } catch (const Refused& refused) {
        return fail(refused.failure);
    }
}

}
