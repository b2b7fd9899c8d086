#include "file/layout.hpp"
#include "quantity/format.hpp"
#include "quantity/nearest.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <unordered_set>

namespace kollema::file {
namespace {

using Json = nlohmann::json;

/// Thrown inside this file only: where in the document, and what is wrong there.
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
    double number() const {
        if (!json_.is_number()) bad("a number is expected here");
        const auto value = json_.get<double>();
        if (!(std::abs(value) <= largest_number))
            bad(fmt::format("a number from -{0} to {0} is expected here", plain(largest_number)));
        return value;
    }
    std::optional<double> number_or_null() const {
        return json_.is_null() ? std::nullopt : std::optional(number());
    }
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

/// Visits a struct's layout and fills it from a JSON object.  What is unknown is told before what is missing:
/// it is most often the same key, misspelt.
class Reader {
public:
    explicit Reader(const Node& node) : node_(node) {}

    template <class T>
    void operator()(const char* key, T& member) {
        if (expect(key)) read(node_.at(key), member);
    }
    void operator()(const char* key, Positive size) { (*this)(key, size.value); }
    template <class T>
    void optional(const char* key, std::optional<T>& member) {
        if (allow(key)) read(node_.at(key), member.emplace());
    }
    template <class Layout>
    void section(const char* key, bool must_be_there, Layout visit) {
        if (must_be_there ? !expect(key) : !allow(key)) return;
        const Node node = node_.at(key);
        Reader inner(node);
        visit(inner);
        inner.finish();
    }
    template <class First, class Second>
    void either(const char* key, bool, First first, Second second) {
        node_.has(key) ? first(*this) : second(*this);
    }
    template <class E, std::size_t N>
    void one_of(const char* key, E& value, const Words<E, N>& words) {
        if (!expect(key)) return;
        const Node node = node_.at(key);
        const std::string text = node.text();
        std::string known;
        for (const auto& [one, word] : words) {
            known += fmt::format("{}{}", known.empty() ? "" : ", ", word);
            if (word != text) continue;
            value = one;
            return;
        }
        node.bad(fmt::format("one of {} is expected here", known));
    }
    template <class T>
    void constant(const char* key, const T&) {
        expect(key); // what it must be is told by from_json(), before anything else
    }
    template <class T>
    void list_or_none(const char* key, std::vector<T>& items) {
        if (allow(key)) read(node_.at(key), items);
    }
    template <class T>
    void unless_default(const char* key, T& member) {
        if (allow(key)) read(node_.at(key), member);
    }
    void finish() const {
        node_.only(seen_);
        if (missing_) node_.bad(fmt::format("\"{}\" is missing", *missing_));
    }

    static void read(const Node& node, std::string& text) { text = node.text(); }
    static void read(const Node& node, double& number) { number = node.number(); }
    static void read(const Node& node, bool& flag) { flag = node.yes_or_no(); }
    static void read(const Node& node, std::size_t& index) { index = node.index(); }
    static void read(const Node& node, int& grade) { grade = static_cast<int>(node.index()); }
    static void read(const Node& node, std::optional<double>& number) { number = node.number_or_null(); }
    template <class Tag>
    static void read(const Node& node, Id<Tag>& id) {
        id.text = node.text();
    }
    template <int N>
    static void read(const Node& node, Eigen::Matrix<double, N, 1>& v) {
        const auto numbers = node.items();
        if (numbers.size() != N) node.bad(fmt::format("{} numbers are expected here", N));
        for (int i = 0; i < N; ++i)
            v[i] = numbers[static_cast<std::size_t>(i)].number();
    }
    template <class T>
    static void read(const Node& node, std::vector<T>& all) {
        for (const auto& item : node.items())
            read(item, all.emplace_back());
    }
    static void read(const Node& node, kind::AnyKind& kind) {
        const auto keys = node.keys();
        std::vector<std::string_view> all;
        for (const auto& one : kind::all_kinds())
            all.push_back(kind::info(one).key);
        node.only(all);
        if (keys.size() != 1) node.bad("one kind of joint is expected here");
        kind = *kind::kind_named(keys.front());
        const Node values = node.at(keys.front().c_str());
        std::vector<std::string> known;
        for (const auto& parameter : kind::parameters(kind)) {
            known.push_back(parameter.key);
            if (!values.has(parameter.key.c_str())) continue; // it has a usual value
            kind::set_unchecked(kind, parameter.key, value_at(values.at(parameter.key.c_str()), parameter));
        }
        values.only({known.begin(), known.end()});
        if (const auto defect = kind::defect_of(kind))
            values.bad(fmt::format("{}: {}. {}", defect->what, defect->why, defect->remedy));
    }
    template <class T>
    static void read(const Node& node, T& value) {
        Reader inner(node);
        layout(inner, value);
        inner.finish();
    }

private:
    static Value value_at(const Node& node, const Parameter& parameter) {
        switch (parameter.type) {
        case ValueType::text:
            return node.text();
        case ValueType::yes_no:
            return node.yes_or_no();
        case ValueType::number:
            return node.number();
        case ValueType::number_or_automatic:
            break;
        }
        const auto number = node.number_or_null();
        return number ? Value(*number) : Value();
    }
    bool allow(const char* key) {
        seen_.emplace_back(key);
        return node_.has(key);
    }
    bool expect(const char* key) {
        const bool there = allow(key);
        if (!there && !missing_) missing_ = key;
        return there;
    }

    const Node& node_;
    std::vector<std::string_view> seen_;
    std::optional<std::string> missing_;
};

Project read_project(const Node& n) {
    if (n.at("schema").text() != schema_name)
        n.at("schema").bad(fmt::format("\"{}\" is expected here", schema_name));
    const double version = n.at("version").number();
    if (version > schema_version)
        n.at("version").bad(
            fmt::format("the file is of version {}, this program reads up to {}", version, schema_version));
    if (version != schema_version) n.at("version").bad("there is no such version");
    if (n.at("unit").text() != "mm")
        n.at("unit").bad("\"mm\" is expected here: a project is kept in millimetres");
    Project project;
    Reader::read(n, project);
    return project;
}

/// A project nests a dozen levels.  Deeper documents cost memory by the gigabyte before anything is known of
/// them.
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

Result<Project> from_json(std::string_view text, std::string_view name) {
    const auto invalid = [&](std::string why, std::string remedy) {
        return fail({.what = std::string(name),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    if (nests_too_deep(text))
        return invalid("it nests deeper than any project", "Check that this is the right file");
    std::string doubled;
    const Json json = parsed(text, doubled);
    if (!doubled.empty())
        return invalid(fmt::format("\"{}\" stands twice in one object", doubled), "Take one of the two out");
    if (json.is_discarded()) return invalid("it is not a complete JSON document", "Open an older copy of it");
    try {
        Project project = read_project({json, ""});
        if (auto defect = first_defect(project))
            return invalid(fmt::format("{}: {}", defect->what, defect->why), defect->remedy);
        return project;
    } catch (const Unreadable& error) {
        const bool newer = error.where == "version";
        return invalid(fmt::format("{}: {}", error.where, error.why),
                       newer ? "Open it with a newer Kollema"
                             : "Correct the file, or open an older copy of it");
    }
}

Result<Project> load(const std::filesystem::path& path) {
    const auto text = read_text(path);
    if (!text) return tl::unexpected(text.error());
    return from_json(*text, path.string());
}

}
