#include "bench_parts.hpp"
#include "file/chain_csv.hpp"
#include "places.hpp"
#include "quantity/nearest.hpp"
#include <filesystem>
#include <fstream>
#include <functional>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

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

std::string demo_text() { return must(file::read_text(in_source("data/demo/fruit-sorter.kollema"))); }

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
        {replaced(good, "\"lower\": 24.7", "\"lower\": 99"), "above"},
        {replaced(good, "\"yield_wanted\": 0.9973", "\"yield_wanted\": 2"), "between 0 and 1"},
        {replaced(good, "\"slip_zone\": \"F7\"", "\"slip_zone\": \"Z99\""), "Z99"},
        {replaced(good, "\"distribution\": \"normal\"", "\"distribution\": \"odd\""), "distribution"},
        {replaced(good, "\"member\": 0", "\"member\": -1"), "whole number"},
        {std::string(200000, '['), "nests deeper"},
        {replaced(good, "\"unit\": \"mm\"", "\"unit\": \"inch\""), "kept in millimetres"},
        {replaced(good, "\"name\": \"", "\"name\": \"x\", \"name\": \""), "stands twice"},
        {replaced(good, "\"length\": 160.0", "\"length\": 1e7"), "parts[0].body.block.length: a number from"},
        {replaced(good, "\"length\": 160.0", "\"length\": 1e-7"), "not greater than zero"},
        {replaced(good, "\"cpk\": 1.0", "\"cpk\": 1e-300"), "tolerance"},
        {replaced(good, "\"joint\": \"block-dowels\"", "\"joint\": \"ghost\""),
         "joint \"ghost\" does not exist"},
        {replaced(good, "\"member\": 0", "\"member\": 2"), "no such member or place"}, // it has 0 and 1
        {replaced(good, "\"place\": 0", "\"place\": 2"), "no such member or place"},
        {replaced(good, "\"place\": 0", "\"place\": 99"), "no such member or place"},
        {replaced(good, "\"member\": 0", "\"member\": 1"), "is another part"}};
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

TEST_CASE("a key that a project does not have is an error everywhere, with the nearest one", "[file][long]") {
    using Json = nlohmann::json;
    Json good = Json::parse(demo_text());
    std::vector<Json*> objects;
    const std::function<void(Json&)> collect = [&](Json& node) {
        if (node.is_object()) objects.push_back(&node);
        if (node.is_structured())
            for (auto& child : node)
                collect(child);
    };
    collect(good);
    REQUIRE(objects.size() > 100);
    for (auto* object : objects) {
        const std::string key = object->empty() ? "x" : object->begin().key() + "s";
        (*object)[key] = 1;
        const auto result = file::from_json(good.dump(), "x");
        CAPTURE(object->dump());
        REQUIRE_FALSE(result);
        CHECK(result.error().why.find("\"" + key + "\" is not known here") != std::string::npos);
        if (object->size() > 1) CHECK(result.error().why.find("the nearest is") != std::string::npos);
        object->erase(key);
    }
    CHECK(file::from_json(good.dump(), "x"));
    // Levenshtein's distances, counted by hand.
    const std::vector<std::string_view> known{"clearance", "counterbored", "length"};
    CHECK(nearest("clerance", known) == "clearance");
    CHECK(nearest("counterbore", known) == "counterbored");
    CHECK(nearest("lenght", known) == "length");
}

TEST_CASE("a hole that only looks like a joint's does not stop the joint", "[file][joint]") {
    // Its id is the one that the joint would give, but it is nobody's: the joint finds another id.
    Project p = screwed();
    Part& plate = p.parts.front();
    erase_if(plate.features, [](const Feature& f) { return f.owner && f.owner->place == 0; });
    plate.features.push_back(
        {.id = {"screws.2.1"}, .name = "Drilled by hand", .shape = Hole{.diameter_mm = 3}});
    p = must(file::from_json(file::to_json(p), "x"));
    const Project after = must(edit::rename_part(p, {"plate"}, "Sole plate"));
    const Part& changed = after.parts.front();
    CHECK(std::get<Hole>(find(changed, FeatureId{"screws.2.1"})->shape).diameter_mm == 3);
    const Feature* own = owned_feature(changed, {"screws"}, 1, 0);
    REQUIRE(own);
    CHECK(own->id.text == "screws.2.1+");
    CHECK_FALSE(first_defect(after));
    // Two holes cannot both be the joint's only one.
    Project twice = screwed();
    twice.parts.front().features.push_back(*owned_feature(twice.parts.front(), {"screws"}, 1, 0));
    twice.parts.front().features.back().id = {"copy"};
    CHECK(first_defect(twice)->why.find("another feature is the same hole") != std::string::npos);
}

TEST_CASE("dimensions go with the holes they led to", "[file][edit]") {
    Project p = screwed();
    p = must(edit::add_dimension(p, {"plate"}, "To the hole", {"left"}, {"screws.2.2"}, Vector3::UnitX(), 0.1,
                                 -0.1));
    REQUIRE(p.parts.front().dimensions.size() == 1);
    CHECK(must(edit::set_places(p, {"screws"}, {{0, -24}})).parts.front().dimensions.empty());
    CHECK(must(edit::remove_joint(p, {"screws"})).parts.front().dimensions.empty());
}

TEST_CASE("an edit cannot make what a file may not hold", "[file][edit]") {
    const Project p = screwed();
    CHECK_FALSE(edit::set_places(p, {"screws"}, {{2e6, 0}, {0, 0}}));
    CHECK_FALSE(edit::add_dimension(p, {"plate"}, "d", {"left"}, {"right"}, Vector3::UnitX(), 2e6, 0));
    CHECK_FALSE(edit::set_body(p, {"plate"}, Block{160, 90, 1e-7}));
    CHECK_FALSE(edit::set_body(p, {"plate"}, Block{160, 90, 2e6}));
}

TEST_CASE("saving keeps links, rights and long names, and sweeps what the dead left", "[file]") {
    const Scratch scratch;
    const auto file_in = [&](const char* name) { return scratch.path / name; };
    const auto text_of = [](const fs::path& path) { return must(file::read_text(path)); };
    // A link stays a link, and its target gets the text; so does one that led nowhere yet.
    fs::create_directory(file_in("folder"));
    REQUIRE(file::write_text_atomically(file_in("folder") / "real", "old"));
    fs::create_symlink("folder/real", file_in("link"));
    fs::create_symlink(file_in("link"), file_in("link to link"));
    REQUIRE(file::write_text_atomically(file_in("link to link"), "new"));
    CHECK(fs::is_symlink(file_in("link to link")));
    CHECK(fs::is_symlink(file_in("link")));
    CHECK(text_of(file_in("folder") / "real") == "new");
    fs::create_symlink("fresh", file_in("dangling"));
    REQUIRE(file::write_text_atomically(file_in("dangling"), "there"));
    CHECK(fs::is_symlink(file_in("dangling")));
    CHECK(text_of(file_in("fresh")) == "there");
    fs::create_symlink("round", file_in("round"));
    CHECK_FALSE(file::write_text_atomically(file_in("round"), "x"));
    // A read-only file is refused, not replaced; permissions stay, odd ones too.
    fs::permissions(file_in("fresh"), fs::perms::owner_read | fs::perms::group_read);
    const auto refused = file::write_text_atomically(file_in("fresh"), "x");
    REQUIRE_FALSE(refused);
    CHECK(refused.error().why.find("read-only") != std::string::npos);
    CHECK(text_of(file_in("fresh")) == "there");
    const auto odd =
        fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_write | fs::perms::others_exec;
    fs::permissions(file_in("fresh"), odd);
    REQUIRE(file::write_text_atomically(file_in("fresh"), "x"));
    CHECK(fs::status(file_in("fresh")).permissions() == odd);
    if (::geteuid() == 0) { // only root can give a file away
        REQUIRE(::chown(file_in("fresh").c_str(), 12345, 54321) == 0);
        REQUIRE(file::write_text_atomically(file_in("fresh"), "y"));
        struct stat status {};
        REQUIRE(::stat(file_in("fresh").c_str(), &status) == 0);
        CHECK((status.st_uid == 12345 && status.st_gid == 54321));
        CHECK(fs::status(file_in("fresh")).permissions() == odd);
    }
    // The longest name the system takes, and one letter more.
    REQUIRE(file::write_text_atomically(scratch.path / std::string(255, 'n'), "long"));
    CHECK(text_of(scratch.path / std::string(255, 'n')) == "long");
    CHECK_FALSE(file::write_text_atomically(scratch.path / std::string(256, 'n'), "long"));
    // What a dead process left is swept, what a living one writes stays, and so does a file that only looks
    // alike.
    const pid_t dead = ::fork();
    if (dead == 0) ::_exit(0);
    ::waitpid(dead, nullptr, 0);
    const fs::path left = file_in((".kollema-" + std::to_string(dead) + ".part").c_str()),
                   alive = file_in((".kollema-" + std::to_string(::getppid()) + ".part").c_str()),
                   notes = file_in(".kollema-notes.part");
    for (const auto& path : {left, alive, notes})
        std::ofstream(path) << "half";
    REQUIRE(file::write_text_atomically(file_in("any"), "z"));
    CHECK_FALSE(fs::exists(left));
    CHECK(fs::exists(alive));
    CHECK(fs::exists(notes));
    CHECK_FALSE(file::write_text_atomically("/dev/full", "x"));
}

TEST_CASE("only regular files are read, and never more than the cap", "[file]") {
    const Scratch scratch;
    CHECK(file::read_text("/dev/zero").error().why.find("device") != std::string::npos);
    REQUIRE(::mkfifo((scratch.path / "pipe").c_str(), 0600) == 0);
    CHECK(file::read_text(scratch.path / "pipe").error().why.find("pipe") != std::string::npos);
    std::ofstream(scratch.path / "ten") << "0123456789";
    CHECK(must(file::read_text(scratch.path / "ten", 10)) == "0123456789");
    CHECK(file::read_text(scratch.path / "ten", 9).error().why.find("larger") != std::string::npos);
    fs::resize_file(scratch.path / "ten", file::most_bytes_of_a_file + 1); // sparse: it takes no room
    CHECK_FALSE(file::load(scratch.path / "ten"));
    CHECK(file::from_json(std::string(100'000, '[') + std::string(100'000, ']'), "x")
              .error()
              .why.find("nests") != std::string::npos);
    CHECK(file::from_json("{\"a\": \"" + std::string(1000, '[') + "\"}", "x").error().why.find("nests") ==
          std::string::npos); // brackets in a text are no nesting
    CHECK(file::from_json("{\"a\": \"\\\"" + std::string(1000, '[') + "\"}", "x").error().why.find("nests") ==
          std::string::npos); // nor behind a quote within the text
}
