#include "places.hpp"

namespace kollema::test {

std::string in_source(const std::string& path) { return std::string(KOLLEMA_SOURCE_DIR "/") + path; }
std::string cli_program() { return KOLLEMA_CLI; }

}
