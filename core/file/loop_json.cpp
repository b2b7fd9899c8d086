#include "file/loop_json.hpp"
#include "file/document.hpp"
#include "file/project_file.hpp"
#include "file/size_json.hpp"

namespace kollema::file {
namespace of_loops { // of its own: it speaks the words of another folder
namespace {

using namespace formula;

constexpr auto keys = {"sizes", "definitions", "unknowns", "loops", "equations", "requirements"};

double number(const Node& node) { return node.number(stack::largest_size); }

/// An expression: a text or a plain number.
std::string expression(const Node& node) {
    if (node.is_number()) return fmt::format("{}", number(node));
    return node.text();
}

template <class T, class Read>
std::vector<T> list(const Node& node, const char* key, Read read) {
    std::vector<T> all;
    if (node.has(key))
        for (const auto& item : node.at(key).items())
            all.push_back(read(item));
    return all;
}

stack::Contributor size(const Node& node) {
    node.only({"name", "nominal", "plus", "minus", "distribution", "cpk", "shift"});
    return read_scatter(node, node.at("name").text());
}

Named definition(const Node& node) {
    node.only({"name", "value"});
    return {node.at("name").text(), expression(node.at("value"))};
}

Unknown unknown(const Node& node) {
    node.only({"name", "guess", "min", "max", "kind"});
    Unknown u{.name = node.at("name").text(), .guess = number(node.at("guess"))};
    if (node.has("min")) u.min = number(node.at("min"));
    if (node.has("max")) u.max = number(node.at("max"));
    if (u.min > u.max) node.at("min").bad("it is above max");
    if (node.has("kind")) {
        const std::string kind = node.at("kind").text();
        if (kind != "length" && kind != "angle") node.at("kind").bad("length or angle is expected here");
        u.is_angle = kind == "angle";
    }
    return u;
}

Side side(const Node& node) {
    node.only({"length", "angle", "elevation"});
    Side s{expression(node.at("length")), expression(node.at("angle")), {}};
    if (node.has("elevation")) s.elevation = expression(node.at("elevation"));
    return s;
}

FrameStep step(const Node& node) {
    node.only({"move", "turn", "by"});
    const bool turns = node.has("turn");
    if (turns == node.has("move")) node.bad("either a move or a turn is expected here");
    const Node way = node.at(turns ? "turn" : "move");
    const std::string axis = way.text();
    if (axis != "x" && axis != "y" && axis != "z") way.bad("x, y or z is expected here");
    return {turns, axis[0], expression(node.at("by"))};
}

Loop loop(const Node& node) {
    node.only({"vectors", "steps", "closes"});
    if (node.has("vectors") == node.has("steps")) node.bad("either vectors or steps are expected here");
    Loop l;
    l.sides = list<Side>(node, "vectors", side);
    l.steps = list<FrameStep>(node, "steps", step);
    if (l.sides.empty() && l.steps.empty()) node.bad("nothing goes round the loop");
    if (!node.has("closes")) return l;
    const Node closes = node.at("closes");
    if (l.steps.empty()) closes.bad("only steps can close in part");
    if (closes.text() != "place" && closes.text() != "turn") closes.bad("place or turn is expected here");
    l.closes = closes.text() == "place" ? Closes::place : Closes::turn;
    return l;
}

Gap gap(const Node& node) {
    node.only({"id", "name", "value", "lower", "upper"});
    Gap g{.id = node.at("id").text(), .name = {}, .value = expression(node.at("value")), .limits = {}};
    g.name = node.has("name") ? node.at("name").text() : g.id;
    for (const auto& [key, limit] : {std::pair{"lower", &g.limits.lower}, {"upper", &g.limits.upper}})
        if (node.has(key) && !node.at(key).is_null()) *limit = number(node.at(key));
    return g;
}

}
}

bool is_loop(std::string_view text) {
    using namespace of_loops;
    if (text.find(fmt::format("\"{}\"", schema_name)) != std::string_view::npos)
        return false; // large ones are read once only
    const auto json = document(text, "");
    return json && json->is_object() && !json->contains("bodies") && !json->contains("schema") &&
           std::ranges::any_of(keys, [&](const char* key) { return json->contains(key); });
}

Result<formula::Description> read_loop(std::string_view text, std::string_view name) {
    using namespace of_loops;
    const auto json = document(text, name);
    if (!json) return tl::unexpected(json.error());
    try {
        const Node node(*json, "");
        node.only({keys.begin(), keys.end()});
        return Description{.sizes = list<stack::Contributor>(node, "sizes", size),
                           .definitions = list<Named>(node, "definitions", definition),
                           .unknowns = list<Unknown>(node, "unknowns", unknown),
                           .loops = list<Loop>(node, "loops", loop),
                           .equations = list<std::string>(node, "equations", expression),
                           .gaps = list<Gap>(node, "requirements", gap)};
    } catch (const Unreadable& error) {
        return fail({.what = std::string(name),
                     .why = fmt::format("{}: {}", error.where, error.why),
                     .remedy = "Correct the file",
                     .kind = FailureKind::file});
    }
}

}
