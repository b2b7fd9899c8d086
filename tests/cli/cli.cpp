// The command line as a script sees it: what is printed, to where, and with which exit code.
#include "quantity/format.hpp"
#include "run.hpp"
#include <algorithm>
#include <array>
#include <catch2/catch.hpp>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/stat.h>
#include <sys/wait.h>

using Json = nlohmann::json;
namespace fs = std::filesystem;
using namespace kollema::test;

TEST_CASE("limits and fits answer with the keys of the contract") {
    const Json limits = run("limits 25 g6 --json").json();
    CHECK(limits["size"] == 25);
    CHECK(limits["unit"] == "mm");
    CHECK(limits["zone"] == "g6");
    CHECK(limits["upper"].get<double>() == Approx(-0.007).margin(1e-12)); // ISO 286-2
    CHECK(limits["lower"].get<double>() == Approx(-0.020).margin(1e-12));
    CHECK(limits["source"].get<std::string>().find("ISO 286") == 0);
    const Json fit = run("fit 25 H7/g6 --json").json();
    CHECK(fit["system"] == "hole");
    CHECK(fit["kind"] == "clearance");
    CHECK(fit["clearance"]["max"].get<double>() == Approx(0.041).margin(1e-12));
    CHECK(fit["clearance"]["min"].get<double>() == Approx(0.007).margin(1e-12));
    CHECK(fit["hole"]["zone"] == "H7");
    CHECK(fit["shaft"]["lower"].get<double>() == Approx(-0.020).margin(1e-12));
    CHECK(run("limits 1 H7 --unit in --json").json()["upper"].get<double>() ==
          Approx(0.021 / 25.4).epsilon(1e-9));
    CHECK(run("limits 1in H7 --json").json()["size"] == 25.4);
    CHECK(run("limits '12mm+0.5' H7").code == 0);
}

TEST_CASE("threads, holes and hardware answer with the keys of the contract") {
    const Json thread = run("thread M10 --class 6g --json").json();
    for (const auto* key : {"name", "unit", "pitch", "major", "pitch_diameter", "minor_internal",
                            "minor_external", "stress_area", "tap_drill", "source"})
        CHECK(thread.contains(key));
    CHECK(thread["stress_area"].get<double>() == Approx(58.0).epsilon(0.001)); // ISO 898-1
    CHECK(thread["limits"]["major"]["max"].get<double>() == Approx(9.968).margin(1e-6));
    CHECK(thread["limits"]["minor"]["min"].is_null());
    CHECK(run("thread M10 --json --unit in").json()["stress_area"] ==
          thread["stress_area"]); // areas stay mm²
    const Json hole = run("hole M6 --json").json();
    CHECK(hole["clearance"] == 6.6);
    CHECK(hole["tap_drill"] == 5.0);
    CHECK(hole["counterbore"]["diameter"] == 11.0);
    CHECK(hole["countersink"]["angle"] == 90.0);
    CHECK(run("hole M6 --class fine --json").json()["clearance"] == 6.4);
    const Json screw = run("hardware 'ISO 4762' M6 --json").json();
    CHECK(screw["dimensions"]["dk"]["nominal"] == 10.0);
    CHECK(screw["dimensions"]["s"] == 5.0);
    CHECK(screw["lengths"].size() == 12);
    CHECK(run("hardware --list --json").json()["hardware"].size() > 60);
    CHECK(run("hardware 'ISO 8734' 8 --json").json()["dimensions"]["d"]["max"] == 8.015); // m6, ISO 286-2
    CHECK(run("hardware 'DIN 6885-1' 8x7 --json").json()["dimensions"]["t1"]["nominal"] == 4.0);
    const Json bearing = run("hardware 'ISO 15' 6204 --json").json()["dimensions"];
    CHECK(bearing["D"]["nominal"] == 47.0);
    CHECK(bearing["B"]["min"].get<double>() == Approx(13.88).margin(1e-9).epsilon(0)); // ISO 492: 0 −120 µm
    CHECK(bearing["da"]["min"] == 25.6);
    const Json set_screw = run("hardware 'ISO 4029' M6 --json").json();
    CHECK(set_screw["short"]["up_to"] == 5.0);
    CHECK(set_screw["short"]["dimensions"]["t"] == 2.0);
    CHECK(set_screw["dimensions"]["t"]["nominal"] == 3.5);
    CHECK(run("hardware 'ISO 15977' 4 --json").json()["grips"][1] == Json({3.0, 5.0}));
    CHECK(run("hardware 'ASME B18.3' '#10' --unit in --json").json()["dimensions"]["dk"]["nominal"] ==
          Approx(0.312).epsilon(1e-9));
    const Json inch = run("thread 1/4-20UNC --class 2A --unit in --json").json();
    CHECK(inch["tap_drill"].get<double>() == Approx(0.201).epsilon(1e-9));
    CHECK(inch["limits"]["pitch_diameter"]["max"].get<double>() == Approx(0.2164).epsilon(1e-9)); // ASME B1.1
    CHECK(run("thread 1/2-10ACME --unit in --json").json()["minor_internal"].get<double>() ==
          Approx(0.4).epsilon(1e-9));
    CHECK(run("thread 'Tr 20x4' --json").json()["tap_drill"].is_null());
    CHECK(run("hole 1/4-20UNC --unit in --json").json()["clearance"].get<double>() ==
          Approx(0.281).epsilon(1e-9));
    CHECK(hole["countersink"]["diameter"] == 13.71);        // DIN 74-1 form F, for ISO 10642
    CHECK(hole["countersink_iso7721"]["diameter"] == 12.6); // ISO 15065
    CHECK(run("hole M16 --json").json()["countersink"]["diameter"] == 33.99);
    CHECK(run("hole M16 --json").json()["countersink_iso7721"].is_null());
    CHECK(run("hole M2 --json").json()["countersink"].is_null());
    CHECK(run("hole M2 --json").json()["countersink_iso7721"]["diameter"] == 4.4);
    const Json reduced = run("torque M10 --grade 010.9 --json").json(),
               whole = run("torque M10 --grade 10.9 --json").json();
    CHECK(reduced["preload"].get<double>() == Approx(0.8 * whole["preload"].get<double>()).epsilon(1e-12));
    CHECK(reduced["caution"].get<std::string>().find("weaker than its thread") != std::string::npos);
}

TEST_CASE("inch fits answer with the keys of the contract") {
    const Json fit = run("fit 1 RC4 --unit in --json").json();
    CHECK(fit["unit"] == "in");
    CHECK(fit["system"] == "hole");
    CHECK(fit["hole"]["zone"] == "H8");
    CHECK(fit["shaft"]["upper"].get<double>() == Approx(-0.0008).epsilon(1e-9));
    CHECK(fit["clearance"]["max"].get<double>() == Approx(0.0028).epsilon(1e-9));
    CHECK(fit["kind"] == "clearance");
    CHECK(fit["source"].get<std::string>().find("ASME B4.1") == 0);
    CHECK(run("fit 2 FN4 --unit in --json").json()["kind"] == "interference");
}

TEST_CASE("press, torque, engagement and taper answer with the keys of the contract") {
    const Json press =
        run("press 40 H7/s6 --length 30 --hub-od 80 --hub-material steel --shaft-material steel "
            "--shaft-id 10 --json")
            .json();
    for (const auto* key : {"interference", "pressure", "axial_force", "torque", "bore_change"}) {
        CHECK(press[key]["min"].get<double>() < press[key]["max"].get<double>());
    }
    for (const auto* key : {"hub_stress", "shaft_stress", "press_in_force"})
        CHECK(press[key]["max"].get<double>() > 0);
    CHECK(press["bore_change"]["max"].get<double>() < 0);
    CHECK(press["heat_hub_to"].get<double>() > 200);
    CHECK(press["cool_shaft_to"].is_null()); // liquid nitrogen shrinks it by 73 of the 99 µm needed
    CHECK(run("press 40 H7/p6 --length 30 --hub-od 80 --hub-material steel --shaft-material aluminium --json")
              .json()["cool_shaft_to"]
              .get<double>() < -60);
    CHECK(press["working"].size() >= 8);
    const std::string inches =
        "press 1.5 FN2 --length 1 --hub-od 3 --hub-material steel --shaft-material steel --unit in";
    CHECK(run(inches + " --json").json()["interference"]["max"].get<double>() ==
          Approx(0.0024).epsilon(1e-9)); // ASME B4.1
    CHECK(run(inches + " --temperature -40").code == 0);
    const Json torque = run("torque M10 --grade 8.8 --json").json();
    CHECK(torque["preload"].get<double>() == Approx(29600).epsilon(0.005)); // VDI 2230-1
    CHECK(torque["torque"].get<double>() == Approx(48).epsilon(0.02));
    CHECK(torque["proof_load"].get<double>() == Approx(580 * 57.99).epsilon(0.001));
    CHECK(torque["stress_area"].get<double>() == Approx(58).epsilon(0.001));
    CHECK(torque["working"].size() >= 4);
    CHECK(torque["caution"].get<std::string>().find("friction") != std::string::npos);
    const Json engagement = run("engagement M10 --grade 8.8 --material c45 --json").json();
    CHECK(
        (engagement["minimum_length"].get<double>() > 5 && engagement["minimum_length"].get<double>() < 10));
    CHECK(engagement["working"].size() == 5);
    const Json taper = run("taper 1:100 --json").json();
    CHECK(taper["ratio"] == 100.0);
    CHECK(taper["included_angle"].get<double>() == Approx(0.572953).epsilon(1e-6));
    CHECK(taper["half_angle"].get<double>() == Approx(0.286477).epsilon(1e-5));
    CHECK(taper["slope_angle"].get<double>() == Approx(0.572939).epsilon(1e-6));
    CHECK(run("taper 0.573deg --json").json()["ratio"].get<double>() == Approx(99.99).epsilon(1e-4));
    CHECK(run("taper '1:200 = 0.57°' --json").json()["contradiction"].is_string());
}

TEST_CASE("without --json a person reads names, figures and units") {
    for (const auto& [call, wanted] : std::initializer_list<std::pair<const char*, std::vector<const char*>>>{
             {"limits 25 g6", {"-0.007 mm", "-0.020 mm", "ISO 286-1"}},
             {"fit 1 RC4 --unit in", {"0.00080 in", "0.00280 in", "clearance", "ASME B4.1"}},
             {"thread M10 --class 6g", {"1.500 mm", "57.99 mm²", "9.968 mm", "ISO 965-1"}},
             {"hole M6", {"6.600 mm", "11.000 mm", "ISO 15065", "ISO 10642"}},
             {"hardware 'ISO 4762' M6",
              {"Hexagon socket head cap screw", "dk", "min 9.78", "lengths", "ISO 4762:2004"}},
             {"hardware --list", {"ISO 4762", "DIN 471", "ASME B18.3"}},
             {"press 40 H7/s6 --length 30 --hub-od 80 --hub-material steel --shaft-material steel",
              {"MPa", "N·m", "°C", "caution", "burn", "DIN 7190-1"}},
             {"torque M10 --grade 8.8", {"29603 N", "N·m", "caution", "VDI 2230-1"}},
             {"engagement M10 --grade 8.8 --material aluminium",
              {"minimum length", "rule of thumb", "common practice"}},
             {"taper '1:200 = 0.57°'", {"0.28648°", "contradiction", "slope"}}}) {
        const Run r = run(call);
        CAPTURE(call, r.out);
        CHECK(r.code == 0);
        CHECK(r.err.empty());
        for (const auto* text : wanted)
            CHECK(r.out.find(text) != std::string::npos);
    }
}

TEST_CASE("a bare chain gives every result of the contract") {
    const Scratch scratch;
    const auto csv = scratch.file(
        "chain.csv", "name,nominal,plus,minus,sensitivity,distribution,cpk,shift\nhousing,20,0.1,-0.1,1,"
                     "normal,1,0\npart,10,0.05,-0.05,-1,uniform,1,0\nshim,9.4,0,0,-1,fixed,1,0\n");
    const Json j = run("stack " + csv + " --lower 0.45 --upper 0.75 --samples 200000 --seed 3 --json").json();
    REQUIRE(j["requirements"].size() == 1);
    const Json& r = j["requirements"][0];
    for (const auto* key : {"id", "name", "nominal", "lower", "upper", "worst_case", "rss", "distribution",
                            "monte_carlo", "contributions", "loop"})
        CHECK(r.contains(key));
    CHECK(r["nominal"].get<double>() == Approx(0.6).epsilon(1e-9));
    CHECK(r["worst_case"]["min"].get<double>() == Approx(0.45).epsilon(1e-9));
    CHECK(r["distribution"]["method"] == "exact");
    CHECK(r["distribution"]["sigma"].get<double>() == Approx(std::sqrt(0.01 / 9 + 0.0025 / 3)).epsilon(1e-9));
    CHECK(r["distribution"]["ppm_below"].get<double>() ==
          Approx(r["distribution"]["ppm_above"].get<double>()).epsilon(1e-6));
    CHECK(r["monte_carlo"]["samples"] == 200000);
    CHECK(r["monte_carlo"]["seed"] == 3);
    CHECK(r["monte_carlo"]["ci95"][0] <= r["distribution"]["yield"]);
    CHECK(r["monte_carlo"]["ci95"][1] >= r["distribution"]["yield"]);
    CHECK(r["contributions"][1]["name"] == "part"); // file order
    CHECK(r["contributions"][2]["variance_share"] == 0.0);
    CHECK(r["loop"].size() == 3);
    const Json open = run("stack " + csv + " --upper 0.75 --json").json()["requirements"][0];
    CHECK(open["lower"].is_null());
    CHECK(open["distribution"]["ppm_below"] == 0.0);
    const Json negative =
        run("stack " + csv + " --lower -0.5 --upper 1/2in --json").json()["requirements"][0];
    CHECK(negative["upper"].get<double>() == Approx(12.7).epsilon(1e-9));
    CHECK(run("stack " + csv + " --unit in --upper 0.75 --json")
              .json()["requirements"][0]["nominal"]
              .get<double>() == Approx(0.6).epsilon(1e-9)); // the file is in inches then
}

TEST_CASE("a project is stacked and checked") {
    const Json stack = run("stack " + demo + " --json").json()["requirements"][0];
    CHECK(stack["id"] == "spacer-gap");
    CHECK(stack["nominal"].get<double>() == Approx(25).epsilon(1e-9));
    CHECK(stack["loop"].size() == stack["contributions"].size());
    CHECK(run("stack " + demo + " --requirement spacer-gap --unit in --json")
              .json()["requirements"][0]["nominal"]
              .get<double>() == Approx(25 / 25.4).epsilon(1e-9));
    const Run check = run("check " + demo + " --json");
    CHECK(check.code == 1);
    CHECK(check.err.empty());
    const Json j = check.json();
    CHECK(j["counts"]["error"] == 10);
    for (const auto& f : j["findings"])
        for (const auto* key : {"rule", "severity", "joint", "parts", "message", "because", "fix"})
            CHECK(f.contains(key));
    CHECK(Json::parse(run("schema").out)["title"] == "Kollema project");
}

TEST_CASE("the list of hardware counts one piece a place, in every joint of the file") {
    std::ifstream stream(demo);
    const Json project = Json::parse(stream);
    std::map<std::string, std::size_t> fasteners; // by joint
    for (const auto& joint : project["joints"])
        if (!joint["kind"].contains("shaft_in_bore") && !joint["kind"].contains("register"))
            fasteners[joint["id"]] = joint["places"].size();
    const Json bom = run("bom " + demo + " --json").json();
    std::map<std::string, std::size_t> listed;
    for (const auto& line : bom["lines"]) {
        for (const auto* key : {"designation", "standard", "quantity", "used_in", "length", "mass_kg"})
            CHECK(line.contains(key));
        std::size_t wanted = 0;
        for (const auto& joint : line["used_in"]) {
            wanted += fasteners.at(joint);
            listed[joint] += fasteners.at(joint);
        }
        CHECK(line["quantity"] == wanted); // no joint of the demo has two pieces alike
    }
    CHECK(listed == fasteners);
    // A pin's mass, its chamfers neglected: ø6 of steel, 7.85 g/cm³.
    const auto pin =
        std::ranges::find_if(bom["lines"], [](const Json& l) { return l["standard"] == "ISO 8734"; });
    REQUIRE(pin != bom["lines"].end());
    const double length = (*pin)["length"], all = (*pin)["quantity"];
    CHECK((*pin)["mass_kg"].get<double>() == Approx(all * 7.85e-6 * 9 * 3.14159265 * length).epsilon(0.03));

    const Scratch scratch;
    const std::string csv = (scratch.path / "list.csv").string();
    CHECK(run("bom " + demo + " -o " + csv).code == 0);
    std::ifstream written(csv);
    std::size_t rows = 0;
    for (std::string row; std::getline(written, row);)
        ++rows;
    CHECK(rows == bom["lines"].size() + 1);
    const Json inches = run("bom " + demo + " --json --unit in").json();
    for (std::size_t i = 0; i < bom["lines"].size(); ++i)
        if (bom["lines"][i]["length"].is_number()) // bearings and rings have none
            CHECK(inches["lines"][i]["length"].get<double>() * 25.4 ==
                  Approx(bom["lines"][i]["length"].get<double>()).epsilon(1e-9));
    CHECK(run("bom " + demo + " -o /no/such/folder/list.csv").code == 3);
    CHECK(run("bom missing.kollema").code == 3);
}

TEST_CASE("every hole of the file has its callout, in mm and inches") {
    std::ifstream stream(demo);
    const Json project = Json::parse(stream);
    const Json mm = run("callouts " + demo + " --json").json(),
               inches = run("callouts " + demo + " --json --unit in").json();
    REQUIRE(mm["parts"].size() == project["parts"].size());
    std::size_t threads = 0;
    for (std::size_t p = 0; p < mm["parts"].size(); ++p) {
        std::vector<Json> holes;
        for (const auto& feature : project["parts"][p]["features"])
            if (feature.contains("hole")) holes.push_back(feature);
        const auto& said = mm["parts"][p]["features"];
        REQUIRE(said.size() == holes.size());
        for (std::size_t h = 0; h < holes.size(); ++h) {
            const Json& hole = holes[h]["hole"];
            const std::string text = said[h]["callout"], other = inches["parts"][p]["features"][h]["callout"];
            CAPTURE(text, other);
            CHECK(said[h]["feature"] == holes[h]["id"]);
            const bool tapped = hole.contains("thread") && !hole["thread"].is_null();
            threads += tapped;
            if (tapped)
                CHECK(text.find(hole["thread"]["name"].get<std::string>()) == 0);
            else
                CHECK(text.find(fmt::format("{}", hole["diameter"].get<double>())) != std::string::npos);
            if (!tapped) CHECK(text != other);
        }
    }
    CHECK(threads > 3);
}

TEST_CASE("findings carry their numbers in the unit asked for, beside the words") {
    const Json mm = run("check " + demo + " --json").json()["findings"],
               inches = run("check " + demo + " --json --unit in").json()["findings"];
    REQUIRE(mm.size() == inches.size());
    std::size_t lengths = 0, others = 0;
    for (std::size_t i = 0; i < mm.size(); ++i) {
        CHECK(mm[i]["rule"] == inches[i]["rule"]);
        if (mm[i]["is"].is_null()) continue;
        const double factor = mm[i]["unit"] == "mm" ? 25.4 : 1;
        (factor > 1 ? lengths : others) += 1;
        if (factor > 1) CHECK(inches[i]["unit"] == "in");
        CHECK(inches[i]["is"].get<double>() * factor == Approx(mm[i]["is"].get<double>()).epsilon(1e-9));
        CHECK(inches[i]["wanted"].get<double>() * factor ==
              Approx(mm[i]["wanted"].get<double>()).epsilon(1e-9));
    }
    CHECK(lengths > 0);
    CHECK(others > 0);
}

TEST_CASE("the option fail-on decides the exit code") {
    const Scratch scratch;
    std::ifstream stream(demo);
    Json project = Json::parse(stream);
    project["joints"] = Json::array();
    project["requirements"] = Json::array();
    project["chains"] = Json::array();
    for (auto& part : project["parts"]) {
        part["dimensions"] = Json::array();
        std::erase_if(part["features"].get_ref<Json::array_t&>(),
                      [](const Json& f) { return f.contains("owner"); });
    }
    const auto path = scratch.file("p.kollema", project.dump()); // parts that nothing joins: warnings only
    CHECK(run("check " + path).code == 0);
    CHECK(run("check " + path + " --fail-on warning").code == 1);
    CHECK(run("check " + path + " --fail-on note").code == 1);
}

TEST_CASE("failures have their code, one line on standard error, and nothing on standard output") {
    const Scratch scratch;
    const auto broken = scratch.file("broken.kollema", "{\"schema\":");
    const auto chain = scratch.file("chain.csv", "name,nominal,plus,minus\na,1,0.1,-0.1\n"),
               bad = scratch.file("bad.csv", "name,nominal,plus,minus\na,one,0.1,-0.1\n");
    struct Case {
        std::string arguments;
        int code;
    };
    const std::vector<Case> cases{
        {"", 2},
        {"frobnicate", 2},
        {"limits", 2},
        {"limits 25", 2},
        {"limits x g6", 2},
        {"limits -5 g6", 2},
        {"limits 0 g6", 2},
        {"limits nan g6", 2},
        {"limits 25 g6 --colour", 2},
        {"limits 25 6g", 2},
        {"limits 25 g6 --unit yard", 2},
        {"fit 25 H7", 2},
        {"fit 25 g6/H7", 2},
        {"thread Q10", 2},
        {"thread M10 --class g", 2},
        {"hole M6 --class wide", 2},
        {"hardware", 2},
        {"stack " + chain + " --samples 0", 2},
        {"stack " + chain + " --samples x", 2},
        {"stack " + chain + " --lower 2 --upper 1", 2},
        {"stack " + chain + " --lower abc", 2},
        {"stack " + demo + " --requirement nothing", 2},
        {"check " + demo + " --fail-on never", 2},
        {"stack /nowhere.csv --upper 1", 3},
        {"stack " + bad + " --upper 1", 3},
        {"stack " + broken, 3},
        {"check " + broken, 3},
        {"check /nowhere", 3},
        {"check /tmp", 3},
        {"check " + chain, 3},
        {"limits 4000 g6", 4},
        {"limits 25 zz6", 4},
        {"limits 25 H19", 4},
        {"fit 25 H7/zz6", 4},
        {"fit 1 RC14 --unit in", 4},
        {"thread M7.3", 4},
        {"hole M2.2", 4},
        {"thread 1/4-21UNC", 4},
        {"thread M10 --class 2A", 4},
        {"thread 1/4-20UNC --class 6g", 4},
        {"press 40 H7/s6", 2},
        {"press 40 H7/s6 --length 0 --hub-od 80 --hub-material steel --shaft-material steel", 2},
        {"press 40 H7/s6 --length 30 --hub-od 80 --hub-material steel --shaft-material steel --friction x",
         2},
        {"press 40 H7/s6 --length 30 --hub-od 80 --hub-material cheese --shaft-material steel", 4},
        {"press 40 H7/s6 --length 30 --hub-od 30 --hub-material steel --shaft-material steel", 4},
        {"press 40 H7/g6 --length 30 --hub-od 80 --hub-material steel --shaft-material steel", 4},
        {"torque M10", 2},
        {"torque M10 --grade 8.9", 4},
        {"torque M10 --grade 8.8 --friction 0", 2},
        {"torque M9 --grade 8.8", 4},
        {"engagement M10 --grade 8.8 --material cheese", 4},
        {"taper x", 2},
        {"taper 1:0", 2},
        {"hardware 'ISO 4762' M7", 4},
        {"hardware 'ISO 1' M6", 4}};
    for (const auto& c : cases)
        for (const auto* json : {"", " --json"}) {
            if (c.arguments.empty() && *json) continue;
            CAPTURE(c.arguments, json);
            const Run r = run(c.arguments + json);
            CHECK(r.code == c.code);
            CHECK(r.out.empty());
            CHECK(r.err.find("kollema-cli: ") == 0);
            CHECK(std::count(r.err.begin(), r.err.end(), '\n') == 1);
        }
}

TEST_CASE("nothing that is no number leaves the command line") {
    const Scratch scratch;
    for (const auto* call :
         {"press 40 H7/s6 --length 1e308 --hub-od 80 --hub-material steel --shaft-material steel",
          "press 40 H7/s6 --length 30 --hub-od 1e300 --hub-material steel --shaft-material steel",
          "press 40 H7/s6 --length 30 --hub-od 40.00000000000001 --hub-material steel --shaft-material steel",
          "taper 1e-320deg", "taper 1:1e300", "taper 1e300:1"}) {
        CAPTURE(call);
        const Run r = run(std::string(call) + " --json");
        CHECK(r.code == 4);
        CHECK(r.out.empty());
        CHECK(std::ranges::count(r.err, '\n') == 1);
    }
    const std::string head = "name,nominal,plus,minus,sensitivity,distribution,cpk,shift\n";
    for (const auto* row :
         {"a,1e308,1,-1,1,normal,1,0", "a,1,1e308,-1e308,1,normal,1,0", "a,1,1,-1,1e308,normal,1,0",
          "a,1,1,-1,1,normal,1e-300,0", "a,1,1,-1,1,normal,1,1e308", "a,1,1,-1,1,normal,1e300,0"}) {
        CAPTURE(row);
        const Run r = run("stack " + scratch.file("c.csv", head + row + "\n" + row + "\n") + " --json");
        CHECK(r.code == 3);
        CHECK(r.out.empty());
    }
    // Just within the bounds everything is a number.
    const Json j =
        run("stack " +
            scratch.file("c.csv",
                         head +
                             "a,1e9,1e9,-1e9,1e9,normal,1e-6,1e6\na,-1e9,1e9,-1e9,-1e9,truncated,1e6,0\n") +
            " --samples 1000 --json")
            .json()["requirements"][0];
    for (const auto* key : {"mean", "sigma"})
        CHECK(std::isfinite(j["distribution"][key].get<double>()));
    for (const auto* key : {"worst_case", "rss"})
        CHECK(std::isfinite(j[key]["max"].get<double>()));
}

TEST_CASE("limits far outside and a long chain answer with the tail and its bound") {
    const Scratch scratch;
    std::string csv = "name,nominal,plus,minus,sensitivity,distribution\n";
    for (int i = 0; i < 10'000; ++i)
        csv += fmt::format("r{},1,0.1,-0.1,1,{}\n", i, i % 2 ? "uniform" : "truncated");
    const std::string file = scratch.file("long.csv", csv);
    const Json far =
        run("stack " + file + " --lower 0 --upper 20000 --samples 1000 --json").json()["requirements"][0];
    CHECK(far["distribution"]["ppm_below"] == 0.0);
    CHECK(far["distribution"]["ppm_above"] == 0.0);
    CHECK(far["contributions"].size() == 10'000);
    CHECK(far["loop"][9'999]["name"] == "r9999");
    const Run shown = run("stack " + file + " --samples 1000");
    CHECK(shown.out.find("and 9500 more") != std::string::npos);
}

TEST_CASE("a seed is a whole number that fits") {
    const Scratch scratch;
    const std::string file = scratch.file("c.csv", "name,nominal,plus,minus\na,1,1,-1\n");
    for (const auto* seed : {"-1", "18446744073709551616", "1.5", "0x1", "''", "one", "' 1'"}) {
        CAPTURE(seed);
        const Run r = run("stack " + file + " --seed " + seed);
        CHECK(r.code == 2);
        CHECK(r.out.empty());
    }
    CHECK(run("stack " + file + " --seed 18446744073709551615 --samples 10 --json")
              .json()["requirements"][0]["monte_carlo"]["seed"] == 18446744073709551615ULL);
}

TEST_CASE("control characters in names never reach a terminal") {
    const Scratch scratch;
    const std::string name = "\x1b[2J\x07\x7f\xc2\x9b"
                             "31mred\xe2\x80\xae",
                      unit = "name,nominal,plus,minus\n";
    const std::string file = scratch.file("c\x1b[31m.csv", unit + name + ",1,1,-1\n");
    const auto clean = [](const std::string& text) {
        return std::ranges::none_of(
                   text,
                   [](char c) { return (static_cast<unsigned char>(c) < 0x20 && c != '\n') || c == 0x7f; }) &&
               text.find("\xc2\x9b") == std::string::npos;
    };
    const Run shown = run("stack '" + file + "' --samples 10"),
              json = run("stack '" + file + "' --samples 10 --json");
    CHECK(shown.code == 0);
    CHECK(clean(shown.out));
    CHECK(shown.out.find("\xe2\x80\xae") == std::string::npos);
    CHECK(clean(json.out));
    CHECK(json.json()["requirements"][0]["loop"][0]["name"] == name); // unharmed for a program
    const Run wrong = run("stack '" + scratch.file("d\x1b[31m.csv", unit + name + ",x,1,-1\n") + "'");
    CHECK(wrong.code == 3);
    CHECK(clean(wrong.err));
    CHECK(clean(run("limits '25\x1b[2J' g6").err));
    CHECK(clean(run("thread '\x1b[2J'").err));
}

TEST_CASE("what is no file is refused at once, and what cannot be printed is told") {
    const Scratch scratch;
    CHECK(run("check /dev/zero").code == 3);
    CHECK(run("stack /dev/zero").code == 3);
    REQUIRE(::mkfifo((scratch.path / "pipe").c_str(), 0600) == 0);
    CHECK(run("check " + (scratch.path / "pipe").string()).code == 3);
    for (const auto* call : {"--help", "limits --help", "limits 25 g6", "limits 25 g6 --json", "schema"}) {
        CAPTURE(call);
        const Run r = run(std::string(call) + " >/dev/full");
        CHECK(r.code == 3);
        CHECK(r.err.find("cannot be written") != std::string::npos);
    }
    CHECK(run("--help").code == 0);
}
