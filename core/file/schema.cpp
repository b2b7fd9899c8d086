#include "file/layout.hpp"
#include <map>
#include <nlohmann/json.hpp>
#include <vector>

namespace kollema::file {
namespace {

using OrderedJson = nlohmann::ordered_json;

OrderedJson number() {
    return {{"type", "number"}, {"minimum", -largest_number}, {"maximum", largest_number}};
}
OrderedJson positive() {
    return {{"type", "number"}, {"minimum", 1 / largest_number}, {"maximum", largest_number}};
}
OrderedJson or_null(OrderedJson schema) {
    schema["type"] = {schema["type"], "null"};
    return schema;
}

/// Visits a struct's layout and describes its JSON object; one object for each set of keys that may stand
/// there.
class Describer {
public:
    template <class T>
    void operator()(const char* key, T& member) {
        add(key, schema(member), true);
    }
    void operator()(const char* key, Positive) { add(key, positive(), true); }
    template <class T>
    void optional(const char* key, std::optional<T>&) {
        T value{};
        add(key, schema(value), false);
    }
    template <class Layout>
    void section(const char* key, bool must_be_there, Layout visit) {
        Describer inner;
        visit(inner);
        add(key, inner.finished(), must_be_there);
    }
    template <class First, class Second>
    void either(const char*, bool, First first, Second second) {
        Describer other = *this;
        first(*this);
        second(other);
        sets_.insert(sets_.end(), other.sets_.begin(), other.sets_.end());
    }
    template <class... T>
    void alternative(std::variant<T...>&, const Keys<sizeof...(T)>& keys) {
        std::vector<Set> all;
        std::size_t next = 0;
        const auto add_one = [&](auto one) {
            Describer with = *this;
            with(keys[next++], one);
            all.insert(all.end(), with.sets_.begin(), with.sets_.end());
        };
        (add_one(T{}), ...);
        sets_ = std::move(all);
    }
    template <class E, std::size_t N>
    void one_of(const char* key, E, const Words<E, N>& words) {
        add(key, one_word(words), true);
    }
    template <class E, std::size_t N>
    void one_of_unless(E, const char* key, E, const Words<E, N>& words) {
        add(key, one_word(words), false);
    }
    template <class E, std::size_t N>
    static OrderedJson one_word(const Words<E, N>& words) {
        OrderedJson all = OrderedJson::array();
        for (const auto& [one, word] : words)
            all.push_back(word);
        return {{"enum", all}};
    }
    template <class T>
    void constant(const char* key, T value) {
        add(key, {{"const", value}}, true);
    }
    template <class T>
    void list_or_none(const char* key, T& items) {
        add(key, schema(items), false);
    }
    template <class T>
    void unless_default(const char* key, T& member) {
        add(key, schema(member), false);
    }

    OrderedJson finished() const {
        if (sets_.size() == 1) return object(sets_.front());
        OrderedJson all = OrderedJson::array();
        for (const auto& set : sets_)
            all.push_back(object(set));
        return {{"oneOf", all}};
    }

    static OrderedJson schema(std::string&) { return {{"type", "string"}}; }
    static OrderedJson schema(double&) { return number(); }
    static OrderedJson schema(bool&) { return {{"type", "boolean"}}; }
    static OrderedJson schema(std::size_t&) {
        return {{"type", "integer"}, {"minimum", 0}, {"maximum", 1000000}};
    }
    static OrderedJson schema(int&) { return {{"type", "integer"}, {"minimum", 0}, {"maximum", 1000000}}; }
    static OrderedJson schema(std::optional<double>&) { return or_null(number()); }
    template <class Tag>
    static OrderedJson schema(Id<Tag>&) {
        return {{"type", "string"}};
    }
    template <int N>
    static OrderedJson schema(Eigen::Matrix<double, N, 1>&) {
        return {{"type", "array"}, {"items", number()}, {"minItems", N}, {"maxItems", N}};
    }
    template <class T>
    static OrderedJson schema(std::vector<T>&) {
        T value{};
        return {{"type", "array"}, {"items", schema(value)}};
    }
    template <class T>
    static OrderedJson schema(Collection<T>&) {
        std::vector<T> items;
        return schema(items);
    }
    static OrderedJson schema(Body&) {
        OrderedJson all = OrderedJson::array();
        for (Body body : shape::all_bodies()) {
            for (const auto& r : shape::rows(body))
                shape::set_rows_unchecked(body, r.key, 1);
            Set values;
            std::map<std::string, Set> in_rows;
            for (const auto& parameter : shape::parameters(body)) {
                const std::size_t first = parameter.key.find('/'), last = parameter.key.rfind('/');
                Set& set = first == std::string::npos ? values : in_rows[parameter.key.substr(0, first)];
                const std::string key =
                    first == std::string::npos ? parameter.key : parameter.key.substr(last + 1);
                set.properties[key] = size_schema(parameter);
                const auto* usual = std::get_if<double>(&parameter.value);
                if (usual && *usual > 0) set.required.push_back(key);
            }
            for (const auto& r : shape::rows(body)) {
                const std::string key(r.key);
                values.properties[key] = {{"type", "array"},
                                          {"title", r.title},
                                          {"items", object(in_rows[key])},
                                          {"minItems", r.may_be_empty ? 0 : 1}};
                if (!r.may_be_empty) values.required.push_back(key);
            }
            all.push_back(under_key(shape::info(body).key, shape::info(body).title, values));
        }
        return {{"oneOf", all}};
    }
    /// A size that is usually 0 may be 0.
    static OrderedJson size_schema(const Parameter& parameter) {
        OrderedJson described = schema(parameter);
        const auto* usual = std::get_if<double>(&parameter.value);
        if (usual && *usual == 0) described["minimum"] = 0;
        return described;
    }
    static OrderedJson schema(kind::AnyKind&) {
        OrderedJson all = OrderedJson::array();
        for (const auto& kind : kind::all_kinds()) {
            Set values;
            for (const auto& parameter : kind::parameters(kind))
                values.properties[parameter.key] = schema(parameter);
            all.push_back(under_key(kind::info(kind).key, kind::info(kind).title, values));
        }
        return {{"oneOf", all}};
    }
    /// Only choices of a text stand in the schema: those of a size depend on other parameters.
    static OrderedJson schema(const Parameter& parameter) {
        OrderedJson described{{"title", parameter.title}, {"description", parameter.meaning}};
        if (parameter.type == ValueType::yes_no)
            described["type"] = "boolean";
        else if (parameter.type != ValueType::text) {
            described.update(parameter.unit == Unit::length ? positive() : number());
            if (parameter.unit == Unit::length && may_be_zero(parameter)) described["minimum"] = 0;
            if (parameter.type == ValueType::number_or_automatic) described = or_null(described);
        } else {
            described["type"] = "string";
            if (parameter.domain.only_choices)
                for (const auto& choice : parameter.domain.choices)
                    described["enum"].push_back(std::get<std::string>(choice));
        }
        return described;
    }
    template <class T>
    static OrderedJson schema(T& value) {
        Describer inner;
        layout(inner, value);
        return inner.finished();
    }

private:
    struct Set {
        OrderedJson properties = OrderedJson::object(), required = OrderedJson::array();
    };
    static OrderedJson object(const Set& set) {
        return {{"type", "object"},
                {"additionalProperties", false},
                {"required", set.required},
                {"properties", set.properties}};
    }
    /// An object with one key, which says what its values are of.
    static OrderedJson under_key(std::string_view key, std::string_view title, const Set& values) {
        Set named;
        named.properties[std::string(key)] = object(values);
        named.properties[std::string(key)]["title"] = title;
        named.required.push_back(key);
        return object(named);
    }
    void add(const char* key, const OrderedJson& described, bool required) {
        for (auto& set : sets_) {
            set.properties[key] = described;
            if (required) set.required.push_back(key);
        }
    }
    std::vector<Set> sets_{Set{}};
};

}

std::string json_schema() {
    Project project;
    const OrderedJson described = Describer::schema(project);
    OrderedJson whole{
        {"$schema", "http://json-schema.org/draft-07/schema#"},
        {"title", "Kollema project"},
        {"description",
         "Lengths in mm, angles in radians, right-handed frames.  Ids are stable; names are free."}};
    whole.update(described);
    return whole.dump(1, ' ') + "\n";
}

}
