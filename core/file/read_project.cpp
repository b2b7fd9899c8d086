#include "file/document.hpp"
#include "file/layout.hpp"
#include <map>

namespace kollema::file {
namespace {

std::optional<double> number_or_null(const Node& node) {
    return node.is_null() ? std::nullopt : std::optional(node.number(largest_number));
}

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
    template <class... T>
    void alternative(std::variant<T...>& value, const Keys<sizeof...(T)>& keys) {
        std::size_t there = 0;
        [&]<std::size_t... I>(std::index_sequence<I...>) {
            ((allow(keys[I]) ? (++there, read(node_.at(keys[I]), value.template emplace<I>())) : void()),
             ...);
        }
        (std::index_sequence_for<T...>());
        if (there == 0 && !missing_) missing_ = keys.back();
        if (there > 1) node_.bad(fmt::format("only one of {} is expected here", fmt::join(keys, ", ")));
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
    template <class E, std::size_t N>
    void one_of_unless(E, const char* key, E& value, const Words<E, N>& words) {
        if (allow(key)) one_of(key, value, words);
    }
    template <class T>
    void constant(const char* key, const T&) {
        expect(key); // what it must be is told by from_json(), before anything else
    }
    template <class T>
    void list_or_none(const char* key, T& items) {
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
    static void read(const Node& node, double& number) { number = node.number(largest_number); }
    static void read(const Node& node, bool& flag) { flag = node.yes_or_no(); }
    static void read(const Node& node, std::size_t& index) { index = node.index(); }
    static void read(const Node& node, int& grade) { grade = static_cast<int>(node.index()); }
    static void read(const Node& node, std::optional<double>& number) { number = number_or_null(node); }
    template <class Tag>
    static void read(const Node& node, Id<Tag>& id) {
        id.text = node.text();
    }
    template <int N>
    static void read(const Node& node, Eigen::Matrix<double, N, 1>& v) {
        const auto numbers = node.items();
        if (numbers.size() != N) node.bad(fmt::format("{} numbers are expected here", N));
        for (int i = 0; i < N; ++i)
            v[i] = numbers[static_cast<std::size_t>(i)].number(largest_number);
    }
    template <class T>
    static void read(const Node& node, std::vector<T>& all) {
        for (const auto& item : node.items())
            read(item, all.emplace_back());
    }
    template <class T>
    static void read(const Node& node, Collection<T>& all) {
        std::vector<T> items;
        read(node, items);
        all = std::move(items);
    }
    static void read(const Node& node, Body& body) {
        std::vector<std::string_view> all;
        for (const auto& one : shape::all_bodies())
            all.push_back(shape::info(one).key);
        node.only(all);
        const auto keys = node.keys();
        if (keys.size() != 1) node.bad("one body is expected here");
        body = *shape::body_named(keys.front());
        const Node values = node.at(keys.front().c_str());
        std::vector<std::string> known;
        std::map<std::string, std::vector<Node>, std::less<>> rows;
        for (const auto& r : shape::rows(body)) {
            known.emplace_back(r.key);
            const bool there = values.has(known.back().c_str());
            rows[known.back()] = there ? values.at(known.back().c_str()).items() : std::vector<Node>{};
            shape::set_rows_unchecked(body, r.key, rows[known.back()].size());
        }
        std::map<std::string, std::vector<std::string_view>> known_in_rows;
        const auto sizes = shape::parameters(body);
        for (const auto& parameter : sizes) {
            const std::size_t first = parameter.key.find('/');
            if (first == std::string::npos) {
                known.push_back(parameter.key);
                read_size(values, parameter.key, parameter, body);
                continue;
            }
            const std::size_t second = parameter.key.find('/', first + 1);
            const std::size_t row = std::stoul(parameter.key.substr(first + 1, second - first - 1)) - 1;
            const std::string key = parameter.key.substr(second + 1);
            read_size(rows.at(parameter.key.substr(0, first))[row], key, parameter, body);
            known_in_rows[parameter.key.substr(0, second)].push_back(
                std::string_view(parameter.key).substr(second + 1));
        }
        values.only({known.begin(), known.end()});
        for (const auto& [list, nodes] : rows)
            for (std::size_t i = 0; i < nodes.size(); ++i)
                nodes[i].only(known_in_rows[fmt::format("{}/{}", list, i + 1)]);
        if (const auto defect = shape::defect_of(body))
            values.bad(fmt::format("{}: {}. {}", defect->what, defect->why, defect->remedy));
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
    /// A size that is usually 0 or empty may be missing.
    static void read_size(const Node& node, const std::string& key, const Parameter& parameter, Body& body) {
        const auto* usual = std::get_if<double>(&parameter.value);
        if (!(usual && *usual > 0) && !node.has(key.c_str())) return;
        shape::set_unchecked(body, parameter.key, value_at(node.at(key.c_str()), parameter));
    }
    static Value value_at(const Node& node, const Parameter& parameter) {
        switch (parameter.type) {
        case ValueType::text:
            return node.text();
        case ValueType::yes_no:
            return node.yes_or_no();
        case ValueType::number:
            return node.number(largest_number);
        case ValueType::number_or_automatic:
            break;
        }
        const auto number = number_or_null(node);
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
    if (!n.at("version").is_number())
        n.at("version").bad(
            fmt::format("the number of the version is expected here, such as {}", schema_version));
    const double version = n.at("version").number(largest_number);
    if (version > schema_version)
        n.at("version").bad(
            fmt::format("the file is of version {}, this program reads up to {}", version, schema_version));
    if (version != schema_version) n.at("version").bad("there is no such version");
    if (n.at("unit").text() != "mm")
        n.at("unit").bad("\"mm\" is expected here: a project is kept in millimetres");
    Project project;
    Reader::read(n, project);
    for (auto& part : project.parts)
        renew_offered(part);
    return project;
}

}

Result<Project> from_json(std::string_view text, std::string_view name) {
    const auto invalid = [&](std::string why, std::string remedy) {
        return fail({.what = std::string(name),
                     .why = std::move(why),
                     .remedy = std::move(remedy),
                     .kind = FailureKind::file});
    };
    const auto json = document(text, name);
    if (!json) return tl::unexpected(json.error());
    try {
        Project project = read_project({*json, ""});
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
