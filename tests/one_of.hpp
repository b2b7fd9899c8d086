#pragma once

namespace kollema::test {

/// Sanitizers make long trials take many times as long: there one of so many is run.
#ifdef KOLLEMA_SANITIZED
inline constexpr int one_of = 4;
#else
inline constexpr int one_of = 1;
#endif

}
