// The schema is held by another program: a validator of JSON Schema reads it and judges what we write.
#include "bench_parts.hpp"
#include "edit/bench_edits.hpp"
#include "one_of.hpp"
#include <nlohmann/json.hpp>
#include <random>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

using namespace kollema;
using namespace kollema::test;
using Json = nlohmann::json;

namespace {

class Judge {
public:
    Judge() {
        const Json text = Json::parse(file::json_schema());
        valijson::SchemaParser().populateSchema(valijson::adapters::NlohmannJsonAdapter(text), schema_);
    }
    bool accepts(const Json& document) {
        return valijson::Validator().validate(schema_, valijson::adapters::NlohmannJsonAdapter(document),
                                              nullptr);
    }

private:
    valijson::Schema schema_;
};

/// Projects such as a random user would make: any kinds with any parameters that their domains offer.
class RandomProjects {
public:
    explicit RandomProjects(unsigned seed) : random_(seed) {}

    Project next() {
        Project p;
        p.name = "Random " + std::to_string(below(1000));
        const int parts = 2 + below(4);
        for (int i = 0; i < parts; ++i)
            p = must(edit::add_part(p, "Part " + std::to_string(i),
                                    Block{size(), size(), coin() ? size() : 2 + below(30) / 4.0},
                                    pick(standards::materials()).id, pick(standards::processes()).id));
        p = must(edit::add_part(
            p, "Shaft", shape::TurnedPart{.steps = {{16, 30}, {20, size(), coin() ? "g6" : "", 1}, {30, 5}}},
            "s235", "turned"));
        p = must(edit::add_part(p, "Ring", shape::Disc{.diameter_mm = 47, .thickness_mm = 14, .bore_mm = 20},
                                "s235", "turned"));
        p = must(edit::add_part(p, "Any", pick(shape::all_bodies()), "s235", "milled"));
        for (int i = 0; i < 6; ++i)
            if (const auto joined = edit::add_joint(p, joint(p))) p = *joined;
        if (coin())
            if (const auto asked =
                    edit::add_requirement(p, {.name = "Gap",
                                              .from = face(p, 0),
                                              .to = face(p, 1),
                                              .lower_mm = coin() ? std::optional(0.1) : std::nullopt}))
                p = *asked;
        if (coin())
            if (const auto by_hand =
                    edit::set_hole(p, p.parts[0].id, hole(p),
                                   Hole{.diameter_mm = 7.5, .tolerance = {"", 0.2, -0.1}, .depth_mm = 12}))
                p = *by_hand;
        if (coin()) p = must(edit::stock(p, {"ISO 4762", "M6", {20, 25}}));
        p.parts[0].dimensions.push_back({.id = {"d"},
                                         .name = "d",
                                         .from = {"left"},
                                         .to = {"right"},
                                         .plus_mm = 0.1,
                                         .minus_mm = -0.2,
                                         .distribution = Distribution::uniform});
        return p;
    }

private:
    int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
    bool coin() { return below(2) == 0; }
    double size() { return 60 + below(4000) / 16.0; }
    template <class Items>
    typename Items::value_type pick(const Items& all) {
        return all[static_cast<std::size_t>(below(static_cast<int>(all.size())))];
    }
    FeatureRef face(const Project& p, std::size_t i) {
        return {p.instances[i].id, pick(p.parts[i].features).id};
    }
    FeatureId hole(const Project& p) {
        for (const auto& feature : p.parts[0].features)
            if (std::holds_alternative<Hole>(feature.shape)) return feature.id;
        return {};
    }
    Joint joint(const Project& p) {
        kind::AnyKind kind = pick(kind::all_kinds());
        for (const auto& parameter : kind::parameters(kind)) {
            Value value = coin() && !parameter.domain.choices.empty() ? pick(parameter.domain.choices)
                                                                      : parameter.value;
            if (parameter.type == ValueType::yes_no) value = coin();
            if (const auto changed = kind::with_parameter(kind, parameter.key, value)) kind = *changed;
        }
        Joint j{.name = "Joint", .kind = kind, .places = {{0, 0}, {below(20) / 4.0, 12}}};
        if (kind::info(kind).seats.back() != std::vector{kind::Seat::face}) { // along an axis
            const bool ring_first = kind::info(kind).seats.front().front() == kind::Seat::face;
            const Member shaft{{"shaft"}, {"step-2"}, {0, 0}, 0, coin()};
            const Member other = ring_first && coin() ? Member{p.instances[0].id, {"top"}}
                                                      : Member{{"ring"}, {ring_first ? "bore" : "front"}};
            j.members = ring_first ? std::vector{other, shaft} : std::vector{shaft, other};
            if (kind::info(kind).seats.front() == std::vector{kind::Seat::bore}) // of a key
                j.members = {{{"ring"}, {"bore"}}, shaft};
            if (kind::info(kind).seats.front() == std::vector{kind::Seat::middle})
                j.members = {{p.instances[0].id, {"mid-length"}}, {{"ring"}, {"middle"}, {1, 2}, 0, coin()}};
            j.places = {{0, 0}};
            return j;
        }
        for (const auto& instance : p.instances)
            if (p.parts.find(instance.part)->features.find({"top"}) && (j.members.size() < 2 || coin()))
                j.members.push_back({instance.id, {"top"}, {below(9) / 2.0, 1}, below(7) / 7.0});
        return j;
    }
    std::mt19937 random_;
};

}

TEST_CASE("what is written keeps the schema and reads as the same value, whatever the kinds and parameters",
          "[file][schema]") {
    Judge judge;
    RandomProjects projects(7);
    std::map<std::string, int> kinds;
    for (int i = 0; i < 150 / one_of; ++i) {
        const Project p = projects.next();
        const std::string text = file::to_json(p);
        CAPTURE(i);
        CHECK(judge.accepts(Json::parse(text)));
        CHECK(must(file::from_json(text, "random")) == p);
        for (const auto& joint : p.joints)
            ++kinds[std::string(kind::info(joint.kind).key)];
    }
    CHECK(kinds.size() == kind::all_kinds().size()); // every kind was met
    CHECK(judge.accepts(Json::parse(file::to_json(demo()))));
}

TEST_CASE("schema and reader refuse the same damage", "[file][schema]") {
    // Of random objects a key is taken away, doubled under another name, or given another type.  What the
    // schema refuses the reader refuses too; what it accepts may still be refused, for it knows no ids.
    Judge judge;
    RandomProjects projects(11);
    std::mt19937 random(3);
    int refused_by_both = 0, accepted_by_schema_only = 0;
    for (int i = 0; i < 60 / one_of; ++i) {
        const Json good = Json::parse(file::to_json(projects.next()));
        std::vector<Json::json_pointer> places;
        const Json flat = good.flatten();
        for (const auto& [path, value] : flat.items())
            places.emplace_back(path);
        for (int k = 0; k < 12; ++k) {
            Json bad = good;
            const auto& at = places[random() % places.size()];
            if (at.parent_pointer().empty()) continue;
            Json& owner = bad[at.parent_pointer()];
            if (!owner.is_object()) continue;
            switch (random() % 3) {
            case 0:
                owner.erase(at.back());
                break;
            case 1:
                owner["colour"] = 1;
                break;
            default:
                owner[at.back()] = Json::array({"x"});
            }
            const bool schema_accepts = judge.accepts(bad),
                       reader_accepts = file::from_json(bad.dump(), "bad").has_value();
            INFO(at.to_string() << " " << owner.dump());
            CHECK_FALSE((!schema_accepts && reader_accepts));
            refused_by_both += !schema_accepts && !reader_accepts;
            accepted_by_schema_only += schema_accepts && !reader_accepts;
        }
    }
    CHECK(refused_by_both > 200 / one_of);
    CHECK(accepted_by_schema_only < refused_by_both / 20);
}
