#include "stack/typed_size.hpp"
#include "quantity/expression.hpp"
#include "quantity/text.hpp"
#include "standards/limits_and_fits.hpp"
#include <algorithm>
#include <cctype>
#include <fmt/format.h>

namespace kollema::stack {
namespace {

void replace_all(std::string& text, std::string_view from, std::string_view to) {
    for (std::size_t at = 0; (at = text.find(from, at)) != std::string::npos; at += to.size())
        text.replace(at, from.size(), to);
}

bool same_letters(std::string_view a, std::string_view b) {
    return std::ranges::equal(
        a, b, {}, [](unsigned char c) { return std::tolower(c); },
        [](unsigned char c) { return std::tolower(c); });
}

tl::unexpected<Failure> refuse_cell(std::string why, std::string remedy) {
    return fail({"", std::move(why), std::move(remedy), FailureKind::file});
}

std::optional<standards::Process> process_of(std::string_view wanted, const Reading& reading) {
    for (const auto& p : reading.processes)
        if (same_letters(p.id, wanted) || same_letters(p.title, wanted)) return p;
    return std::nullopt;
}

Result<Deviations> held_by(const standards::Process& process, double nominal_mm) {
    const auto held = standards::held_tolerance_mm(process, std::abs(nominal_mm));
    if (!held) return tl::unexpected(held.error());
    return Deviations{*held, -*held};
}

Result<Deviations> unknown_process(std::string_view wanted, const Reading& reading) {
    std::vector<std::string> ids;
    for (const auto& p : reading.processes)
        ids.push_back(p.id);
    return refuse_cell(fmt::format("\"{}\" is no process of the workshop", wanted),
                       fmt::format("Write one of {}", fmt::join(ids, ", ")));
}

/// A sign that adds, not one in the exponent of a number.
bool is_adding_sign(std::string_view text, std::size_t at) {
    if (text[at] != '+' && text[at] != '-') return false;
    const bool exponent =
        at > 1 && (text[at - 1] == 'e' || text[at - 1] == 'E') &&
        (text[at - 2] == '.' || std::isdigit(static_cast<unsigned char>(text[at - 2])) != 0);
    return !exponent;
}

/// A sum outside of parentheses: its signs could as well be those of deviations.
bool is_sum(std::string_view text) {
    int depth = 0;
    for (std::size_t at = 0; at < text.size(); ++at) {
        if (text[at] == '(') ++depth;
        if (text[at] == ')') --depth;
        if (depth == 0 && is_adding_sign(text, at)) return true;
    }
    return false;
}

/// The unit at the end of a length; empty where it has none.
std::string_view unit_of(std::string_view text) {
    const auto last = text.find_last_of("0123456789.) ");
    return trimmed(last == std::string_view::npos ? text : text.substr(last + 1));
}

/// One of two deviations: a sign and a size, or 0 alone; in `unit` where it has none of its own.
std::optional<double> deviation(std::string_view text, std::string_view unit, LengthUnit bare) {
    std::string_view size = trimmed(text);
    if (size.empty()) return std::nullopt;
    const char sign = size.front();
    if (sign == '+' || sign == '-') size = trimmed(size.substr(1));
    if (size.empty() || is_sum(size)) return std::nullopt;
    const auto value =
        parse_length_mm(unit_of(size).empty() ? fmt::format("{} {}", size, unit) : std::string(size), bare);
    if (!value || *value < 0 || (*value != 0 && sign != '+' && sign != '-')) return std::nullopt;
    return sign == '-' ? -*value : *value;
}

/// "+0.2 -0.1", "0/-0.05", "-0.1; -0.3", "+0.2-0.1": split where both halves are deviations.  A unit that
/// only one of them has counts for both.
std::optional<Deviations> two_deviations(std::string_view text, LengthUnit bare) {
    for (std::size_t at = 1; at < text.size(); ++at) {
        const bool between = text[at] == '/' || text[at] == ' ' || text[at] == ';';
        if (!between && !is_adding_sign(text, at)) continue;
        const std::string_view first = trimmed(text.substr(0, at)),
                               second = trimmed(text.substr(between ? at + 1 : at));
        const auto a = deviation(first, unit_of(second), bare), b = deviation(second, unit_of(first), bare);
        if (a && b) return Deviations{std::max(*a, *b), std::min(*a, *b)};
    }
    return std::nullopt;
}

/// "0.02/0.05" is half of two deviations or a quotient; "1/64" is a fraction.
bool is_doubtful_quotient(std::string_view text) {
    return text.find('/') != std::string_view::npos && text.find('.') != std::string_view::npos &&
           text.find('(') == std::string_view::npos;
}

constexpr const char* as_deviations = "Write ±0.1, or two deviations such as +0.2 -0.1 or 0/-0.05";

Result<Deviations> plus_or_minus(std::string_view text, LengthUnit bare) {
    if (is_sum(text))
        return refuse_cell(fmt::format("\"{}\" is neither one size without a sign nor two deviations", text),
                           as_deviations);
    const auto half = parse_length_mm(text, bare);
    if (!half) return tl::unexpected(half.error());
    return Deviations{*half, -*half};
}

Result<Deviations> deviations_of(const std::string& cell, double nominal_mm, const Reading& reading) {
    if (cell.starts_with("±")) return plus_or_minus(trimmed(cell.substr(2)), reading.bare);
    if (same_letters(cell.substr(0, 3), "by ")) {
        const auto process = process_of(trimmed(cell.substr(3)), reading);
        return process ? held_by(*process, nominal_mm) : unknown_process(trimmed(cell.substr(3)), reading);
    }
    if (const auto process = process_of(cell, reading)) return held_by(*process, nominal_mm);
    if (standards::parse_zone(cell)) {
        const auto zone = standards::limit_deviations(std::abs(nominal_mm), cell);
        if (!zone) return tl::unexpected(zone.error());
        return Deviations{zone->upper_um / 1000, zone->lower_um / 1000};
    }
    if (const auto two = two_deviations(cell, reading.bare)) return *two;
    if (is_doubtful_quotient(cell))
        return refuse_cell(
            fmt::format("\"{}\" may be two deviations without their signs, or a quotient", cell),
            as_deviations);
    return plus_or_minus(cell, reading.bare);
}

/// Limits of the major diameter, from its nominal size.
Result<Deviations> of_thread(const standards::Thread& thread, const std::string& tolerance_class) {
    const auto limits = standards::thread_limits(thread, tolerance_class);
    if (!limits) return tl::unexpected(limits.error());
    if (!limits->major.max_mm || !limits->major.min_mm)
        return refuse_cell(fmt::format("the standard limits no major diameter of {} {} on both sides",
                                       thread.name, tolerance_class),
                           "Give deviations");
    return Deviations{*limits->major.max_mm - thread.major_mm, *limits->major.min_mm - thread.major_mm};
}

}

std::string plain_cell(std::string_view text) {
    std::string plain(trimmed(text));
    replace_all(plain, "\u2212", "-");
    replace_all(plain, "+/-", "±");
    replace_all(plain, "+-", "±");
    return plain;
}

Result<Nominal> read_nominal(const std::string& cell, const Reading& reading) {
    if (auto thread = standards::thread(cell)) return Nominal{thread->major_mm, std::move(*thread)};
    const auto length = parse_length_mm(cell, reading.bare);
    if (!length) return tl::unexpected(length.error());
    return Nominal{*length, std::nullopt};
}

Result<Deviations> read_limits(const std::string& cell, const Nominal& nominal, const Reading& reading) {
    const bool of_class = nominal.thread && !two_deviations(cell, reading.bare) && !cell.starts_with("±") &&
                          !parse_length_mm(cell, reading.bare) && !same_letters(cell.substr(0, 3), "by ");
    return of_class ? of_thread(*nominal.thread, cell) : deviations_of(cell, nominal.mm, reading);
}

Result<Toleranced> read_toleranced(const std::string& text, const Reading& reading) {
    const std::string cell = plain_cell(text);
    // The limits begin at a ± or at the first blank behind which they can be read: "1/2 in H7", "20 -0.02
    // -0.07".
    const auto are_limits = [&](const std::string& rest) {
        return rest.starts_with("±") || std::isalpha(static_cast<unsigned char>(rest.front())) != 0 ||
               two_deviations(rest, reading.bare);
    };
    for (std::size_t at = 1; at < cell.size(); ++at) {
        if (cell[at] != ' ' && cell.compare(at, 2, "±") != 0) continue;
        const std::string rest(trimmed(cell.substr(at)));
        const auto nominal = read_nominal(std::string(trimmed(cell.substr(0, at))), reading);
        if (rest.empty() || !nominal || !are_limits(rest)) continue;
        if (const auto limits = read_limits(rest, *nominal, reading)) return Toleranced{nominal->mm, *limits};
    }
    if (const auto whole = read_nominal(cell, reading); whole && !is_sum(cell))
        return Toleranced{whole->mm, {}};
    return fail({.what = fmt::format("\"{}\"", cell),
                 .why = "a length with its limits is expected here",
                 .remedy = "Write for example 20 ±0.05, 20 -0.02 -0.07 or 20 h9",
                 .kind = FailureKind::argument});
}

Failure in_cell(Failure failure, const std::string& row, const char* column) {
    if (!failure.what.empty()) failure.why = failure.what + ": " + failure.why;
    failure.what = fmt::format("{}, {}", row, column);
    failure.kind = FailureKind::file;
    return failure;
}

}
