#include "bench_parts.hpp"
#include "file/chain_csv.hpp"
#include <filesystem>
#include <fstream>
#include <random>
#include <sys/stat.h>

using namespace kollema;
using namespace kollema::test;
namespace fs = std::filesystem;

namespace {

/// A folder of its own for a test, gone with it.
struct Scratch {
    fs::path path = fs::temp_directory_path() / ("kollema-test-" + std::to_string(std::random_device{}()));
    Scratch() { fs::create_directories(path); }
    ~Scratch() { fs::remove_all(path); }
};

std::string demo_text() {
    return must(file::read_text(KOLLEMA_SOURCE_DIR "/data/demo/fruit-sorter.kollema"));
}

std::string replaced(std::string text, const std::string& what, const std::string& by) {
    const auto at = text.find(what);
    REQUIRE(at != std::string::npos);
    return text.replace(at, what.size(), by);
}

}

TEST_CASE("a project survives the file whole, and its text is stable", "[file]") {
    const Project p = demo();
    CHECK(must(file::from_json(file::to_json(p), "x")) == p);
    CHECK(file::to_json(p) == demo_text());
    const Project odd = doweled(must(edit::rename_part(
        screwed({.counterbored = false, .washer = true, .length_mm = 40.0}), {"block"}, "B\"l\\o\nck µ")));
    CHECK(must(file::from_json(file::to_json(odd), "x")) == odd);
}

TEST_CASE("broken files are refused with their place, and never crash", "[file]") {
    const std::string good = demo_text();
    struct Broken {
        std::string text;
        const char* why;
    };
    const std::vector<Broken> all{
        {"", "complete JSON"},
        {"{", "complete JSON"},
        {"[]", "object"},
        {"null", "object"},
        {"{}", "\"schema\" is missing"},
        {good.substr(0, good.size() / 2), "complete JSON"},
        {replaced(good, "\"version\": 1", "\"version\": 2"), "reads up to 1"},
        {replaced(good, "\"version\": 1", "\"version\": \"1\""), "version"},
        {replaced(good, "kollema-project", "other"), "schema"},
        {replaced(good, "\"length\": 160.0", "\"length\": -160.0"), "not greater than zero"},
        {replaced(good, "\"length\": 160.0", "\"length\": \"160\""), "parts[0].body.block.length"},
        {replaced(good, "\"length\": 160.0", "\"length\": null"), "parts[0]"},
        {replaced(good, "\"length\": 160.0", "\"length\": 1e999"), "JSON"},
        {replaced(good, "\"material\": \"aluminium\"", "\"material\": \"cheese\""), "cheese"},
        {replaced(good, "\"grounded\": true", "\"grounded\": false"), "grounded"},
        {replaced(good, "\"part\": \"base-plate\"", "\"part\": \"ghost\""), "does not exist"},
        {replaced(good, "\"id\": \"stop-rail\"", "\"id\": \"base-plate\""), "twice"},
        {replaced(good, "\"thread\": \"M6\"", "\"thread\": \"M7\""), "M7"},
        {replaced(good, "\"clearance\": \"medium\"", "\"clearance\": \"wide\""), "joints[1].kind.cap_screw"},
        {replaced(good, "\"face\": \"top\"", "\"face\": \"roof\""), "roof"},
        {replaced(good, "\"lower\": 24.6", "\"lower\": 99"), "above"},
        {replaced(good, "\"yield_wanted\": 0.9973", "\"yield_wanted\": 2"), "between 0 and 1"},
        {replaced(good, "\"slip_zone\": \"F7\"", "\"slip_zone\": \"Z99\""), "Z99"},
        {replaced(good, "\"distribution\": \"normal\"", "\"distribution\": \"odd\""), "distribution"},
        {replaced(good, "\"member\": 0", "\"member\": -1"), "whole number"},
        {std::string(200000, '['), "JSON"}};
    for (const auto& broken : all) {
        CAPTURE(broken.why);
        const auto result = file::from_json(broken.text, "project.kollema");
        REQUIRE_FALSE(result);
        CHECK(result.error().kind == FailureKind::file);
        CHECK(in_one_line(result.error()).find(broken.why) != std::string::npos);
    }
}

TEST_CASE("random damage to a file is refused or read, never worse", "[file]") {
    const std::string good = demo_text();
    std::mt19937 random(42);
    for (int i = 0; i < 300; ++i) {
        std::string text = good;
        for (int k = 0; k < 3; ++k)
            text[random() % text.size()] = static_cast<char>(random() % 256);
        if (const auto result = file::from_json(text, "x")) CHECK_FALSE(first_defect(*result));
    }
}

TEST_CASE("saving leaves the old file whole when it fails, and keeps its permissions", "[file]") {
    const Scratch scratch;
    const fs::path path = scratch.path / "a.kollema";
    REQUIRE(file::save(demo(), path));
    CHECK(must(file::load(path)) == demo());
    fs::permissions(path, fs::perms::owner_read | fs::perms::owner_write);
    REQUIRE(file::save(screwed(), path));
    CHECK(fs::status(path).permissions() == (fs::perms::owner_read | fs::perms::owner_write));
    CHECK(std::distance(fs::directory_iterator(scratch.path), {}) == 1); // nothing left beside it
    // A folder stands where the file should go: the rename fails, nothing is half written.
    fs::create_directory(scratch.path / "b.kollema");
    const auto failed = file::save(demo(), scratch.path / "b.kollema");
    REQUIRE_FALSE(failed);
    CHECK(failed.error().kind == FailureKind::file);
    CHECK(std::distance(fs::directory_iterator(scratch.path), {}) == 2);
    CHECK_FALSE(file::save(demo(), scratch.path / "missing" / "c.kollema"));
}

TEST_CASE("files that are not there or not files are told apart", "[file]") {
    const Scratch scratch;
    CHECK(file::load(scratch.path / "none").error().why == "there is no such file");
    CHECK(file::load(scratch.path).error().why == "this is a folder");
}

TEST_CASE("a chain is read from CSV as its columns say", "[file]") {
    const auto chain =
        must(file::read_chain("\xEF\xBB\xBFname,nominal,plus,minus,sensitivity,distribution,cpk,shift\r\n\"a,"
                              " b\",10,+0.1,-0.1,-1,uniform,1.33,0.2\r\n\r\nc,2,0,0,,fixed,,\r\n",
                              "x"));
    REQUIRE(chain.size() == 2);
    CHECK(chain[0].name == "a, b");
    CHECK(chain[0].plus == 0.1);
    CHECK(chain[0].sensitivity == -1);
    CHECK(chain[0].distribution == Distribution::uniform);
    CHECK(chain[1].sensitivity == 1);
    CHECK(chain[1].cpk == 1);
    CHECK(must(file::read_chain("minus,plus,nominal,name\n-1,1,5,a", "x")).front().nominal == 5);
}

TEST_CASE("broken chains are refused with line and column", "[file]") {
    struct Broken {
        std::string csv;
        const char* where;
    };
    const auto row =
        GENERATE(values<Broken>({{"", "x:0"},
                                 {"name,nominal,plus,minus\n", "x:1"},
                                 {"name,nominal,plus\na,1,2", "no column \"minus\""},
                                 {"name,nominal,plus,minus,colour\na,1,2,3,red", "colour"},
                                 {"name,nominal,plus,minus\na,1,2", "x:2"},
                                 {"name,nominal,plus,minus\na,\"1,5\",2,1", "x:2, nominal"},
                                 {"name,nominal,plus,minus\na,1,1,-1\nb,x,1,1", "x:3, nominal"},
                                 {"name,nominal,plus,minus\na,1,-1,1", "above plus"},
                                 {"name,nominal,plus,minus\na,nan,1,-1", "nominal"},
                                 {"name,nominal,plus,minus,distribution\na,1,1,-1,odd", "distribution"},
                                 {"name,nominal,plus,minus,distribution\na,1,1,-1,fixed", "fixed"},
                                 {"name,nominal,plus,minus,cpk\na,1,1,-1,0", "cpk"},
                                 {"name,nominal,plus,minus\n\"a,1,1,-1", "quote"},
                                 {"name,name,plus,minus\na,1,1,-1", "doubled"}}));
    CAPTURE(row.csv);
    const auto chain = file::read_chain(row.csv, "x");
    REQUIRE_FALSE(chain);
    CHECK(chain.error().kind == FailureKind::file);
    CHECK(in_one_line(chain.error()).find(row.where) != std::string::npos);
}
