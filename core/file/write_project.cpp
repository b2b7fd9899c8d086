#include "file/layout.hpp"
#include <nlohmann/json.hpp>

namespace kollema::file {
namespace {

using OrderedJson = nlohmann::ordered_json;

/// Visits a struct's layout and writes it as a JSON object.
class Writer {
public:
    template <class T>
    void operator()(const char* key, T& member) {
        object_[key] = json(member);
    }
    void operator()(const char* key, Positive size) { object_[key] = size.value; }
    template <class T>
    void optional(const char* key, std::optional<T>& member) {
        if (member) object_[key] = json(*member);
    }
    template <class Layout>
    void section(const char* key, bool there, Layout visit) {
        if (!there) return;
        Writer inner;
        visit(inner);
        object_[key] = std::move(inner.object_);
    }
    template <class First, class Second>
    void either(const char*, bool is_first, First first, Second second) {
        is_first ? first(*this) : second(*this);
    }
    template <class... T>
    void alternative(std::variant<T...>& value, const Keys<sizeof...(T)>& keys) {
        object_[keys[value.index()]] = std::visit([](auto& one) { return json(one); }, value);
    }
    template <class E, std::size_t N>
    void one_of(const char* key, E value, const Words<E, N>& words) {
        for (const auto& [one, word] : words)
            if (one == value) object_[key] = word;
    }
    template <class E, std::size_t N>
    void one_of_unless(E usual, const char* key, E value, const Words<E, N>& words) {
        if (value != usual) one_of(key, value, words);
    }
    template <class T>
    void constant(const char* key, T value) {
        object_[key] = value;
    }
    template <class T>
    void list_or_none(const char* key, T& items) {
        if (!items.empty()) object_[key] = json(items);
    }
    template <class T>
    void unless_default(const char* key, T& member) {
        if (member != T{}) object_[key] = json(member);
    }

    template <class T>
    static OrderedJson json(T& value) {
        if constexpr (std::is_arithmetic_v<T> || std::is_same_v<T, std::string>)
            return value;
        else {
            Writer inner;
            layout(inner, value);
            return inner.object_.is_null() ? OrderedJson::object() : std::move(inner.object_);
        }
    }
    template <class Tag>
    static OrderedJson json(Id<Tag>& id) {
        return id.text;
    }
    template <int N>
    static OrderedJson json(Eigen::Matrix<double, N, 1>& v) {
        return std::vector<double>(v.begin(), v.end());
    }
    static OrderedJson json(std::optional<double>& value) {
        return value ? OrderedJson(*value) : OrderedJson(nullptr);
    }
    template <class T>
    static OrderedJson json(std::vector<T>& items) {
        return list(items);
    }
    template <class T>
    static OrderedJson json(Collection<T>& items) {
        return list(items);
    }
    template <class Items>
    static OrderedJson list(Items& items) {
        OrderedJson all = OrderedJson::array();
        for (auto& item : items)
            all.push_back(json(item));
        return all;
    }
    static OrderedJson json(Body& body) {
        OrderedJson values = OrderedJson::object();
        for (const auto& r : shape::rows(body))
            values[std::string(r.key)] = OrderedJson::array();
        for (const auto& parameter : shape::parameters(body)) {
            const std::size_t first = parameter.key.find('/'), last = parameter.key.rfind('/');
            if (first == std::string::npos) {
                values[parameter.key] = json(parameter.value);
                continue;
            }
            const std::size_t row = std::stoul(parameter.key.substr(first + 1, last - first - 1)) - 1;
            values[parameter.key.substr(0, first)][row][parameter.key.substr(last + 1)] =
                json(parameter.value);
        }
        return {{std::string(shape::info(body).key), std::move(values)}};
    }
    static OrderedJson json(kind::AnyKind& kind) {
        OrderedJson values = OrderedJson::object();
        for (const auto& parameter : kind::parameters(kind))
            values[parameter.key] = json(parameter.value);
        return {{std::string(kind::info(kind).key), std::move(values)}};
    }
    static OrderedJson json(const Value& value) {
        if (const auto* text = std::get_if<std::string>(&value)) return *text;
        if (const auto* number = std::get_if<double>(&value)) return *number;
        if (const auto* flag = std::get_if<bool>(&value)) return *flag;
        return nullptr;
    }

private:
    OrderedJson object_ = OrderedJson::object();
};

}

std::string to_json(const Project& project) {
    Project copy = project; // a layout is visited by the reader too, which writes into what it visits
    for (auto& part : copy.parts)
        take_away_offered(part);
    // A name may hold any bytes a file system or a paste brought along; they must not stop the saving.
    return Writer::json(copy).dump(1, ' ', false, OrderedJson::error_handler_t::replace) + "\n";
}

Result<void> save(const Project& project, const std::filesystem::path& path) {
    return write_text_atomically(path, to_json(project));
}

}
