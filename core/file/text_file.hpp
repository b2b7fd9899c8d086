#pragma once
#include "quantity/result.hpp"
#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

namespace kollema::file {

/// No project or chain is read or saved beyond this size, so that what is saved can be opened.
inline constexpr std::uintmax_t most_bytes_of_a_file = std::uintmax_t{256} << 20U;

/// The whole of a regular file.  Errors (file): missing, a folder, a device or pipe, unreadable, too large.
Result<std::string> read_text(const std::filesystem::path& path,
                              std::uintmax_t most_bytes = most_bytes_of_a_file);

/// Whether two paths lead to one file; false where one of them leads nowhere.
bool is_same_file(const std::filesystem::path& a, const std::filesystem::path& b);

/// Writes a text beside the file, flushes it to the disk and renames it over the old one: a crash leaves the
/// old file whole.  A symbolic link stays one, its target gets the text; permissions, owner, group and access
/// list stay, and so do hard links: a file with several names is written in place.
/// What dead processes left beside it is swept away.  Errors (file): read-only files and folders, a full
/// disk, a folder in the place of the file, a text that read_text() would refuse.
Result<void> write_text_atomically(const std::filesystem::path& path, std::string_view text);

}
