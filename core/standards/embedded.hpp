#pragma once
#include <span>
#include <string_view>

namespace kollema::standards {

struct EmbeddedFile {
    std::string_view name, text;
};

/// The files of data/standards and data/hardware, written into the program by cmake/embed.cmake.
std::span<const EmbeddedFile> embedded_tables();

}
