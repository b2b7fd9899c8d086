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
    std::vector<std::string> kinds;                         ///< of the contributions
    std::vector<std::pair<std::string, Vector3>> reactions; ///< by contact
    std::vector<std::string> remarks;
};

/// Lengths times this: they are in millimetres, and another unit is asked for.
GapReport scaled(GapReport report, double factor);

nlohmann::ordered_json json(const GapReport& report);
std::string readable(const Context& context, const GapReport& report);

}
