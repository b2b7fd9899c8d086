#include "file/document.hpp"
#include <unordered_set>

namespace kollema::file {
namespace {

/// A file of ours nests a dozen levels.  Deeper documents cost memory by the gigabyte before anything is
/// known of them.
bool nests_too_deep(std::string_view text) {
    constexpr int deepest = 64;
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '\\') ++i;
            quoted = c != '"';
        } else if (c == '"')
            quoted = true;
        else if (c == '[' || c == '{') {
            if (++depth > deepest) return true;
        } else if (c == ']' || c == '}')
            --depth;
    }
    return false;
}

/// Parses; a key that stands twice in an object, of which one would be lost, is told in `doubled`.
Json parsed(std::string_view text, std::string& doubled) {
    std::vector<std::unordered_set<std::string>> keys;
    const auto look = [&](int, Json::parse_event_t event, Json& value) {
        if (event == Json::parse_event_t::object_start) keys.emplace_back();
        if (event == Json::parse_event_t::object_end && !keys.empty()) keys.pop_back();
        if (event == Json::parse_event_t::key && !keys.empty() &&
            !keys.back().insert(value.get_ref<const std::string&>()).second)
            doubled = value.get<std::string>();
        return true;
    };
    return Json::parse(text, look, false);
}

}

Result<Json> document(std::string_view text, std::string_view name) {
    const auto invalid = [&](std::string why, std::string remedy) {
        return fail({.what = std::string(name),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    if (nests_too_deep(text))
        return invalid("it nests deeper than any file of ours", "Check that this is the right file");
    std::string doubled;
    Json json = parsed(text, doubled);
    if (!doubled.empty())
        return invalid(fmt::format("\"{}\" stands twice in one object", doubled), "Take one of the two out");
    if (json.is_discarded()) return invalid("it is not a complete JSON document", "Open an older copy of it");
    return json;
}

}
