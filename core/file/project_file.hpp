#pragma once
#include "file/text_file.hpp"
#include "model/project.hpp"
#include <filesystem>
#include <string>
#include <string_view>

namespace kollema::file {

inline constexpr std::string_view schema_name = "kollema-project";
inline constexpr int schema_version = 1;

/// A project as JSON text: keys in a fixed order, one value a line, so that two versions compare line by
/// line.
std::string to_json(const Project& project);

/// Reads a project.  `name` is used in messages.  Errors (file): no JSON, a wrong type or key with its path,
/// a newer version, anything that first_defect() finds.  Matched features are taken as they stand in the
/// file.
Result<Project> from_json(std::string_view text, std::string_view name);

Result<Project> load(const std::filesystem::path& path);

/// Writes beside the file and renames: a crash leaves the old file whole.
Result<void> save(const Project& project, const std::filesystem::path& path);

/// The JSON Schema of a project file, made from the same lists of keys as reading and writing.
std::string json_schema();

}
