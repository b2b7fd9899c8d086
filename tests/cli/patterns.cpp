// Hole patterns and loops on the command line: keys, codes, and files that are broken.
#include "run.hpp"
#include <algorithm>
#include <catch2/catch.hpp>

using Json = nlohmann::json;
using namespace kollema::test;

namespace {

const char* const plates = R"({"fastener":{"diameter":6.0,"plus":0,"minus":-0.18},
 "holes":[[0,0],[60,0],[60,40],[0,40]],
 "plates":[{"diameter":6.6,"plus":0.15,"minus":0,"position":0.4},{"thread":true,"position":0.3}],"located":"fixed"})";

const char* const crank =
    R"({"sizes":[{"name":"r","nominal":40,"plus":0.05,"minus":-0.05},{"name":"l","nominal":150,"plus":0.1,"minus":-0.1},
 {"name":"t","nominal":45,"plus":0.2,"minus":-0.2}],"definitions":[{"name":"gap","value":"180-x"}],
 "unknowns":[{"name":"x","guess":170,"min":0},{"name":"f","kind":"angle","guess":10,"max":90}],
 "loops":[{"vectors":[{"length":"r","angle":"t"},{"length":"l","angle":"-f"},{"length":"x","angle":180}]}],
 "requirements":[{"id":"gap","name":"Gap to the stop","value":"gap","lower":3.8,"upper":5}]})";

/// The code of a command on a text in which something was changed; one line of error and no answer.
int code_of(const char* command, std::string text, const std::string& what, const std::string& by) {
    const Scratch scratch;
    const auto found = text.find(what);
    REQUIRE(found != std::string::npos);
    const Run answer =
        run(std::string(command) + " " + scratch.file("broken.json", text.replace(found, what.size(), by)) +
            " --samples 1000");
    CAPTURE(what, by, answer.err);
    if (answer.code != 0) {
        CHECK(answer.out.empty());
        CHECK(std::ranges::count(answer.err, '\n') == 1);
    }
    return answer.code;
}

}

TEST_CASE("a hole pattern answers with the keys of the contract") {
    const Scratch scratch;
    const std::string file = scratch.file("plates.json", plates);
    const Run answer = run("pattern " + file + " --json --samples 20000 --seed 7");
    REQUIRE(answer.code == 0);
    const Json json = answer.json();
    CHECK(json["samples"] == 20000);
    CHECK(json["seed"] == 7);
    CHECK(json["worst_case_fits"] == false); // 0.3 of clearance, half zones of 0.2 and 0.15
    CHECK(json["ci95"][0] <= json["yield"]);
    CHECK(json["ci95"][1] >= json["yield"]);
    CHECK(json["yield"] > 0.99);
    CHECK(json["yield"] < 1);
    REQUIRE(json["governing"].size() == 4);
    CHECK(json["governing"][0]["hole"] >= 1);
    CHECK(run("pattern " + file + " --json --samples 20000 --seed 7").out == answer.out);
    CHECK(run("pattern " + file + " --json --samples 20000 --seed 8").out != answer.out);
    CHECK(run("pattern " + file + " --samples 1000").out.find("yield") != std::string::npos);
    CHECK(json["virtual_conditions"][0] == Approx(6.2).epsilon(0).margin(1e-12)); // 6.6 less 0.4
    CHECK(json["virtual_conditions"][1] == Approx(6.3).epsilon(0).margin(1e-12)); // 6 and 0.3
    const Json charts = run("pattern " + file + " --charts --json --samples 5000").json();
    REQUIRE(charts["by_diameter"].size() == 3); // ISO 273 for M6
    CHECK(charts["by_diameter"][1]["class"] == "medium");
    CHECK(charts["by_diameter"][1]["diameter"] == 6.6);
    CHECK(charts["by_position"].size() > 4);
    CHECK(charts["plates"].size() == 2);
    CHECK(run("pattern " + file + " --charts --samples 2000").out.find("medium") != std::string::npos);
    CHECK(run("pattern " + file + " --samples 0").code == 2);
    CHECK(run("pattern " + file + " --seed x").code == 2);
    CHECK(run("pattern missing.json").code == 3);
}

TEST_CASE("broken patterns are refused with the place") {
    for (const auto& [what, by] : std::vector<std::pair<std::string, std::string>>{
             {"[[0,0],[60,0],[60,40],[0,40]]", "[]"},
             {"[60,0]", "[0,0]"},
             {"[60,0]", "[60]"},
             {"[60,0]", "[60,0,0]"},
             {"\"diameter\":6.6", "\"diametre\":6.6"},
             {"\"diameter\":6.6,", ""},
             {"\"diameter\":6.6", "\"diameter\":\"6.6\""},
             {"\"diameter\":6.6", "\"diameter\":-6.6"},
             {"\"position\":0.4", "\"position\":-0.4"},
             {"\"plus\":0.15", "\"plus\":-0.15"},
             {"\"located\":\"fixed\"", "\"located\":\"loose\""},
             {"\"located\":\"fixed\"", "\"size_distribution\":\"odd\""},
             {"{\"diameter\":6.6,\"plus\":0.15,\"minus\":0,\"position\":0.4}",
              "{\"thread\":true,\"position\":0.3}"},
             {"{\"diameter\":6.6,\"plus\":0.15,\"minus\":0,\"position\":0.4},", ""},
             {"\"fastener\"", "\"fasteners\""},
             {"\"thread\":true,", "\"thread\":true,\"diameter\":6,"},
             {"\"thread\":true", "\"thread\":1"},
             {"6.0", "1e400"},
             {"}", ""}})
        CHECK(code_of("pattern", plates, what, by) == 3);
    CHECK(code_of("pattern", plates, "\"located\":\"fixed\"", "\"located\":\"free\"") == 0);
    CHECK(code_of("pattern", plates, "\"located\"", "\"position_distribution\":\"normal\",\"located\"") == 0);
}

TEST_CASE("a loop answers at its stop, and broken ones are refused") {
    const Scratch scratch;
    const std::string file = scratch.file("loop.json", crank);
    const Json json = run("stack " + file + " --json --samples 20000").json();
    const Json& gap = json["requirements"][0];
    // x = r cos t + √(l² − r² sin² t)
    const double x = 40 * std::sqrt(0.5) + std::sqrt(150. * 150. - 800.);
    CHECK(gap["nominal"].get<double>() == Approx(180 - x).epsilon(1e-9));
    CHECK(json["unknowns"][0]["value"].get<double>() == Approx(x).epsilon(1e-9));
    CHECK(gap["distribution"]["method"] == "linearised");
    CHECK(gap["linear_enough"] == true);
    CHECK(gap["monte_carlo"]["not_closed"] == 0);
    CHECK(gap["loop"].size() == 3);
    CHECK(run("stack " + file + " --samples 1000").out.find("linear enough") != std::string::npos);
    CHECK(run("stack " + file + " --requirement gap --samples 1000").code == 0);
    CHECK(run("stack " + file + " --requirement other --samples 1000").code == 2);
    CHECK(run("stack " + file + " --lower 1").code == 2);
    // A size may be called as other files call their lists.
    for (const auto* name : {"parts", "bodies", "schema"})
        CHECK(
            run("stack " +
                scratch.file(
                    "name.json",
                    fmt::format(
                        R"({{"sizes":[{{"name":"{0}","nominal":2}}],"requirements":[{{"id":"g","value":"{0}*2"}}]}})",
                        name)) +
                " --json --samples 10")
                .json()["requirements"][0]["nominal"] == 4);
    for (const auto& [what, by, code] : std::vector<std::tuple<std::string, std::string, int>>{
             {"180-x", "180-", 3},
             {"180-x", "180-y", 3},
             {"180-x", "180-gap", 3},
             {"180-x", "atan2(x)", 3},
             {"\"name\":\"r\"", "\"name\":\"l\"", 3},
             {"\"name\":\"r\"", "\"name\":\"pi\"", 3},
             {"\"name\":\"r\"", "\"name\":\"r 1\"", 3},
             {"\"nominal\":40", "\"nominal\":1e400", 3},
             {"\"lower\":3.8", "\"lower\":5.8", 3},
             {"\"guess\":170,", "", 3},
             {"\"kind\":\"angle\"", "\"kind\":\"turn\"", 3},
             {"\"vectors\"", "\"sides\"", 3},
             {"[{\"id\":\"gap\",\"name\":\"Gap to the stop\",\"value\":\"gap\",\"lower\":3.8,\"upper\":5}]",
              "[]", 3},
             {"\"nominal\":150", "\"nominal\":20", 4},
             {",{\"name\":\"f\",\"kind\":\"angle\",\"guess\":10,\"max\":90}", "", 3}, // f is not known
             {"\"angle\":\"-f\"", "\"angle\":\"-10\"", 4}, // and here nothing needs it
             {"\"min\":0", "\"min\":176", 4},
             {"180-x", "sqrt(x-1000)", 4},
             {"180-x", "1/(f-f)", 4}})
        CHECK(code_of("stack", crank, what, by) == code);
}

TEST_CASE("slots, flattened dowels and dowels beside screws are read, and a project's joint") {
    const Scratch scratch;
    const std::string dowel = R"("fastener":{"diameter":6,"plus":0.012,"minus":0.004})",
                      pressed = R"({"press":true,"position":0.02})",
                      hole = R"({"diameter":6,"plus":0.03,"minus":0.018,"position":0.02)";
    const std::string first =
        "{" + dowel + R"(,"holes":[[0,0]],"plates":[)" + pressed + "," + hole + R"(}],"beside":[)";
    const auto beside = [&](const std::string& fastener, const std::string& slot) {
        return scratch.file("p.json", first + "{" + fastener + R"(,"holes":[[80,0]],"plates":[)" + pressed +
                                          "," + hole + slot + "}]}]}");
    };
    const Json slotted =
        run("pattern " + beside(dowel, R"(,"slot":{"length":7,"direction":0})") + " --json").json();
    CHECK(slotted["yield"] == 1);
    CHECK(slotted["worst_case_fits"] == true);
    const Json round = run("pattern " + beside(dowel, "") + " --json --samples 50000").json();
    CHECK(round["yield"] < 1);
    CHECK(round["worst_case_fits"] == false);
    CHECK(round["governing"].size() == 2);
    const std::string flattened =
        R"("fastener":{"diameter":6,"plus":0.012,"minus":0.004,"flattened":{"land":1.5}})";
    CHECK(run("pattern " + beside(flattened, "") + " --json --samples 50000").json()["yield"] >
          round["yield"]);
    // Broken in every new key.
    for (const auto& bad :
         {beside(dowel, R"(,"slot":{"length":5})"), beside(dowel, R"(,"slot":{"width":7})"),
          beside(dowel, R"(,"slot":7)"), beside(R"("fastener":{"diameter":6,"flattened":{"land":7}})", ""),
          beside(R"("fastener":{"diameter":6,"flattened":{}})", "")})
        CHECK(run("pattern " + bad).code == 3);
    CHECK(run("pattern " + scratch.file("q.json", first + "{}]}")).code == 3);
    // The holes of a joint.
    const Run joint = run("pattern " + demo + " --joint block-screws --json --samples 20000");
    REQUIRE(joint.code == 0);
    CHECK(joint.json()["governing"].size() == 4); // two screws, two dowels
    CHECK(run("pattern " + demo + " --joint nobody").code == 2);
    CHECK(run("pattern " + demo + " --joint pivot-seat").code == 4);
    CHECK(run("pattern " + demo).code == 3);
    // A typed one, with its words; both at once mean nothing.
    const Run typed = run("pattern " + demo + " --typed guard-holes --json --samples 20000");
    REQUIRE(typed.code == 0);
    CHECK(typed.json()["governing"].size() <= 6); // four screws, two dowels
    CHECK(typed.json()["virtual_conditions"].size() == 2);
    CHECK(run("pattern " + demo + " --typed nobody").code == 2);
    CHECK(run("pattern " + demo + " --typed guard-holes --joint block-screws").code == 2);
    // What its chart says of a class is what the class gives, zone and all.
    const auto charts = [&](const std::string& file, const std::string& which) {
        return run("pattern " + file + " " + which + " --charts --json --samples 20000").json();
    };
    std::ifstream stream(demo);
    Json project = Json::parse(stream);
    const auto before = charts(demo, "--typed guard-holes");
    REQUIRE(before["by_diameter"].size() == 3);
    for (const auto& c : before["by_diameter"]) {
        project["patterns"][0]["members"][1]["size"] = c["class"];
        const auto after = charts(scratch.file("with.kollema", project.dump()), "--typed guard-holes");
        CHECK(after["yield"] == c["yield"]);
        CHECK(after["worst_case_fits"] == c["worst_case_fits"]);
    }
    CHECK(before["by_diameter"][0]["diameter"] == 5.3); // ISO 273, fine, for M5
    const auto of_joint = charts(demo, "--joint block-screws")["by_diameter"];
    REQUIRE(of_joint.size() == 3);
    CHECK(of_joint[0]["yield"] < of_joint[2]["yield"]);
    // Shares of both.
    const std::string a = (scratch.path / "a.json").string(), b = (scratch.path / "b.json").string();
    for (const char* which : {"--joint block-screws", "--typed guard-holes"}) {
        const std::string command = "pattern " + demo + " " + which + " --json --samples 60000";
        for (const auto& [file, share] : {std::pair{a, "1/2"}, std::pair{b, "2/2"}})
            std::ofstream(file) << run(command + " --share " + share).out;
        CHECK(run("merge " + a + " " + b + " --json").out == run(command).out);
    }
}
