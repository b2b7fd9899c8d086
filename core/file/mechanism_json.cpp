#include "file/mechanism_json.hpp"
#include "file/size_json.hpp"
#include <set>

namespace kollema::file {
namespace of_mechanisms { // of its own: it speaks the words of another folder
namespace {

using namespace contact;

double number(const Node& node) { return node.number(stack::largest_size); }

Vector3 vector(const Node& node) {
    const auto items = node.items();
    if (items.size() != 3) node.bad("three numbers are expected here");
    return {number(items[0]), number(items[1]), number(items[2])};
}

Vector3 direction(const Node& node) {
    const Vector3 v = vector(node);
    if (v.norm() == 0) node.bad("a direction has a length");
    return v.normalized();
}

class MechanismReader {
public:
    explicit MechanismReader(const Node& node) : node_(node) {}

    Toleranced read() {
        node_.only({"bodies", "ground", "contacts", "sizes", "requirements", "push", "closed"});
        bodies();
        for (const auto& contact : node_.at("contacts").items())
            read_contact(contact);
        if (node_.has("requirements"))
            for (const auto& gap : node_.at("requirements").items())
                read_gap(gap);
        if (node_.has("sizes"))
            for (const auto& size : node_.at("sizes").items())
                read_size(size);
        if (node_.has("push"))
            for (const auto& push : node_.at("push").items())
                read_push(push);
        if (node_.has("closed")) all_.closed = node_.at("closed").yes_or_no();
        return std::move(all_);
    }

private:
    void bodies() {
        auto& mechanism = all_.mechanism;
        for (const auto& body : node_.at("bodies").items()) {
            if (index_of(mechanism.bodies, body.text())) body.bad("this name stands twice");
            mechanism.bodies.push_back(body.text());
        }
        mechanism.ground = body(node_.at("ground"));
    }

    static std::optional<std::size_t> index_of(const std::vector<std::string>& names,
                                               const std::string& name) {
        const auto found = std::ranges::find(names, name);
        return found == names.end() ? std::nullopt
                                    : std::optional(static_cast<std::size_t>(found - names.begin()));
    }
    static std::size_t named(const std::vector<std::string>& names, const Node& node, const char* what) {
        if (const auto index = index_of(names, node.text())) return *index;
        const std::vector<std::string_view> known(names.begin(), names.end());
        if (known.empty()) node.bad(fmt::format("there is no such {}", what));
        node.bad(
            fmt::format("there is no such {}; the nearest is \"{}\"", what, nearest(node.text(), known)));
    }
    std::size_t body(const Node& node) const { return named(all_.mechanism.bodies, node, "body"); }

    static Frame frame(const Node& node, Type type) {
        Frame frame{.origin = vector(node.at("at"))};
        if (!needs_axis(type)) return frame;
        frame.z = direction(node.at("z"));
        // Of a seat x says how its corners stand; without it they stand along the axes.
        const bool has_line = needs_line(type) || (type == Type::seat && node.has("extent") && node.has("x"));
        Vector3 wish = frame.z.unitOrthogonal();
        if (type == Type::seat) wish = std::abs(frame.z.x()) > 0.9 ? Vector3::UnitY() : Vector3::UnitX();
        if (has_line) wish = direction(node.at("x"));
        const Vector3 across = wish - wish.dot(frame.z) * frame.z;
        if (across.norm() < 1e-9) node.at("x").bad("x may not lie along z");
        frame.x = across.normalized();
        return frame;
    }

    void read_contact(const Node& node) {
        node.only({"id", "type", "a", "b", "at", "z", "x", "lead", "level", "clearance", "rest", "push",
                   "sided", "extent", "play"});
        Contact c{.id = node.at("id").text()};
        if (!ids_.insert(c.id).second) node.at("id").bad("this name stands twice");
        contacts_.push_back(c.id);
        const auto type = type_named(node.at("type").text());
        if (!type) node.at("type").bad("there is no such contact");
        c.type = *type;
        c.a = body(node.at("a"));
        c.b = body(node.at("b"));
        if (c.a == c.b) node.at("b").bad("a contact joins two bodies");
        c.frame = frame(node, c.type);
        if (c.type == Type::screw) c.lead_mm = number(node.at("lead"));
        Behaviour behaviour{.level = usual_level(c.type)};
        if (node.has("level")) {
            behaviour.level = static_cast<int>(node.at("level").index());
            if (behaviour.level > 3) node.at("level").bad("a level is 0, 1, 2 or 3");
        }
        if (node.has("clearance"))
            behaviour.clearance = clearance(node, c);
        else
            for (const char* key : {"rest", "push"})
                if (node.has(key)) node.at(key).bad("this needs a clearance");
        if (node.has("sided") && sided(node.at("sided")))
            behaviour.one_sided = one_sided(node, c);
        else
            for (const char* key : {"extent", "play"})
                if (node.has(key)) node.at(key).bad("this needs \"sided\": \"one\"");
        all_.mechanism.contacts.push_back(std::move(c));
        all_.behaviour.push_back(std::move(behaviour));
    }

    static Clearance clearance(const Node& node, const Contact& c) {
        const Node size = node.at("clearance");
        if (!is_clearance_type(c.type)) size.bad("only pin, slot, key and ring have a clearance");
        size.only({"nominal", "plus", "minus", "distribution", "cpk"});
        Clearance clearance{.size = read_scatter(size, c.id)};
        if (clearance.size.nominal + clearance.size.plus <= 0) size.bad("it is never above 0");
        if (node.has("rest")) clearance.rest = rest(node.at("rest"));
        if (clearance.rest == Rest::pushed) clearance.push = push(node.at("push"), c);
        return clearance;
    }

    static bool sided(const Node& node) {
        if (node.text() != "one" && node.text() != "two") node.bad("\"one\" or \"two\" is expected here");
        return node.text() == "one";
    }

    static OneSided one_sided(const Node& node, const Contact& c) {
        const bool corners = c.type == Type::seat || c.type == Type::line;
        if (!corners && c.type != Type::key && c.type != Type::point && c.type != Type::ring)
            node.at("sided").bad("only key, point, ring, seat and line are one-sided");
        if (node.has("clearance")) node.at("clearance").bad("a one-sided contact has a play");
        OneSided one;
        one.play = {.name = c.id, .distribution = Distribution::fixed};
        if (node.has("play")) {
            one.given = true;
            one.play = play(node.at("play"), c.id);
        }
        if (corners)
            one.corners = corners_of(node.at("extent"), c.type == Type::seat ? 2 : 1);
        else if (node.has("extent"))
            node.at("extent").bad("only seat and line have one");
        return one;
    }

    /// A number, or the keys of a size.
    static stack::Contributor play(const Node& node, const std::string& name) {
        if (node.is_number())
            return {.name = name, .nominal = number(node), .distribution = Distribution::fixed};
        node.only({"nominal", "plus", "minus", "distribution", "cpk", "shift"});
        return read_scatter(node, name);
    }

    static std::vector<Vector2> corners_of(const Node& node, std::size_t count) {
        std::vector<double> half;
        for (const auto& item : node.items()) {
            half.push_back(number(item) / 2);
            if (half.back() <= 0) item.bad("an extent is above 0");
        }
        if (half.size() != count)
            node.bad(count == 2 ? "two lengths are expected here" : "one length is expected here");
        if (count == 1) return {{-half[0], 0}, {half[0], 0}};
        return {{-half[0], -half[1]}, {half[0], -half[1]}, {half[0], half[1]}, {-half[0], half[1]}};
    }

    void read_push(const Node& node) {
        node.only({"body", "along", "at"});
        all_.pushes.push_back({{body(node.at("body")), vector(node.at("at")), direction(node.at("along"))}});
    }

    static Rest rest(const Node& node) {
        for (const Rest r : {Rest::chance, Rest::pushed, Rest::centred})
            if (node.text() == contact::name(r)) return r;
        node.bad("chance, pushed or centred is expected here");
    }

    /// The part of the push that the contact stops: only there can it come to rest.
    static Vector3 push(const Node& node, const Contact& c) {
        const Vector3 wish = direction(node);
        Vector3 stopped = Vector3::Zero();
        for (const auto& stop : stops(c))
            if (!stop.turns) stopped += wish.dot(stop.u) * stop.u;
        if (stopped.norm() < 1e-9) node.bad("the contact does not stop this direction");
        return stopped.normalized();
    }

    Gap::End end(const Node& node) const {
        node.only({"body", "at"});
        return {body(node.at("body")), vector(node.at("at"))};
    }

    void read_gap(const Node& node) {
        node.only({"id", "name", "from", "to", "along", "lower", "upper"});
        Gap gap{.id = node.at("id").text()};
        gap.name = node.has("name") ? node.at("name").text() : gap.id;
        if (index_of(gaps_, gap.id)) node.at("id").bad("this name stands twice");
        gaps_.push_back(gap.id);
        gap.from = end(node.at("from"));
        gap.to = end(node.at("to"));
        gap.along = direction(node.at("along"));
        for (const auto& [key, limit] : {std::pair{"lower", &gap.limits.lower}, {"upper", &gap.limits.upper}})
            if (node.has(key) && !node.at(key).is_null()) *limit = number(node.at(key));
        if (gap.limits.lower && gap.limits.upper && *gap.limits.lower > *gap.limits.upper)
            node.at("lower").bad("it is above the upper limit");
        all_.gaps.push_back(std::move(gap));
    }

    void read_size(const Node& node) {
        node.only({"name", "nominal", "plus", "minus", "distribution", "cpk", "shift", "moves"});
        const std::string name = node.at("name").text();
        if (!ids_.insert(name).second) node.at("name").bad("a size or contact has this name already");
        Size size{.size = read_scatter(node, name), .moves = {}};
        for (const auto& move : node.at("moves").items())
            size.moves.push_back(read_move(move));
        if (size.moves.empty()) node.at("moves").bad("it moves nothing");
        all_.sizes.push_back(std::move(size));
    }

    Move read_move(const Node& node) const {
        node.only({"contact", "requirement", "side", "along"});
        const bool of_contact = node.has("contact");
        if (of_contact == node.has("requirement"))
            node.bad("either a contact or a requirement is expected here");
        Move move{.of = of_contact ? Move::Of::contact : Move::Of::gap};
        move.index = of_contact ? named(contacts_, node.at("contact"), "contact")
                                : named(gaps_, node.at("requirement"), "requirement");
        const std::string side = node.at("side").text(), first = of_contact ? "a" : "from",
                          second = of_contact ? "b" : "to";
        if (side != first && side != second)
            node.at("side").bad(fmt::format("\"{}\" or \"{}\" is expected here", first, second));
        move.second_side = side == second;
        move.along = vector(node.at("along"));
        if (move.along.norm() == 0) node.at("along").bad("a direction has a length");
        return move;
    }

    const Node& node_;
    Toleranced all_;
    std::set<std::string> ids_; ///< of contacts and sizes
    std::vector<std::string> contacts_, gaps_;
};

}
}

bool is_mechanism(std::string_view text) {
    if (text.find("\"bodies\"") == std::string_view::npos) return false; // large projects are read once only
    const auto json = document(text, "");
    return json && json->is_object() && json->contains("bodies");
}

Result<contact::Toleranced> read_mechanism(std::string_view text, std::string_view name) {
    using namespace of_mechanisms;
    const auto json = document(text, name);
    if (!json) return tl::unexpected(json.error());
    try {
        const Node node(*json, "");
        return MechanismReader(node).read();
    } catch (const Unreadable& error) {
        return fail({.what = std::string(name),
                     .why = fmt::format("{}: {}", error.where, error.why),
                     .remedy = "Correct the file",
                     .kind = FailureKind::file});
    }
}

}
