#pragma once
#include <cstddef>
#include <functional>

namespace kollema::geometry {

/// Calls work(0) … work(count − 1) on as many threads as the machine has cores, in no order; false where
/// `keep_going`, asked on the caller's thread, said so before all were begun.  What one throws is thrown here
/// when all have ended.
bool side_by_side(std::size_t count, const std::function<bool()>& keep_going,
                  const std::function<void(std::size_t)>& work);

}
