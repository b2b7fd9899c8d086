#pragma once
#include "commands.hpp"
#include "sampling.hpp"
#include <functional>
#include <nlohmann/json_fwd.hpp>

namespace kollema::cli {

/// What one run of several leaves for `merge`: the question as it was put, and the sums that it drew.
/// `question` holds the command, its file's text and its options.
Answered share_of(const Drawing& drawing, const nlohmann::ordered_json& question,
                  const std::function<Answered(const Drawing&)>& compute);

}
