#include "formula/expression.hpp"
#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <optional>

namespace kollema::formula {
namespace {

struct Function {
    std::string_view name;
    Op op;
    int arguments;
};

constexpr std::array functions{
    Function{"sin", Op::sine, 1},           Function{"cos", Op::cosine, 1},
    Function{"tan", Op::tangent, 1},        Function{"asin", Op::arc_sine, 1},
    Function{"acos", Op::arc_cosine, 1},    Function{"atan", Op::arc_tangent, 1},
    Function{"atan2", Op::arc_tangent2, 2}, Function{"sqrt", Op::root, 1},
    Function{"abs", Op::absolute, 1},       Function{"hypot", Op::hypotenuse, 2},
    Function{"min", Op::least, 2},          Function{"max", Op::greatest, 2},
};

bool starts_name(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; }
bool is_digit(char c) { return c >= '0' && c <= '9'; }

std::size_t name_length(std::string_view text) {
    if (text.empty() || !starts_name(text[0])) return 0;
    std::size_t n = 1;
    while (n < text.size() && (starts_name(text[n]) || is_digit(text[n])))
        ++n;
    return n;
}

bool is_reserved(std::string_view name) {
    return name == "pi" || std::ranges::find(functions, name, &Function::name) != functions.end();
}

/// Thrown within the reader only, which answers a Failure.
struct Unreadable {
    std::size_t at;
    std::string why;
};

class Reader {
public:
    Reader(std::string_view text, Tape& tape, const std::function<const Tape::At*(std::string_view)>& named)
        : text_(text),
          tape_(tape),
          named_(named) {}

    Tape::At whole() {
        const auto all = sum();
        if (!at_end()) bad("something stands here that does not belong to the rest");
        return all;
    }

private:
    Tape::At sum() {
        if (++depth_ > most_nested) bad("it is nested too deep");
        Tape::At all = product();
        for (;;) {
            if (take('+'))
                all = tape_.binary(Op::add, all, product());
            else if (take('-'))
                all = tape_.binary(Op::subtract, all, product());
            else
                break;
        }
        --depth_;
        return all;
    }
    Tape::At product() {
        Tape::At all = signed_power();
        for (;;) {
            if (take('*'))
                all = tape_.binary(Op::multiply, all, signed_power());
            else if (take('/'))
                all = tape_.binary(Op::divide, all, signed_power());
            else
                return all;
        }
    }
    Tape::At signed_power() {
        bool negative = false;
        for (;;) {
            if (take('-'))
                negative = !negative;
            else if (!take('+'))
                break;
        }
        const Tape::At value = power();
        return negative ? tape_.unary(Op::negate, value) : value;
    }
    Tape::At power() {
        const Tape::At base = atom();
        if (!take('^')) return base;
        if (++depth_ > most_nested) bad("it is nested too deep");
        const Tape::At exponent = signed_power();
        --depth_;
        return tape_.binary(Op::power, base, exponent);
    }
    Tape::At atom() {
        if (take('(')) {
            const Tape::At inner = sum();
            if (!take(')')) bad("a ) is missing");
            return inner;
        }
        if (at_end()) bad("a value is missing at the end");
        const char c = text_[at_];
        if (is_digit(c) || c == '.') return number();
        if (starts_name(c)) return name();
        bad("a number, a name or a ( is expected here");
    }
    Tape::At number() {
        double value = 0;
        const auto [end, error] = std::from_chars(text_.data() + at_, text_.data() + text_.size(), value);
        if (error != std::errc{} || !std::isfinite(value)) bad("this number cannot be read");
        at_ = static_cast<std::size_t>(end - text_.data());
        return tape_.constant(value);
    }
    Tape::At name() {
        const std::size_t start = at_;
        const std::string_view word = text_.substr(at_, name_length(text_.substr(at_)));
        at_ += word.size();
        if (word == "pi") return tape_.constant(std::numbers::pi);
        const auto function = std::ranges::find(functions, word, &Function::name);
        if (function != functions.end()) return call(*function, start);
        if (const auto* found = named_(word)) return *found;
        at_ = start;
        bad(fmt::format("nothing is called \"{}\"", word));
    }
    Tape::At call(const Function& function, std::size_t start) {
        if (!take('(')) bad(fmt::format("a ( is expected after {}", function.name));
        std::vector<Tape::At> arguments;
        if (!take(')')) {
            do
                arguments.push_back(sum());
            while (take(','));
            if (!take(')')) bad("a ) is missing");
        }
        if (static_cast<int>(arguments.size()) != function.arguments) {
            at_ = start;
            bad(fmt::format("{} takes {}, not {}", function.name,
                            function.arguments == 1 ? "one value" : "two values", arguments.size()));
        }
        return function.arguments == 1 ? tape_.unary(function.op, arguments[0])
                                       : tape_.binary(function.op, arguments[0], arguments[1]);
    }

    bool at_end() {
        while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t'))
            ++at_;
        return at_ == text_.size();
    }
    bool take(char c) {
        if (at_end() || text_[at_] != c) return false;
        ++at_;
        at_end(); // what stands next is looked at without the space before it
        return true;
    }
    [[noreturn]] void bad(std::string why) const { throw Unreadable{at_, std::move(why)}; }

    static constexpr int most_nested = 200;
    std::string_view text_;
    Tape& tape_;
    const std::function<const Tape::At*(std::string_view)>& named_;
    std::size_t at_ = 0;
    int depth_ = 0;
};

}

bool is_name(std::string_view text) {
    return !text.empty() && name_length(text) == text.size() && !is_reserved(text);
}

std::vector<std::string> names_in(std::string_view text) {
    std::vector<std::string> names;
    for (std::size_t i = 0; i < text.size();) {
        if (is_digit(text[i]) || text[i] == '.') { // the e of a number is no name
            double ignored = 0;
            const auto end = std::from_chars(text.data() + i, text.data() + text.size(), ignored).ptr;
            i = std::max(i + 1, static_cast<std::size_t>(end - text.data()));
            continue;
        }
        const std::size_t length = name_length(text.substr(i));
        if (length == 0) {
            ++i;
            continue;
        }
        const std::string word(text.substr(i, length));
        if (!is_reserved(word) && std::ranges::find(names, word) == names.end()) names.push_back(word);
        i += length;
    }
    return names;
}

Result<Tape::At> write_expression(std::string_view text, Tape& tape,
                                  const std::function<const Tape::At*(std::string_view)>& named) {
    try {
        return Reader(text, tape, named).whole();
    } catch (const Unreadable& unreadable) {
        return fail({.what = fmt::format("\"{}\", character {}", text, unreadable.at + 1),
                     .why = unreadable.why,
                     .remedy = "Write for example 2*sqrt(a^2 - b^2)",
                     .kind = FailureKind::file});
    }
}

}
