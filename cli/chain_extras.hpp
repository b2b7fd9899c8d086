#pragma once
#include "commands.hpp"
#include "output.hpp"
#include "stack/chain.hpp"
#include <nlohmann/json.hpp>

/// What a bare chain may be asked besides: what measured Cpk values allow, shims, a mean that drifts,
/// classes.
namespace kollema::cli {

/// Keys "sampled", "shims", "drifted" and "matched", each where it is asked; lengths are in the unit of the
/// answer. Errors (argument): an option that cannot be read, a row that is not there.
Result<nlohmann::ordered_json> extras_of(const Context& context, const StackOptions& options,
                                         const std::vector<stack::Contributor>& chain,
                                         const stack::Limits& limits);

/// The same in words.
std::string extras_in_words(const Context& context, const nlohmann::ordered_json& extras);

/// A share keeps what was asked.
void write_extras(const StackOptions& options, nlohmann::ordered_json& question);
void read_extras(const nlohmann::ordered_json& question, StackOptions& options);

/// Errors (argument): one was asked, and this is no bare chain.
Result<void> without_extras(const StackOptions& options);

}
