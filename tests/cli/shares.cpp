// Runs in several parts, as plain processes, and what merges them; tables as people type them.
#include "run.hpp"
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <fstream>

using namespace kollema::test;

namespace {

const char* const chain = "name,nominal,plus,minus,sensitivity,distribution,cpk,shift\n"
                          "plate,20,0.2,-0.1,1,normal,1.1,0.2\n"
                          "bush,12,0.1,-0.1,-1,uniform,1,0\n"
                          "ring,7.5,0.05,-0.15,-1,truncated,0.8,0\n";

const char* const triangle =
    R"({"sizes":[{"name":"a","nominal":30,"plus":0.1,"minus":-0.1},{"name":"b","nominal":40,"plus":0.1,"minus":-0.1}],
 "unknowns":[{"name":"c","guess":45,"min":0}],"equations":["c^2-a^2-b^2"],
 "requirements":[{"id":"c","value":"c","upper":50.05},{"id":"a","value":"a","lower":29.95}]})";

const char* const shared_plates = R"({"fastener":{"diameter":6.0,"minus":-0.1},"holes":[[0,0],[60,0],[0,40]],
 "plates":[{"diameter":6.3,"plus":0.1,"position":0.4},{"diameter":6.3,"position":0.3}],"located":"free"})";

const char* const two_pins =
    R"({"bodies":["base","plate"],"ground":"base","contacts":[
 {"id":"seat","type":"seat","a":"base","b":"plate","at":[40,20,0],"z":[0,0,1]},
 {"id":"p1","type":"pin","a":"base","b":"plate","at":[0,0,0],"z":[0,0,1],"clearance":{"nominal":0.04}},
 {"id":"p2","type":"pin","a":"base","b":"plate","at":[80,0,0],"z":[0,0,1],"clearance":{"nominal":0.05}}],
 "sizes":[{"name":"distance","plus":0.03,"minus":-0.03,"moves":[{"contact":"p2","side":"b","along":[1,0,0]}]}],
 "requirements":[{"id":"g","from":{"body":"base","at":[120,40,0]},"to":{"body":"plate","at":[120,45,0]},"along":[0,1,0],"lower":4.98,"upper":5.03}]})";

/// What `merge` answers to the shares of a command.
Run merged(const Scratch& scratch, const std::string& command, int of, const std::string& more = {}) {
    std::string files;
    for (int k = of; k >= 1; --k) { // in any order
        const Run share = run(fmt::format("{} --share {}/{}", command, k, of));
        REQUIRE(share.code == 0);
        CHECK(share.json()["share"] == nlohmann::json{k, of});
        files += " " + scratch.file(fmt::format("{}-{}.json", k, of).c_str(), share.out);
    }
    return run("merge" + files + more);
}

}

TEST_CASE("shares merge to the bits of the whole run, whatever is stacked") {
    const Scratch scratch;
    for (const std::string& command :
         {"stack " + scratch.file("chain.csv", chain) +
              " --lower -0.2 --upper 0.6 --samples 60000 --seed 3 --shim 0.8 --pieces 50",
          "stack " + scratch.file("loop.json", triangle) + " --samples 20000",
          "stack " + scratch.file("assembly.json", two_pins) + " --samples 20000",
          "pattern " + scratch.file("plates.json", shared_plates) +
              " --samples 20000 --seed 18446744073709551615",
          "stack " + demo + " --requirement ring-play --samples 20000 --unit in"}) {
        CAPTURE(command);
        const Run whole = run(command + " --json");
        REQUIRE(whole.code == 0);
        CHECK(merged(scratch, command, 3, " --json").out == whole.out);
    }
    const std::string in_words = "stack " + scratch.file("chain.csv", chain) + " --lower -0.2 --samples 9000";
    for (const int of : {1, 2, 4}) // more shares than groups too
        CHECK(merged(scratch, in_words, of).out == run(in_words).out);
}

TEST_CASE("shares that do not belong together are refused") {
    const Scratch scratch;
    const std::string command = "stack " + scratch.file("chain.csv", chain) + " --lower -0.2 --samples 30000";
    const auto share = [&](const std::string& options, const char* name) {
        return scratch.file(name, run(command + options).out);
    };
    const std::string one = share(" --share 1/2", "a"), two = share(" --share 2/2", "b"),
                      other_seed = share(" --seed 2 --share 2/2", "c"), third = share(" --share 3/3", "d");
    CHECK(run("merge " + two + " " + one).code == 0);
    for (const std::string& files :
         {one, two, one + " " + one, one + " " + two + " " + two, one + " " + other_seed, one + " " + third,
          one + " missing.json", one + " " + scratch.file("e", "{}"), one + " " + scratch.file("f", "share"),
          one + " " + scratch.file("chain.csv", chain)}) {
        const Run answer = run("merge " + files);
        CAPTURE(files, answer.err);
        CHECK(answer.code == 3);
        CHECK(answer.out.empty());
    }
    // Sums of another length than the question's.
    auto wrong = run(command + " --share 1/1").json();
    wrong["simulations"][0][0].push_back(1);
    CHECK(run("merge " + scratch.file("g", wrong.dump())).code == 3);
    wrong = run(command + " --share 1/1").json();
    wrong["simulations"].push_back(wrong["simulations"][0]);
    CHECK(run("merge " + scratch.file("h", wrong.dump())).code == 3);
    for (const char* bad : {"0/2", "3/2", "1/0", "1", "a/b", "1/2/3", "-1/2", "1/"})
        CHECK(run(command + " --share " + bad).code == 2);
    CHECK(run("merge").code == 2);
}

TEST_CASE("a table as a person types it is stacked in any unit, and its cells are named") {
    const Scratch scratch;
    const std::string table = scratch.file("table.tsv", "name\tnominal\tlimits\tsense\n"
                                                        "bracket\t3\t±0.005\t\n"
                                                        "block\t1\t0.003\t-\n"
                                                        "spacer\t31.75 mm\t±0.003\t-\n"
                                                        "plate\t0.7\t+0.003 -0.003\t-\n");
    const auto json = run("stack " + table + " --unit in --lower 0.01 --upper 0.08 --json").json();
    const auto& gap = json["requirements"][0];
    CHECK(gap["nominal"] == Approx(0.05).epsilon(1e-12));
    CHECK(gap["worst_case"]["min"] == Approx(0.036).epsilon(1e-12));
    CHECK(gap["worst_case"]["max"] == Approx(0.064).epsilon(1e-12));
    const Run bad = run("stack " + scratch.file("bad.tsv", "nominal\tlimits\n3\t±0.1\n4\twide\n"));
    CHECK(bad.code == 3);
    CHECK(bad.err.find("row 2, limits") != std::string::npos);
    CHECK(run("stack " + scratch.file("ragged.csv", "nominal,limits\n3,1,2\n")).code == 3);
}

TEST_CASE("a set of shims is told by its shares, in any unit") {
    const Scratch scratch;
    const std::string command = "stack " + scratch.file("chain.csv", chain) + " --samples 1000";
    const auto mm = run(command + " --lower 0.1 --upper 0.3 --shim 0.1 --json")
                        .json()["requirements"][0]["shims"],
               in = run(command + " --lower 0.1 --upper 0.3 --shim 2.54mm --unit in --json")
                        .json()["requirements"][0]["shims"];
    REQUIRE(mm["set"].size() > 3);
    double all = mm["left_over"];
    for (const auto& shim : mm["set"])
        all += shim["share"].get<double>();
    CHECK(all == Approx(1).margin(1e-5));
    CHECK(mm["set"][0]["thickness"].get<double>() == 0); // some need none
    CHECK(mm["set"][1]["thickness"].get<double>() > 0);
    CHECK(in == mm); // the file's lengths are inches then, and so is a tenth of one
    CHECK(run(command + " --lower 0.1 --upper 0.3 --shim 0.1").out.find("of a thousand") !=
          std::string::npos);
    for (const char* bad : {" --lower 0.1 --upper 0.3 --shim 0", " --lower 0.1 --shim 0.1",
                            " --lower 0.1 --upper 0.3 --shim thick"})
        CHECK(run(command + bad).code == 2);
}

TEST_CASE("what a finite sample tells of a measured Cpk is told with the yield") {
    const Scratch scratch;
    const std::string command = "stack " + scratch.file("chain.csv", chain) + " --lower 0.4 --samples 1000";
    const auto few = run(command + " --pieces 20 --json").json()["requirements"][0],
               many = run(command + " --pieces 2000 --json").json()["requirements"][0];
    CHECK(few["sampled"]["pieces"] == 20);
    CHECK(few["sampled"]["least_yield"] < many["sampled"]["least_yield"]);
    CHECK(many["sampled"]["least_yield"] < many["distribution"]["yield"]);
    CHECK(run(command + " --pieces 20").out.find("20 pieces") != std::string::npos);
    CHECK(run(command + " --pieces 1").code == 2);
    CHECK(run(command + " --pieces -5").code == 2);
    CHECK_FALSE(run(command + " --json").json()["requirements"][0].contains("sampled"));
    // Where an option would do nothing it is refused; a page is of one gap.
    const std::string loop = scratch.file("loop.json", triangle), page = (scratch.path / "page.svg").string();
    for (const std::string& useless :
         {"stack " + loop + " --pieces 20", "stack " + loop + " --shim 0.1", "stack " + demo + " --shim 0.1",
          "stack " + loop + " --page " + page, "stack " + demo + " --samples 100 --page " + page,
          command + " --share 1/2 --page " + page})
        CHECK(run(useless).code == 2);
    CHECK_FALSE(std::filesystem::exists(page));
    CHECK(run(command + " --page " + page).code == 0);
    CHECK(std::filesystem::file_size(page) > 2000);
}

TEST_CASE("the typed chains of a project are stacked and checked with its requirements") {
    const auto json =
        run("stack " + demo + " --requirement ring-play --samples 50000 --json").json()["requirements"][0];
    CHECK(json["met"] == false);
    // By hand: 26.55 + 0.1 − 9 − 8 − 9; the middles of the zones are 0.025, 0.03 and twice −0.06 away.
    CHECK(json["nominal"] == Approx(0.65).epsilon(1e-9));
    CHECK(json["distribution"]["mean"] == Approx(0.825).epsilon(1e-9));
    CHECK(json["monte_carlo"]["ci95"][0] < json["distribution"]["yield"]);
    CHECK(json["monte_carlo"]["ci95"][1] > json["distribution"]["yield"]);
    CHECK(run("check " + demo).out.find("Play of the idler before its ring") != std::string::npos);
}

TEST_CASE("a mean that drifts and classes that are matched are told where they are asked") {
    const Scratch scratch;
    const std::string pair = scratch.file("pair.csv", "name,nominal,plus,minus,sensitivity,distribution\n"
                                                      "Bore,20,0.06,-0.06,1,uniform\n"
                                                      "Shaft,19.9,0.06,-0.06,-1,uniform\n");
    const std::string command = "stack " + pair + " --lower 0.08 --upper 0.12 --samples 1000";
    const auto told = run(command + " --match Bore:Shaft:3 --drift 1.5 --json").json()["requirements"][0];
    // Within a class the gap is triangular on ±0.04; half of that is between the limits but for a quarter.
    CHECK(told["matched"]["yield"] == Approx(0.75).epsilon(0).margin(1e-3));
    CHECK(told["matched"]["left_over"] == Approx(0).epsilon(0).margin(1e-9));
    CHECK(told["matched"]["classes"].size() == 3);
    CHECK(told["drifted"]["yield"] < told["distribution"]["yield"]);
    CHECK(run(command + " --drift 0 --json").json()["requirements"][0]["drifted"]["yield"] ==
          told["distribution"]["yield"]);
    CHECK(run(command + " --match Bore:Shaft:3").out.find("when matched") != std::string::npos);
    for (const char* bad : {" --match Bore:Pin:3", " --match Bore:Shaft", " --match Bore:Shaft:1.5",
                            " --match Bore:Shaft:1", " --match Bore:Bore:3", " --drift x", " --drift -1"})
        CHECK(run(command + bad).code == 2);
    CHECK(run("stack " + demo + " --drift 1.5").code == 2);
    const std::string a = (scratch.path / "a.json").string(), b = (scratch.path / "b.json").string();
    const std::string asked =
        "stack " + pair + " --lower 0.08 --upper 0.12 --samples 40000 --match Bore:Shaft:3 --json";
    for (const auto& [file, share] : {std::pair{a, "1/2"}, std::pair{b, "2/2"}})
        std::ofstream(file) << run(asked + " --share " + share).out;
    CHECK(run("merge " + a + " " + b + " --json").out == run(asked).out);
}

TEST_CASE("a project's chain with loops tells its curve and what is done at assembly") {
    const Scratch scratch;
    const auto json =
        run("stack " + demo + " --requirement idler-guard --samples 40000 --json").json()["requirements"][0];
    // By hand: the triangle of 74, 96 and 132.
    const double u = std::acos((74.0 * 74 + 132 * 132 - 96 * 96) / (2 * 74.0 * 132));
    CHECK(json["nominal"] == Approx(74 * std::sin(u) - 50).epsilon(0).margin(1e-9));
    CHECK(json["distribution"]["method"] == "linearised");
    CHECK(json["monte_carlo"]["samples"] == 40000);
    CHECK(json["nonlinearity"] > 1e-9);
    CHECK(json["contributions"].size() == 5);
    CHECK(json["yield_if_mean_drifts"]["sigmas"] == 1.5);
    CHECK(run("stack " + demo + " --requirement idler-guard --samples 40000").out.find("the curve costs") !=
          std::string::npos);
}

TEST_CASE("a chain that cannot be read leaves the others their answers") {
    const Scratch scratch;
    std::ifstream stream(demo);
    auto project = nlohmann::json::parse(stream);
    project["chains"][0]["rows"][1]["limits"] = "wide";
    project["chains"][1]["measured_on"] = 40;
    const auto path = scratch.file("p.kollema", project.dump());
    const std::string command = "stack " + path + " --samples 20000";
    const Run all = run(command + " --json");
    REQUIRE(all.code == 0);
    const auto whole = run("stack " + demo + " --samples 20000 --json").json()["requirements"];
    const auto told = all.json()["requirements"];
    REQUIRE(told.size() == whole.size());
    for (std::size_t i = 0; i < told.size(); ++i) {
        CAPTURE(i);
        if (told[i]["id"] == "ring-play") {
            CHECK(told[i]["met"] == false);
            CHECK(told[i]["unreadable"].get<std::string>().find("row 2, limits") != std::string::npos);
            CHECK_FALSE(told[i].contains("nominal"));
            continue;
        }
        CHECK(told[i]["nominal"] == whole[i]["nominal"]);
        CHECK(told[i].contains("yield_at_lowest_cpk") == (told[i]["id"] == "belt-clearance"));
        if (!told[i].contains("yield_at_lowest_cpk")) continue;
        CHECK(told[i]["yield_at_lowest_cpk"]["pieces"] == 40);
        CHECK(told[i]["yield_at_lowest_cpk"]["yield"] <= told[i]["distribution"]["yield"]);
    }
    CHECK(run(command).out.find("row 2, limits") != std::string::npos);
    CHECK(run(command).out.find("each Cpk as low as 40 pieces allow") != std::string::npos);
    CHECK(run(command + " --requirement ring-play").code == 3);
    CHECK(run(command + " --requirement belt-clearance").code == 0);
    // In shares too: what is not read draws nothing.
    const std::string a = (scratch.path / "a.json").string(), b = (scratch.path / "b.json").string();
    for (const auto& [file, share] : {std::pair{a, "1/2"}, std::pair{b, "2/2"}})
        std::ofstream(file) << run(command + " --json --share " + share).out;
    CHECK(run("merge " + a + " " + b + " --json").out == all.out);
    // What is done at assembly is told in the unit that is asked for.
    project["chains"][1]["at_assembly"] = {{"what", "machining"}, {"half", 0.0254}};
    const std::string inches = "stack " + scratch.file("inches.kollema", project.dump()) +
                               " --samples 20000 --requirement belt-clearance --unit in";
    CHECK(run(inches).out.find("machined after assembly to ±0.001 in") != std::string::npos);
    CHECK(run(inches + " --json").json()["requirements"][0]["at_assembly"]["what"] ==
          "machined after assembly to ±0.001 in");
    project["chains"][1]["measured_on"] = 1;
    CHECK(run("stack " + scratch.file("q.kollema", project.dump())).code == 3);
}
