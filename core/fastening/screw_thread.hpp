#pragma once
#include "standards/threads.hpp"

namespace kollema::fastening {

/// A thread that fastens.  Errors: as standards::thread; a power thread (trapezoidal, Acme).
Result<standards::Thread> fastening_thread(const std::string& name);

}
