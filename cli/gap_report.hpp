#pragma once
#include "contact/answers.hpp"
#include "output.hpp"
#include <nlohmann/json.hpp>

namespace kollema::cli {

/// A gap of an assembly with everything that is told of it.
struct GapReport {
    std::string id, name;
    stack::Limits limits;
    contact::GapAnswer answer; ///< its contributions in the order in which they are printed
    stack::MonteCarlo drawn;
    std::uint64_t left_out = 0;
    bool none_goes_together() const { return drawn.samples > 0 && left_out == drawn.samples; }
    bool straightened = false; ///< the distribution is that of a chain made linear
    struct Of {                ///< a contribution
        std::string kind;
        Distribution distribution = Distribution::normal;
    };
    std::vector<Of> of;
    std::vector<std::pair<std::string, Vector3>> reactions; ///< by contact
    std::vector<std::string> remarks;
};

/// Lengths times this: they are in millimetres, and another unit is asked for.
GapReport scaled(GapReport report, double factor);

nlohmann::ordered_json json(const stack::Contribution& contribution);
/// As an entry of the loop.
nlohmann::ordered_json json_of_link(const stack::Contribution& contribution, std::string_view kind,
                                    Distribution distribution);
nlohmann::ordered_json json(const stack::Interval& interval);
nlohmann::ordered_json json(const std::optional<double>& value); ///< or null
nlohmann::ordered_json json(const stack::GapProbabilities& gap, std::string_view method);
nlohmann::ordered_json json(const stack::MonteCarlo& drawn);
/// The contributors for people; of very many those that spread most.
std::string contributor_table(std::vector<stack::Contribution> all);

nlohmann::ordered_json json(const GapReport& report);
std::string readable(const Context& context, const GapReport& report);

/// What is told of a gap, for one page; its verdict and its curve are still to be set.
stack::Page page_of(const Context& context, const GapReport& report);

}
