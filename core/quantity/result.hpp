#pragma once
#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace kollema {

/// Where a failure comes from; the command line turns it into its exit code.
enum class FailureKind {
    argument, ///< what was typed cannot be read or is out of its domain
    file,     ///< a file is missing, unreadable or invalid
    not_held, ///< readable, but the standard, the catalogue or the computation does not hold it
};

/// An expected failure, in the user's words: what was asked, why it cannot be, what to do instead.
struct Failure {
    std::string what, why, remedy;
    FailureKind kind = FailureKind::not_held;
    bool operator==(const Failure&) const = default;
};

template <class T>
using Result = tl::expected<T, Failure>;

inline tl::unexpected<Failure> fail(Failure failure) { return tl::unexpected<Failure>(std::move(failure)); }

/// "WHAT: WHY. WHAT TO DO", the one form in which a failure is printed; fit for one line of a terminal.
std::string in_one_line(const Failure& failure);

}
