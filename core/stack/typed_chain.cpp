#include "stack/typed_chain.hpp"
#include "quantity/expression.hpp"
#include "quantity/text.hpp"
#include "stack/typed_angle.hpp"
#include <fmt/format.h>

namespace kollema::stack {
namespace {

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
    const std::string text = plain_cell(cell);
    for (const std::string sign : {"deg", "°"})
        if (text.ends_with(sign))
            return plain_cell(std::string_view(text).substr(0, text.size() - sign.size()));
    return std::nullopt;
}

Result<Contributor> read_length(const TypedRow& row, std::size_t number, const Reading& reading);

}

bool is_bought(const TypedRow& row) { return plain_cell(row.made) == "bought"; }

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
    Contributor c{.name = std::string(trimmed(row.name))};
    const auto at = [&](const Failure& failure, const char* column) {
        return tl::unexpected(in_cell(failure, fmt::format("row {}", number), column));
    };
    if (const std::string cell = plain_cell(row.distribution); !cell.empty()) {
        const auto distribution = parse_distribution(cell);
        if (!distribution) return at(distribution.error(), "distribution");
        c.distribution = *distribution;
    }
    const auto nominal = read_nominal(plain_cell(row.nominal), reading);
    if (!nominal) return at(nominal.error(), "nominal");
    c.nominal = nominal->mm;
    const std::string limits = plain_cell(row.limits);
    if (limits.empty() && c.distribution != Distribution::fixed)
        return at({.what = "", .why = "the cell is empty", .remedy = "Write for example ±0.1, H7 or milled"},
                  "limits");
    if (!limits.empty()) {
        const auto deviations = read_limits(limits, *nominal, reading);
        if (!deviations) return at(deviations.error(), "limits");
        c.plus = deviations->plus_mm;
        c.minus = deviations->minus_mm;
    }
    const auto sense = sense_of(plain_cell(row.sense));
    if (!sense) return at(sense.error(), "sense");
    const auto cpk = number_or(plain_cell(row.cpk), 1), shift = number_or(plain_cell(row.shift), 0);
    if (!cpk) return at(cpk.error(), "cpk");
    if (!shift) return at(shift.error(), "shift");
    if (const std::string made = plain_cell(row.made); !made.empty() && made != "here" && made != "bought")
        return at({.what = made, .why = "no such way", .remedy = "Write here or bought, or nothing"}, "made");
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

TypedRow typed(const Contributor& c) {
    return {.name = c.name,
            .nominal = fmt::format("{}", c.nominal),
            .limits = c.distribution == Distribution::fixed ? "" : fmt::format("{:+} {:+}", c.plus, c.minus),
            .sense = fmt::format("{}", c.sensitivity),
            .distribution = std::string(name(c.distribution)),
            .cpk = fmt::format("{}", c.cpk),
            .shift = fmt::format("{}", c.shift),
            .made = {}};
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
