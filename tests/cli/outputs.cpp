// What the command line will not write over, not compute, and not take for a number.
#include "file/project_file.hpp"
#include "run.hpp"
#include <catch2/catch.hpp>
#include <chrono>

using namespace kollema;
using namespace kollema::test;

namespace {

std::string text_of(const std::string& path) {
    std::ifstream stream(path);
    return {std::istreambuf_iterator<char>(stream), {}};
}

void is_refused(const Run& run, int code, const std::string& why) {
    CAPTURE(run.err);
    CHECK(run.code == code);
    CHECK(run.out.empty());
    CHECK(std::count(run.err.begin(), run.err.end(), '\n') == 1);
    CHECK(run.err.find(why) != std::string::npos);
}

/// Bars in a closed ring, each pinned to the next.
std::string ring(int bodies) {
    std::string names, contacts;
    for (int i = 0; i < bodies; ++i) {
        names += fmt::format("{}\"b{}\"", i == 0 ? "" : ",", i);
        const double angle = 6.283185307179586 * i / bodies;
        contacts += fmt::format(
            R"({}{{"id":"c{}","type":"shaft","a":"b{}","b":"b{}","at":[{},{},0],"z":[0,0,1]}})",
            i == 0 ? "" : ",", i, i, (i + 1) % bodies, 100 * std::cos(angle), 100 * std::sin(angle));
    }
    return fmt::format(R"({{"bodies":[{}],"ground":"b0","contacts":[{}]}})", names, contacts);
}

}

TEST_CASE("what is written never takes the place of what is read") {
    const Scratch scratch;
    const std::string project = scratch.file("p.kollema", text_of(demo)),
                      chain = scratch.file("c.csv", "name,nominal,plus,minus\na,10,0.1,-0.1\n");
    std::filesystem::create_symlink(project, scratch.path / "link");
    const std::string link = (scratch.path / "link").string();
    is_refused(run("bom " + project + " -o " + project), 2, "would be lost");
    is_refused(run("bom " + project + " -o " + link), 2, "would be lost");
    is_refused(run("bom " + link + " -o " + project), 2, "would be lost");
    is_refused(run("stack " + chain + " --lower 9 --page " + chain), 2, "would be lost");
    CHECK(text_of(project) == text_of(demo));
    CHECK(text_of(chain).starts_with("name,nominal"));
    CHECK(run("bom " + project + " -o " + (scratch.path / "list.csv").string()).code == 0);
    CHECK(text_of((scratch.path / "list.csv").string()).find("\"ISO 4762\"") != std::string::npos);
}

TEST_CASE("the page of a bare chain names the ways out that the judging rule leaves") {
    const Scratch scratch;
    const std::string page = (scratch.path / "page.txt").string(),
                      table = scratch.file(
                          "t.tsv", "name\tnominal\tlimits\tmade\na\t10\t±0.2\t\nb\t5\t±0.06\tbought\n"),
                      csv = scratch.file("t.csv", "name,nominal,plus,minus\na,10,0.2,-0.2\nb,5,0.06,-0.06\n");
    // By worst case 0.1 up is there, 0.06 of it taken: 0.04 is left for a; b alone can never do.
    for (const auto& file : {table, csv}) {
        REQUIRE(run("stack " + file + " --lower 14.85 --upper 15.1 --page " + page).code == 0);
        const std::string text = text_of(page), ways = text.substr(text.find("ways out"));
        CAPTURE(text);
        CHECK(ways.find("±0.04") != std::string::npos);
        CHECK(ways.find("Machined after assembly") != std::string::npos);
        CHECK(ways.find("Make b") == std::string::npos);
    }
    REQUIRE(run("stack " + csv + " --lower 14.7 --upper 15.3 --page " + page).code == 0);
    CHECK(text_of(page).find("ways out") == std::string::npos); // kept
    const Run inches = run("stack " + csv + " --unit in --lower 14.85 --upper 15.1 --page " + page);
    REQUIRE(inches.code == 0);
    CHECK(text_of(page).find("±0.04") != std::string::npos);
}

TEST_CASE("shares are read with the bounds of every file") {
    const Scratch scratch;
    const auto start = std::chrono::steady_clock::now();
    is_refused(run("merge " + scratch.file("deep", std::string(20'000'000, '['))), 3, "nests deeper");
    CHECK(std::chrono::steady_clock::now() - start < std::chrono::seconds(20));
    // A share whose list of charts is null has none.
    const std::string pattern =
        R"({"fastener":{"diameter":6},"holes":[[0,0],[60,0]],"plates":[{"diameter":6.6,"position":0.4},{"thread":true,"position":0.3}]})";
    const std::string file = scratch.file("plates.json", pattern);
    std::string share = run("pattern " + file + " --samples 2000 --share 1/1 --json").out;
    const auto at = share.find("\"charts\":false");
    REQUIRE(at != std::string::npos);
    share.replace(at, 14, "\"charts\":null");
    const Run merged = run("merge " + scratch.file("share.json", share) + " --json");
    CHECK(merged.code == 0);
    CHECK(merged.json()["yield"] == run("pattern " + file + " --samples 2000 --json").json()["yield"]);
}

TEST_CASE("a version that is no number says what it is") {
    const Scratch scratch;
    std::string text = text_of(demo);
    const auto at = text.find("\"version\": 1");
    REQUIRE(at != std::string::npos);
    is_refused(run("check " + scratch.file("p.kollema", text.replace(at, 12, "\"version\": \"1\""))), 3,
               "number of the version");
}

TEST_CASE("what would take minutes is refused with its bound, what is below it is answered") {
    const Scratch scratch;
    is_refused(run("dof " + scratch.file("ring.json", ring(302))), 4, "300");
    const auto small = run("dof " + scratch.file("small.json", ring(12)) + " --json");
    CHECK(small.code == 0);
    CHECK(small.json()["mobility"] == (12 - 3) + (12 - 1)); // turns of a plane ring; slides along its pins

    std::string holes = "[0,0]", sizes, sum = "0";
    for (int i = 1; i <= 20'000; ++i)
        holes += fmt::format(",[{},{}]", 10 * (i % 200), 10 * (i / 200));
    is_refused(
        run("pattern " +
            scratch.file("holes.json",
                         R"({"fastener":{"diameter":6},"holes":[)" + holes +
                             R"(],"plates":[{"diameter":7,"position":0.1},{"diameter":7,"position":0.1}]})")),
        4, "20000");
    for (int i = 0; i <= 4000; ++i)
        sizes +=
            fmt::format(R"({}{{"name":"s{}","nominal":1,"plus":0.1,"minus":-0.1}})", i == 0 ? "" : ",", i);
    is_refused(
        run("stack " +
            scratch.file("long.json", R"({"sizes":[)" + sizes +
                                          R"(],"requirements":[{"id":"g","name":"g","value":"s0*s1"}]})")),
        4, "4000");
}

TEST_CASE("lengths of the answer are what was typed, in inches too") {
    const auto j = run("limits 0.69 H7 --unit in --json").json();
    CHECK(j["size"].get<double>() == 0.69);
    CHECK(run("limits 0.69 H7 --unit in --json").out.find("0.6899") == std::string::npos);
    is_refused(run("limits 0,69 H7"), 2, "comma");
}
