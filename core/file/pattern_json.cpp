#include "file/pattern_json.hpp"
#include "file/document.hpp"

namespace kollema::file {
namespace of_patterns { // of its own: it speaks the words of another folder
namespace {

using namespace pattern;

double number(const Node& node) { return node.number(stack::largest_size); }

Size size(const Node& node) {
    Size s{.nominal_mm = number(node.at("diameter"))};
    if (node.has("plus")) s.plus_mm = number(node.at("plus"));
    if (node.has("minus")) s.minus_mm = number(node.at("minus"));
    return s;
}

bool said(const Node& node, const char* key) { return node.has(key) && node.at(key).yes_or_no(); }

SlottedHole slot(const Node& node) {
    node.only({"length", "direction"});
    SlottedHole s{.length_mm = number(node.at("length"))};
    if (node.has("direction")) s.direction_deg = number(node.at("direction"));
    return s;
}

Plate plate(const Node& node) {
    Plate p{.threaded = said(node, "thread") || said(node, "press")};
    if (p.threaded)
        node.only({"thread", "press", "position", "engaged", "standing_out"});
    else {
        node.only({"thread", "press", "diameter", "plus", "minus", "position", "bonus", "slot"});
        p.hole = size(node);
        p.bonus = said(node, "bonus");
        if (node.has("slot")) p.slot = slot(node.at("slot"));
    }
    if (node.has("position")) p.position_mm = number(node.at("position"));
    if (node.has("engaged") || node.has("standing_out"))
        p.leaning = Leaning{number(node.at("engaged")), number(node.at("standing_out"))};
    return p;
}

Point hole(const Node& node) {
    const auto items = node.items();
    if (items.size() != 2) node.bad("two numbers are expected here");
    return {number(items[0]), number(items[1])};
}

Spread spread(const Node& node, const char* key) {
    if (!node.has(key)) return Spread::uniform;
    const std::string text = node.at(key).text();
    if (text == "normal") return Spread::normal;
    if (text != "uniform") node.at(key).bad("uniform or normal is expected here");
    return Spread::uniform;
}

Flattened flattened(const Node& node) {
    node.only({"land", "direction"});
    Flattened f{.land_mm = number(node.at("land"))};
    if (node.has("direction")) f.free_along_deg = number(node.at("direction"));
    return f;
}

Group group(const Node& node) {
    const Node fastener = node.at("fastener");
    fastener.only({"diameter", "plus", "minus", "flattened"});
    Group g{.fastener = size(fastener), .holes = {}, .plates = {}};
    if (fastener.has("flattened")) g.flattened = flattened(fastener.at("flattened"));
    for (const auto& item : node.at("holes").items())
        g.holes.push_back(hole(item));
    for (const auto& item : node.at("plates").items())
        g.plates.push_back(plate(item));
    return g;
}

Pattern read(const Node& node) {
    node.only(
        {"fastener", "holes", "plates", "beside", "located", "position_distribution", "size_distribution"});
    Pattern p{.groups = {group(node)}};
    if (node.has("beside"))
        for (const auto& item : node.at("beside").items()) {
            item.only({"fastener", "holes", "plates"});
            p.groups.push_back(group(item));
        }
    if (node.has("located")) {
        const std::string located = node.at("located").text();
        if (located != "free" && located != "fixed") node.at("located").bad("free or fixed is expected here");
        p.may_move = located == "free";
    }
    p.positions = spread(node, "position_distribution");
    p.sizes = spread(node, "size_distribution");
    return p;
}

}
}

Result<pattern::Pattern> read_pattern(std::string_view text, std::string_view name) {
    using namespace of_patterns;
    const auto json = document(text, name);
    if (!json) return tl::unexpected(json.error());
    try {
        auto p = read(Node(*json, ""));
        if (const auto sound = validate(p); !sound) return tl::unexpected(sound.error());
        return p;
    } catch (const Unreadable& error) {
        return fail({.what = std::string(name),
                     .why = fmt::format("{}: {}", error.where, error.why),
                     .remedy = "Correct the file",
                     .kind = FailureKind::file});
    }
}

}
