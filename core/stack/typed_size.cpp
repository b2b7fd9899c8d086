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

tl::unexpected<Failure> refuse(std::string why, std::string remedy) {
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
    return refuse(fmt::format("\"{}\" is no process of the workshop", wanted),
                  fmt::format("Write one of {}", fmt::join(ids, ", ")));
}

/// One of two deviations: with a sign of its own, or nothing.
std::optional<double> signed_length(std::string_view text, LengthUnit bare) {
    const std::string one(trimmed(text));
    const auto value = parse_length_mm(one.starts_with('+') ? one.substr(1) : one, bare);
    if (!value) return std::nullopt;
    if (*value != 0 && one.front() != '+' && one.front() != '-') return std::nullopt;
    return *value;
}

/// "+0.2 -0.1", "0/-0.05", "-0.1; -0.3": split where both halves are deviations.
std::optional<Deviations> two_deviations(const std::string& text, LengthUnit bare) {
    for (std::size_t at = text.find_first_of("/ ;"); at != std::string::npos;
         at = text.find_first_of("/ ;", at + 1)) {
        const auto a = signed_length(std::string_view(text).substr(0, at), bare);
        const auto b = signed_length(std::string_view(text).substr(at + 1), bare);
        if (a && b) return Deviations{std::max(*a, *b), std::min(*a, *b)};
    }
    return std::nullopt;
}

Result<Deviations> plus_or_minus(std::string_view text, LengthUnit bare) {
    const auto half = parse_length_mm(text, bare);
    if (!half) return tl::unexpected(half.error());
    if (*half < 0)
        return refuse("a tolerance has no sign", "Write ±0.1, or two deviations such as +0.2 -0.1");
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
    return plus_or_minus(cell, reading.bare);
}

/// Limits of the major diameter, from its nominal size.
Result<Deviations> of_thread(const standards::Thread& thread, const std::string& tolerance_class) {
    const auto limits = standards::thread_limits(thread, tolerance_class);
    if (!limits) return tl::unexpected(limits.error());
    if (!limits->major.max_mm || !limits->major.min_mm)
        return refuse(fmt::format("the standard limits no major diameter of {} {} on both sides", thread.name,
                                  tolerance_class),
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

Failure in_cell(Failure failure, const std::string& row, const char* column) {
    if (!failure.what.empty()) failure.why = failure.what + ": " + failure.why;
    failure.what = fmt::format("{}, {}", row, column);
    failure.kind = FailureKind::file;
    return failure;
}

}
