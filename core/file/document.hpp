#pragma once
#include "quantity/format.hpp"
#include "quantity/nearest.hpp"
#include "quantity/result.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

/// Internal to the readers of JSON files: a document that knows the way to each of its values.
namespace kollema::file {

using Json = nlohmann::json;

/// Thrown within a reader only, which answers a Failure: where in the document, and what is wrong there.
struct Unreadable {
    std::string where, why;
};

/// A value of the document with the way to it, for messages such as "parts[2].body.block.length".
class Node {
public:
    Node(const Json& json, std::string path) : json_(json), path_(std::move(path)) {}

    Node at(const char* key) const {
        if (!json_.is_object()) bad("an object is expected here");
        const auto found = json_.find(key);
        if (found == json_.end()) bad(fmt::format("\"{}\" is missing", key));
        return {*found, path_.empty() ? key : path_ + "." + key};
    }
    bool has(const char* key) const { return json_.is_object() && json_.contains(key); }

    /// A key that the object may not have is an error, for it would be lost in silence.
    void only(const std::vector<std::string_view>& known) const {
        if (!json_.is_object()) bad("an object is expected here");
        for (const auto& [key, value] : json_.items()) {
            if (std::ranges::find(known, key) != known.end()) continue;
            if (known.empty()) bad(fmt::format("\"{}\" is not known here", key));
            bad(fmt::format("\"{}\" is not known here; the nearest is \"{}\"", key, nearest(key, known)));
        }
    }

    std::vector<std::string> keys() const {
        if (!json_.is_object()) bad("an object is expected here");
        std::vector<std::string> all;
        for (const auto& [key, value] : json_.items())
            all.push_back(key);
        return all;
    }

    std::string text() const {
        if (!json_.is_string()) bad("a text is expected here");
        return json_.get<std::string>();
    }
    double number(double largest) const {
        if (!json_.is_number()) bad("a number is expected here");
        const auto value = json_.get<double>();
        if (!(std::abs(value) <= largest))
            bad(fmt::format("a number from -{0} to {0} is expected here", plain(largest)));
        return value;
    }
    bool is_number() const { return json_.is_number(); }
    bool is_null() const { return json_.is_null(); }
    bool yes_or_no() const {
        if (!json_.is_boolean()) bad("true or false is expected here");
        return json_.get<bool>();
    }
    std::size_t index() const {
        if (!json_.is_number_unsigned() || json_.get<std::uint64_t>() > 1'000'000)
            bad("a small whole number is expected here");
        return json_.get<std::size_t>();
    }
    std::vector<Node> items() const {
        if (!json_.is_array()) bad("a list is expected here");
        std::vector<Node> nodes;
        for (std::size_t i = 0; i < json_.size(); ++i)
            nodes.emplace_back(json_[i], fmt::format("{}[{}]", path_, i));
        return nodes;
    }
    [[noreturn]] void bad(std::string why) const {
        throw Unreadable{path_.empty() ? "the document" : path_, std::move(why)};
    }

private:
    const Json& json_;
    std::string path_;
};

/// The whole document.  Errors (file): no JSON, nested too deep, a key that stands twice in an object.
Result<Json> document(std::string_view text, std::string_view name);

}
