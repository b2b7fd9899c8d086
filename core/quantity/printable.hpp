#pragma once
#include <string>
#include <string_view>

namespace kollema {

/// A text that may come from a file, fit for one line of a terminal or a label: control characters (C0, DEL,
/// C1) and those that turn the direction of writing become the replacement character U+FFFD.
std::string printable(std::string_view text);

/// The same for a text of several lines: line ends stay.
std::string printable_lines(std::string_view text);

}
