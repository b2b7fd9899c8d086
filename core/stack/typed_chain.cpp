#include "stack/typed_chain.hpp"
#include "quantity/expression.hpp"
#include "stack/typed_angle.hpp"
#include "standards/limits_and_fits.hpp"
#include "standards/threads.hpp"
#include <algorithm>
#include <cctype>
#include <fmt/format.h>

namespace kollema::stack {
namespace {

struct Deviations {
    double plus_mm = 0, minus_mm = 0;
};

std::string trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t"), last = text.find_last_not_of(" \t");
    return first == std::string_view::npos ? "" : std::string(text.substr(first, last - first + 1));
}

void replace_all(std::string& text, std::string_view from, std::string_view to) {
    for (std::size_t at = 0; (at = text.find(from, at)) != std::string::npos; at += to.size())
        text.replace(at, from.size(), to);
}

/// As typed, with the plain signs in the place of the typographic ones.
std::string plain_signs(std::string_view text) {
    std::string plain = trimmed(text);
    replace_all(plain, "\u2212", "-");
    replace_all(plain, "+/-", "±");
    replace_all(plain, "+-", "±");
    return plain;
}

bool same_letters(std::string_view a, std::string_view b) {
    return std::ranges::equal(
        a, b, {}, [](unsigned char c) { return std::tolower(c); },
        [](unsigned char c) { return std::tolower(c); });
}

tl::unexpected<Failure> refuse(std::string why, std::string remedy) {
    return fail({"", std::move(why), std::move(remedy), FailureKind::file});
}

/// A cell says where it stands; why it cannot be read, whoever reads it.
Failure in_cell(Failure failure, std::size_t row, const char* column) {
    if (!failure.what.empty()) failure.why = failure.what + ": " + failure.why;
    failure.what = fmt::format("row {}, {}", row, column);
    failure.kind = FailureKind::file;
    return failure;
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
    std::string one = trimmed(text);
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

Result<double> sense_of(const std::string& cell) {
    if (cell.empty() || cell == "+") return 1;
    if (cell == "-") return -1;
    return parse_number(cell.starts_with('+') ? cell.substr(1) : cell);
}

Result<double> number_or(const std::string& cell, double usual) {
    return cell.empty() ? Result<double>(usual) : parse_number(cell);
}

/// "34 deg" is 34; none where no degrees stand.
std::optional<std::string> without_degrees(const std::string& cell) {
    const std::string text = trimmed(cell);
    for (const std::string sign : {"deg", "°"})
        if (text.ends_with(sign)) return trimmed(std::string_view(text).substr(0, text.size() - sign.size()));
    return std::nullopt;
}

Result<Contributor> read_length(const TypedRow& row, std::size_t number, const Reading& reading);

}

bool is_angle(const TypedRow& row) { return without_degrees(row.nominal).has_value(); }

Result<Contributor> read_row(const TypedRow& row, std::size_t number, const Reading& reading) {
    if (!is_angle(row)) return read_length(row, number, reading);
    TypedRow degrees = row; // read as plain numbers
    degrees.nominal = *without_degrees(row.nominal);
    degrees.limits = without_degrees(row.limits).value_or(row.limits);
    return read_length(degrees, number, {.bare = LengthUnit::mm, .processes = {}});
}

namespace {

Result<Contributor> read_length(const TypedRow& row, std::size_t number, const Reading& reading) {
    Contributor c{.name = trimmed(row.name)};
    const auto at = [&](const Failure& failure, const char* column) {
        return tl::unexpected(in_cell(failure, number, column));
    };
    if (const std::string cell = plain_signs(row.distribution); !cell.empty()) {
        const auto distribution = parse_distribution(cell);
        if (!distribution) return at(distribution.error(), "distribution");
        c.distribution = *distribution;
    }
    const std::string nominal = plain_signs(row.nominal), limits = plain_signs(row.limits);
    const auto thread = standards::thread(nominal);
    if (!thread) {
        const auto length = parse_length_mm(nominal, reading.bare);
        if (!length) return at(length.error(), "nominal");
        c.nominal = *length;
    } else
        c.nominal = thread->major_mm;
    if (limits.empty() && c.distribution != Distribution::fixed)
        return at({.what = "", .why = "the cell is empty", .remedy = "Write for example ±0.1, H7 or milled"},
                  "limits");
    if (!limits.empty()) {
        const bool of_class = thread && !two_deviations(limits, reading.bare) && !limits.starts_with("±") &&
                              !parse_length_mm(limits, reading.bare) &&
                              !same_letters(limits.substr(0, 3), "by ");
        const auto deviations =
            of_class ? of_thread(*thread, limits) : deviations_of(limits, c.nominal, reading);
        if (!deviations) return at(deviations.error(), "limits");
        c.plus = deviations->plus_mm;
        c.minus = deviations->minus_mm;
    }
    const auto sense = sense_of(plain_signs(row.sense));
    if (!sense) return at(sense.error(), "sense");
    const auto cpk = number_or(plain_signs(row.cpk), 1), shift = number_or(plain_signs(row.shift), 0);
    if (!cpk) return at(cpk.error(), "cpk");
    if (!shift) return at(shift.error(), "shift");
    c.sensitivity = *sense;
    c.cpk = *cpk;
    c.shift = *shift;
    if (const auto sound = validate(std::span(&c, 1), {}); !sound) {
        Failure failure = sound.error();
        failure.what = fmt::format("row {}", number);
        failure.kind = FailureKind::file;
        return tl::unexpected(failure);
    }
    return c;
}

}

Result<std::vector<Contributor>> read_rows(const std::vector<TypedRow>& rows, const Reading& reading) {
    std::vector<Contributor> chain;
    chain.reserve(rows.size());
    for (const auto& row : rows) {
        auto c = read_row(row, chain.size() + 1, reading);
        if (!c) return tl::unexpected(c.error());
        chain.push_back(std::move(*c));
    }
    if (chain.empty())
        return fail({.what = "the chain",
                     .why = "it has no rows",
                     .remedy = "Give at least one size",
                     .kind = FailureKind::file});
    return chain;
}

}
