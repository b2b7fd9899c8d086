#include "file/embedded.hpp"
#include "file/project_file.hpp"
#include "quantity/format.hpp"
#include "quantity/nearest.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <span>
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
    void only(std::initializer_list<std::string_view> known) const {
        if (!json_.is_object()) bad("an object is expected here");
        for (const auto& [key, value] : json_.items()) {
            if (std::ranges::find(known, key) != known.end()) continue;
            if (known.size() == 0) bad(fmt::format("\"{}\" is not known here", key));
            bad(fmt::format("\"{}\" is not known here; the nearest is \"{}\"", key,
                            nearest(key, std::span(known.begin(), known.size()))));
        }
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
    template <int N>
    Eigen::Matrix<double, N, 1> vector() const {
        const auto nodes = items();
        if (nodes.size() != N) bad(fmt::format("{} numbers are expected here", N));
        Eigen::Matrix<double, N, 1> v;
        for (int i = 0; i < N; ++i)
            v[i] = nodes[static_cast<std::size_t>(i)].number();
        return v;
    }
    template <class T>
    T known(const Result<T>& value) const {
        if (!value) bad(value.error().why);
        return *value;
    }
    [[noreturn]] void bad(std::string why) const {
        throw Unreadable{path_.empty() ? "the document" : path_, std::move(why)};
    }

private:
    const Json& json_;
    std::string path_;
};

template <class Read>
auto list(const Node& node, Read read) {
    std::vector<decltype(read(node))> all;
    for (const auto& item : node.items())
        all.push_back(read(item));
    return all;
}

Frame read_frame(const Node& n) {
    n.only({"origin", "x", "z"});
    return {n.at("origin").vector<3>(), n.at("x").vector<3>(), n.at("z").vector<3>()};
}

Hole read_hole(const Node& n) {
    n.only({"diameter", "tolerance", "depth", "counterbore", "thread"});
    Hole hole{.diameter_mm = n.at("diameter").number(), .depth_mm = n.at("depth").number_or_null()};
    const Node tolerance = n.at("tolerance");
    if (tolerance.has("zone")) {
        tolerance.only({"zone"});
        hole.tolerance.zone = tolerance.at("zone").text();
    } else {
        tolerance.only({"plus", "minus"});
        hole.tolerance = {"", tolerance.at("plus").number(), tolerance.at("minus").number()};
    }
    if (n.has("counterbore")) {
        const Node bore = n.at("counterbore");
        bore.only({"diameter", "depth"});
        hole.counterbore = Counterbore{bore.at("diameter").number(), bore.at("depth").number()};
    }
    if (n.has("thread")) {
        const Node thread = n.at("thread");
        thread.only({"name", "class", "depth"});
        hole.thread = InternalThread{thread.at("name").text(), thread.at("class").text(),
                                     thread.at("depth").number_or_null()};
    }
    return hole;
}

Feature read_feature(const Node& n) {
    n.only({"id", "name", "frame", "hole", "face", "owner"});
    Feature feature{.id = {n.at("id").text()},
                    .name = n.at("name").text(),
                    .frame = read_frame(n.at("frame")),
                    .shape = PlaneFace{}};
    if (n.has("hole") == n.has("face")) n.bad("a \"face\" or a \"hole\" is expected here");
    if (n.has("hole"))
        feature.shape = read_hole(n.at("hole"));
    else
        n.at("face").only({});
    if (n.has("owner")) {
        const Node owner = n.at("owner");
        owner.only({"joint", "member", "place", "set_by_hand"});
        feature.owner = Ownership{{owner.at("joint").text()},
                                  owner.at("member").index(),
                                  owner.at("place").index(),
                                  owner.at("set_by_hand").yes_or_no()};
    }
    return feature;
}

Dimension read_dimension(const Node& n) {
    n.only({"id", "name", "from", "to", "direction", "plus", "minus", "distribution", "cpk"});
    return {.id = {n.at("id").text()},
            .name = n.at("name").text(),
            .from = {n.at("from").text()},
            .to = {n.at("to").text()},
            .direction = n.at("direction").vector<3>(),
            .plus_mm = n.at("plus").number(),
            .minus_mm = n.at("minus").number(),
            .distribution = n.known(parse_distribution(n.at("distribution").text())),
            .cpk = n.at("cpk").number()};
}

Part read_part(const Node& n) {
    n.only({"id", "name", "material", "process", "body", "features", "dimensions"});
    n.at("body").only({"block"});
    const Node block = n.at("body").at("block");
    block.only({"length", "width", "height"});
    return {.id = {n.at("id").text()},
            .name = n.at("name").text(),
            .material = n.at("material").text(),
            .process = n.at("process").text(),
            .body =
                Block{block.at("length").number(), block.at("width").number(), block.at("height").number()},
            .features = list(n.at("features"), read_feature),
            .dimensions = list(n.at("dimensions"), read_dimension)};
}

Instance read_instance(const Node& n) {
    n.only({"id", "part", "grounded"});
    return {{n.at("id").text()}, {n.at("part").text()}, n.at("grounded").yes_or_no()};
}

Member read_member(const Node& n) {
    n.only({"instance", "face", "at", "turn_rad"});
    return {
        {n.at("instance").text()}, {n.at("face").text()}, n.at("at").vector<2>(), n.at("turn_rad").number()};
}

JointKind read_kind(const Node& n) {
    n.only({"cap_screw", "dowel_pin"});
    if (n.has("cap_screw") == n.has("dowel_pin"))
        n.bad("a \"cap_screw\" or a \"dowel_pin\" is expected here");
    if (n.has("cap_screw")) {
        const Node s = n.at("cap_screw");
        s.only({"thread", "property_class", "clearance", "counterbored", "washer", "length"});
        return CapScrewJoint{s.at("thread").text(),
                             s.at("property_class").text(),
                             s.known(standards::parse_clearance_class(s.at("clearance").text())),
                             s.at("counterbored").yes_or_no(),
                             s.at("washer").yes_or_no(),
                             s.at("length").number_or_null()};
    }
    const Node d = n.at("dowel_pin");
    d.only({"diameter", "press_zone", "slip_zone", "press_in_first", "length"});
    return DowelPinJoint{d.at("diameter").number(), d.at("press_zone").text(), d.at("slip_zone").text(),
                         d.at("press_in_first").yes_or_no(), d.at("length").number_or_null()};
}

Joint read_joint(const Node& n) {
    n.only({"id", "name", "kind", "members", "places"});
    return {{n.at("id").text()},
            n.at("name").text(),
            read_kind(n.at("kind")),
            list(n.at("members"), read_member),
            list(n.at("places"), [](const Node& place) -> Vector2 { return place.vector<2>(); })};
}

DecidedBy read_decided_by(const Node& n) {
    const std::string text = n.text();
    if (text == "automatic") return DecidedBy::automatic;
    if (text == "worst_case") return DecidedBy::worst_case;
    if (text == "statistics") return DecidedBy::statistics;
    n.bad("automatic, worst_case or statistics is expected here");
}

FeatureRef read_ref(const Node& n) {
    n.only({"instance", "feature"});
    return {{n.at("instance").text()}, {n.at("feature").text()}};
}

Requirement read_requirement(const Node& n) {
    n.only({"id", "name", "from", "to", "lower", "upper", "decided_by", "yield_wanted"});
    return {{n.at("id").text()},
            n.at("name").text(),
            read_ref(n.at("from")),
            read_ref(n.at("to")),
            n.at("lower").number_or_null(),
            n.at("upper").number_or_null(),
            read_decided_by(n.at("decided_by")),
            n.at("yield_wanted").number()};
}

TolerancedLength read_toleranced_length(const Node& n) {
    n.only({"nominal", "plus", "minus"});
    return {n.at("nominal").number(), n.at("plus").number(), n.at("minus").number()};
}

FitPair read_pair(const Node& n) {
    n.only({"id", "name", "size", "fit", "hub_material", "shaft_material", "length", "reach", "hub_outer",
            "shaft_bore", "friction", "rz_hub", "rz_shaft", "working_temperature", "cpk", "asked", "axial",
            "bearing"});
    FitPair p{.id = {n.at("id").text()}, .name = n.at("name").text()};
    p.nominal_mm = n.at("size").number();
    p.fit = n.at("fit").text();
    p.hub_material = n.at("hub_material").text();
    p.shaft_material = n.at("shaft_material").text();
    p.length_mm = n.at("length").number();
    p.reach_mm = n.at("reach").number();
    p.hub_outer_mm = n.at("hub_outer").number();
    p.shaft_bore_mm = n.at("shaft_bore").number();
    p.friction = n.at("friction").number();
    p.rz_hub_um = n.at("rz_hub").number();
    p.rz_shaft_um = n.at("rz_shaft").number();
    p.working_C = n.at("working_temperature").number();
    p.cpk = n.at("cpk").number();
    p.asked_mm = n.at("asked").number();
    if (n.has("axial")) {
        n.at("axial").only({"room", "part"});
        p.axial_room = read_toleranced_length(n.at("axial").at("room"));
        p.axial_part = read_toleranced_length(n.at("axial").at("part"));
    }
    if (n.has("bearing")) {
        const Node seat = n.at("bearing");
        seat.only({"size", "seat_length", "shoulder", "fillet", "chamfer"});
        p.bearing = seat.at("size").text();
        p.seat_length_mm = seat.at("seat_length").number();
        p.shoulder_mm = seat.at("shoulder").number();
        p.fillet_mm = seat.at("fillet").number();
        p.chamfer_mm = seat.at("chamfer").number();
    }
    return p;
}

standards::Process read_process(const Node& n) {
    n.only({"id", "title", "class", "finest_grade", "usual_grade", "least", "roughness", "cost"});
    const std::string letter = n.at("class").text();
    if (letter.size() != 1) n.at("class").bad("one letter is expected here");
    return {.id = n.at("id").text(),
            .title = n.at("title").text(),
            .tolerance_class = letter.front(),
            .finest_grade = static_cast<int>(n.at("finest_grade").index()),
            .usual_grade = static_cast<int>(n.at("usual_grade").index()),
            .least_mm = n.at("least").number_or_null(),
            .roughness_um = n.at("roughness").number(),
            .cost = n.at("cost").number()};
}

Workshop read_workshop(const Node& n) {
    n.only({"stock", "processes"});
    const auto read_stock = [](const Node& item) {
        item.only({"standard", "size", "lengths"});
        return StockItem{item.at("standard").text(), item.at("size").text(),
                         list(item.at("lengths"), [](const Node& length) { return length.number(); })};
    };
    return {list(n.at("stock"), read_stock), list(n.at("processes"), read_process)};
}

Project read_project(const Node& n) {
    n.only({"schema", "version", "unit", "name", "parts", "instances", "joints", "requirements", "pairs",
            "workshop"});
    if (n.at("schema").text() != schema_name)
        n.at("schema").bad(fmt::format("\"{}\" is expected here", schema_name));
    const double version = n.at("version").number();
    if (version > schema_version)
        n.at("version").bad(
            fmt::format("the file is of version {}, this program reads up to {}", version, schema_version));
    if (version != schema_version) n.at("version").bad("there is no such version");
    if (n.at("unit").text() != "mm")
        n.at("unit").bad("\"mm\" is expected here: a project is kept in millimetres");
    Project project{n.at("name").text(),
                    list(n.at("parts"), read_part),
                    list(n.at("instances"), read_instance),
                    list(n.at("joints"), read_joint),
                    list(n.at("requirements"), read_requirement),
                    {},
                    {}};
    if (n.has("pairs")) project.pairs = list(n.at("pairs"), read_pair);
    if (n.has("workshop")) project.workshop = read_workshop(n.at("workshop"));
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

std::string_view json_schema() { return embedded_schema().front().text; }

}
