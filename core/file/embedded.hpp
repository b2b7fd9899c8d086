#pragma once
#include "standards/embedded.hpp"

namespace kollema::file {

using standards::EmbeddedFile;

/// data/schema/project.schema.json, written into the program by cmake/embed.cmake.
std::span<const EmbeddedFile> embedded_schema();

}
