// Bare mechanisms and assemblies, against worked cases and against files that are broken.
#include "places.hpp"
#include "run.hpp"
#include <algorithm>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <map>

using Json = nlohmann::json;
using namespace kollema::test;

namespace {

/// The value at a way such as "parts[part=a].axis.point.0".
const Json* at(const Json& document, std::string way) {
    const Json* here = &document;
    while (!way.empty()) {
        const auto bracket = way.find('['), dot = way.find('.');
        const std::string key = way.substr(0, std::min(bracket, dot));
        if (!key.empty()) {
            if (here->is_array()) {
                const auto index = static_cast<std::size_t>(std::stoul(key));
                if (index >= here->size()) return nullptr;
                here = &(*here)[index];
            } else if (here->contains(key))
                here = &(*here)[key];
            else
                return nullptr;
        }
        if (bracket < dot) { // [name=value] picks one of a list
            const auto close = way.find(']'), equals = way.find('=');
            const std::string name = way.substr(bracket + 1, equals - bracket - 1),
                              value = way.substr(equals + 1, close - equals - 1);
            const auto found = std::ranges::find_if(*here, [&](const Json& j) { return j[name] == value; });
            if (found == here->end()) return nullptr;
            here = &*found;
            way = close + 1 < way.size() ? way.substr(close + 2) : "";
        } else
            way = dot == std::string::npos ? "" : way.substr(dot + 1);
    }
    return here;
}

bool agrees(const Json& value, const Json& expect) {
    if (expect.contains("min")) return value >= expect["min"] && value <= expect["max"];
    if (expect.contains("any_value"))
        return std::ranges::find(expect["any_value"], value) != expect["any_value"].end();
    if (expect.contains("contains"))
        return std::ranges::all_of(expect["contains"], [&](const Json& one) {
            return std::ranges::find(value, one) != value.end();
        });
    const Json& wanted = expect["value"];
    if (!wanted.is_number()) return value == wanted;
    const double by =
        std::max(expect.value("abs", 0.0), expect.value("rel", 0.0) * std::abs(wanted.get<double>()));
    return value.is_number() && std::abs(value.get<double>() - wanted.get<double>()) <= by;
}

const char* const plate = R"({"bodies":["base","plate"],"ground":"base","contacts":[
 {"id":"seat","type":"seat","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1]},
 {"id":"p1","type":"pin","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1],"clearance":{"nominal":0.02,"plus":0.01,"minus":-0.01}},
 {"id":"p2","type":"slot","a":"base","b":"plate","at":[80,0,0],"z":[0,0,1],"x":[1,0,0]}],
 "sizes":[{"name":"hole","plus":0.02,"minus":-0.02,"moves":[{"contact":"p2","side":"b","along":[0,1,0]}]}],
 "requirements":[{"id":"gap","from":{"body":"base","at":[120,40,0]},"to":{"body":"plate","at":[120,45,0]},"along":[0,1,0],"lower":4.9,"upper":5.1}]})";

}

TEST_CASE("mechanisms, assemblies and loops answer as worked cases say") {
    // Computed by independent programs and by hand; each case names its source.
    Json cases = Json::array();
    for (const auto* file : {"mechanisms", "loops"}) {
        std::ifstream stream(in_source(fmt::format("tests/cli/{}.json", file)));
        for (auto& one : Json::parse(stream))
            cases.push_back(one);
    }
    CHECK(cases.size() >= 12);
    const Scratch scratch;
    for (const auto& one : cases) {
        std::string call = one["command"].get<std::string>() + " " +
                           scratch.file("case.json", one["file"].dump()) + " --json";
        for (const auto& option : one["options"])
            call += " " + option.get<std::string>();
        const Run answer = run(call);
        CAPTURE(one["id"].get<std::string>());
        REQUIRE(answer.code == 0);
        const Json json = answer.json();
        for (const auto& expect : one["expect"]) {
            const Json* value = at(json, expect["path"]);
            CAPTURE(expect.dump(), value ? value->dump() : "missing");
            CHECK((value && agrees(*value, expect)));
        }
    }
}

TEST_CASE("a bare assembly answers in any unit, by requirement, and for people") {
    const Scratch scratch;
    const std::string file = scratch.file("plate.json", plate);
    const Json mm = run("stack " + file + " --json --samples 1000").json(),
               inches = run("stack " + file + " --json --samples 1000 --unit in").json();
    CHECK(inches["unit"] == "in");
    CHECK(inches["requirements"][0]["worst_case"] ==
          mm["requirements"][0]["worst_case"]); // the file's own numbers
    CHECK(mm["requirements"][0]["contributions"].size() == 2);
    CHECK(run("stack " + file + " --requirement gap --samples 1000").out.find("worst case") !=
          std::string::npos);
    CHECK(run("stack " + file + " --requirement other").code == 2);
    CHECK(run("stack " + file + " --lower 1").code == 2);
    CHECK(run("dof " + file).out.find("plate") != std::string::npos);
    CHECK(run("dof " + file + " --json").json()["mobility"] == 0);
    // The same seed gives the same answer, another another.
    const auto drawn = [&](int seed) {
        return run(fmt::format("stack {} --json --samples 5000 --seed {}", file, seed))
            .json()["requirements"][0]["monte_carlo"]["mean"];
    };
    CHECK(drawn(1) == drawn(1));
    CHECK(drawn(1) != drawn(2));
}

TEST_CASE("broken mechanisms are refused with the place, broken gaps with the body that is free") {
    const Scratch scratch;
    const auto refused = [&](const std::string& what, const std::string& by, const char* command = "stack") {
        std::string text = plate;
        const auto found = text.find(what);
        REQUIRE(found != std::string::npos);
        const Run answer = run(std::string(command) + " " +
                               scratch.file("broken.json", text.replace(found, what.size(), by)));
        CAPTURE(what, by, answer.err);
        CHECK(answer.out.empty());
        CHECK(std::ranges::count(answer.err, '\n') == 1);
        return answer.code;
    };
    for (const auto& [what, by] : std::vector<std::pair<std::string, std::string>>{
             {R"("type":"pin")", R"("type":"pen")"},
             {R"("b":"plate","at":[80)", R"("b":"plane","at":[80)"},
             {R"("ground":"base")", R"("ground":"floor")"},
             {R"(["base","plate"])", R"(["base","base"])"},
             {R"("id":"p2")", R"("id":"p1")"},
             {R"("name":"hole")", R"("name":"p1")"},
             {R"("a":"base","b":"plate","at":[80)", R"("a":"plate","b":"plate","at":[80)"},
             {R"("z":[0,0,1],"x":[1,0,0])", R"("z":[0,0,0],"x":[1,0,0])"},
             {R"("x":[1,0,0])", R"("x":[0,0,3])"},
             {R"(,"x":[1,0,0])", ""},
             {R"("at":[80,0,0])", R"("at":[80,0])"},
             {R"("at":[80,0,0])", R"("at":[80,0,1e99])"},
             {R"(,"at":[80,0,0])", ""},
             {R"("moves":[{"contact":"p2","side":"b","along":[0,1,0]}])", R"("moves":[])"},
             {R"("contact":"p2","side":"b")", R"("contact":"p3","side":"b")"},
             {R"("contact":"p2","side":"b")", R"("contact":"p2","side":"to")"},
             {R"("contact":"p2","side":"b")", R"("requirement":"hole","side":"to")"},
             {R"("x":[1,0,0]})", R"("x":[1,0,0],"rest":"centred"})"},
             {R"("clearance":{"nominal":0.02)", R"("clearance":{"nominal":-0.02)"},
             {R"("clearance":{"nominal":0.02)", R"("rest":"pushed","clearance":{"nominal":0.02)"},
             {R"("clearance":{"nominal":0.02)",
              R"("rest":"pushed","push":[0,0,1],"clearance":{"nominal":0.02)"},
             {R"("clearance":{"nominal":0.02)", R"("rest":"thrown","clearance":{"nominal":0.02)"},
             {R"("clearance":{"nominal":0.02)", R"("level":4,"clearance":{"nominal":0.02)"},
             {R"("clearance":{"nominal":0.02)", R"("clearence":1,"clearance":{"nominal":0.02)"},
             {R"("type":"seat","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1])",
              R"("type":"screw","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1])"},
             {R"("type":"seat","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1])",
              R"("type":"seat","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1],"clearance":{"nominal":1})"},
             {R"("plus":0.02,"minus":-0.02,"moves")", R"("plus":-0.02,"minus":0.02,"moves")"},
             {R"("lower":4.9)", R"("lower":5.9)"},
             {R"("along":[0,1,0],"lower")", R"("along":[0,0,0],"lower")"},
         })
        CHECK(refused(what, by) == 3);
    CHECK(refused(R"("type":"slot")", R"("type":"loose")") == 4); // readable, but nothing holds the gap
    CHECK(refused(R"("bodies":["base","plate"])", R"("bodies":["base"])", "dof") == 3);
    CHECK(run("dof missing.json").code == 3);
}

TEST_CASE("walls that only push are read, and their answers have the keys of the contract") {
    const Scratch scratch;
    // A slider on a rail between two stops, 0.4 ± 0.1 apart beyond its own length, pushed or not.
    const std::string slider = R"({"bodies":["rail","slider"],"ground":"rail","contacts":[
     {"id":"rail","type":"slide","a":"rail","b":"slider","at":[0,0,0],"z":[1,0,0]},
     {"id":"left","type":"point","a":"rail","b":"slider","at":[-10,0,0],"z":[1,0,0],"sided":"one"},
     {"id":"right","type":"point","a":"rail","b":"slider","at":[10,0,0],"z":[-1,0,0],"sided":"one","play":{"nominal":0.4,"plus":0.1,"minus":-0.1}}],
     "requirements":[{"id":"gap","from":{"body":"rail","at":[-15,0,0]},"to":{"body":"slider","at":[-10,0,0]},"along":[1,0,0],"lower":5,"upper":5.3}]})";
    const auto told = [&](const std::string& text, const std::string& command) {
        return run(command + " " + scratch.file("slider.json", text) + " --json").json();
    };
    const auto with = [&](const std::string& what, const std::string& by) {
        std::string text = slider;
        return text.replace(text.find(what), what.size(), by);
    };
    const Json free = told(slider, "stack"), gap = free["requirements"][0];
    CHECK(gap["nominal"] == Approx(5.2).epsilon(1e-8));
    CHECK(gap["worst_case"]["min"] == Approx(5).epsilon(1e-8));
    CHECK(gap["worst_case"]["max"] == Approx(5.5).epsilon(1e-8));
    CHECK(gap["distribution"]["method"] == "simulated");
    CHECK(gap["contributions"][0]["name"] == "right");
    CHECK(gap["contributions"][0]["sensitivity"] == Approx(0.5).epsilon(1e-6));
    CHECK(free["misfit"][0]["together"] == Approx(1).epsilon(1e-12)); // there is always room
    CHECK(free["stands_off"].empty());
    const std::string ends = R"("requirements":)";
    const Json left = told(with(ends, R"("push":[{"body":"slider","along":[-1,0,0],"at":[0,0,0]}],)" + ends),
                           "stack"),
               right = told(with(ends, R"("push":[{"body":"slider","along":[1,0,0],"at":[0,0,0]}],)" + ends),
                            "stack");
    CHECK(left["requirements"][0]["worst_case"]["min"] == Approx(5).epsilon(1e-8));
    CHECK(left["requirements"][0]["worst_case"]["max"] == Approx(5).epsilon(1e-8));
    CHECK(right["requirements"][0]["nominal"] == Approx(5.4).epsilon(1e-8));
    CHECK(right["requirements"][0]["worst_case"]["min"] == Approx(5.3).epsilon(1e-8));
    CHECK(right["requirements"][0]["worst_case"]["max"] == Approx(5.5).epsilon(1e-8));
    CHECK(right["requirements"][0]["contributions"][0]["sensitivity"] == Approx(1).epsilon(1e-6));
    // What comes off: 0.4 one way, nothing the other; counted as closed it is held.
    const Json dof = told(slider, "dof");
    CHECK(dof["mobility"] == 1);
    const Json ways = dof["parts"][1]["leaves"];
    REQUIRE(ways.size() == 2);
    CHECK(ways[0]["direction"] == Json({0.0, 0.0, 0.0, 1.0, 0.0, 0.0}));
    CHECK(ways[0]["distance"] == Approx(0.4).epsilon(1e-8));
    CHECK(ways[0]["stopped_by"] == Json({"right"}));
    CHECK(ways[1]["distance"] == 0);
    CHECK(told(with(R"("ground")", R"("closed":true,"ground")"), "dof")["mobility"] == 0);
    CHECK(told(with(R"({"nominal":0.4,"plus":0.1,"minus":-0.1})", "0.25"),
               "dof")["parts"][1]["leaves"][0]["distance"] == Approx(0.25).epsilon(1e-8));

    // Two feet, 20 along x and 10 across: a bar stands off by a width of their difference over 120.
    const auto foot = [](const char* id, int at) {
        return fmt::format(
            R"({{"id":"{}","type":"seat","a":"base","b":"bar","at":[{},0,0],"z":[0,0,1],"x":[1,0,0],"sided":"one","extent":[20,10]}})",
            id, at);
    };
    const std::string bar = R"({"bodies":["base","bar"],"ground":"base","contacts":[
     {"id":"k1","type":"key","a":"base","b":"bar","at":[0,0,0],"z":[0,1,0]},{"id":"k2","type":"key","a":"base","b":"bar","at":[90,0,0],"z":[0,1,0]},
     {"id":"k3","type":"key","a":"base","b":"bar","at":[0,0,30],"z":[1,0,0]},)" +
                            foot("left", -60) + "," + foot("right", 60) +
                            R"(],"push":[{"body":"bar","along":[0,0,-1],"at":[0,0,0]}],
     "sizes":[{"name":"height","plus":0.3,"minus":0,"moves":[{"contact":"left","side":"a","along":[0,0,1]}]}],
     "requirements":[{"id":"gap","from":{"body":"base","at":[-80,0,0]},"to":{"body":"bar","at":[-80,0,5]},"along":[0,0,1]}]})";
    const Json lying = told(bar, "stack");
    REQUIRE(lying["stands_off"].size() == 2);
    CHECK(lying["stands_off"][0]["worst"] == Approx(0.3 * 20 / 120).epsilon(1e-8));
    CHECK(lying["requirements"][0]["worst_case"]["max"] == Approx(5 + 0.3 * 150 / 120).epsilon(1e-8));
    CHECK(lying["requirements"][0]["worst_case"]["min"] == Approx(5).epsilon(1e-8));
    CHECK(lying["misfit"].empty());

    for (const auto& [what, by] : std::vector<std::pair<std::string, std::string>>{
             {R"("sided":"one","play")", R"("sided":"left","play")"},
             {R"("sided":"one","play")", R"("play")"},
             {R"("sided":"one","play")", R"("sided":"one","extent":[1,2],"play")"},
             {R"("type":"slide","a":"rail","b":"slider","at":[0,0,0],"z":[1,0,0])",
              R"("type":"slide","a":"rail","b":"slider","at":[0,0,0],"z":[1,0,0],"sided":"one")"},
             {R"("type":"point","a":"rail","b":"slider","at":[-10,0,0])",
              R"("type":"seat","a":"rail","b":"slider","at":[-10,0,0])"},
             {R"("type":"point","a":"rail","b":"slider","at":[-10,0,0])",
              R"("type":"seat","extent":[4],"a":"rail","b":"slider","at":[-10,0,0])"},
             {R"("type":"point","a":"rail","b":"slider","at":[-10,0,0])",
              R"("type":"seat","extent":[4,0],"a":"rail","b":"slider","at":[-10,0,0])"},
             {R"("nominal":0.4,)", R"("nominal":"wide",)"},
             {ends, R"("push":[{"body":"rails","along":[1,0,0],"at":[0,0,0]}],)" + ends},
             {ends, R"("push":[{"body":"slider","along":[0,0,0],"at":[0,0,0]}],)" + ends},
         })
        CHECK(run("stack " + scratch.file("slider.json", with(what, by))).code == 3);
    // Against one stop alone it is held by hand, which is said.
    std::string alone = slider;
    const auto right_stop = alone.find(",\n     {\"id\":\"right\"");
    alone.erase(right_stop, alone.find("}}]", right_stop) + 2 - right_stop);
    CHECK(run("stack " + scratch.file("alone.json", alone)).out.find("left is held closed by hand") !=
          std::string::npos);
    // Without its right stop nothing stops a push that way.
    std::string open = with(ends, R"("push":[{"body":"slider","along":[1,0,0],"at":[0,0,0]}],)" + ends);
    const auto from = open.find(",\n     {\"id\":\"right\"");
    open.erase(from, open.find("}}]", from) + 2 - from);
    CHECK(run("stack " + scratch.file("open.json", open)).code == 4);
}

TEST_CASE("each part of a project has its ways out, with what stops it", "[dof]") {
    const auto dof = run("dof " + in_source("tests/examples/one_sided/ringg0.2.kollema") + " --json").json();
    const auto hub = std::ranges::find_if(dof["parts"], [](const Json& p) { return p["instance"] == "hub"; });
    REQUIRE(hub != dof["parts"].end());
    std::map<std::string, double> slides; // by what stops them
    int turns = 0;
    for (const auto& way : (*hub)["leaves"]) {
        REQUIRE(way["direction"].size() == 6);
        if (way["distance"].is_null())
            ++turns; // nothing stops a turn
        else
            slides[way["stopped_by"].at(0).get<std::string>()] = way["distance"].get<double>();
    }
    CHECK(turns == 2);
    REQUIRE(slides.size() == 2);
    CHECK(slides["Run"] == Approx(0).margin(1e-9)); // it stands at the shoulder
    CHECK(slides["Ring"] == Approx(0.3).epsilon(1e-9));
}
