#pragma once
#include "file/project_file.hpp"
#include <array>
#include <string_view>
#include <utility>

/// Internal to the folder: how a project stands in its file, said once for each struct.  The writer, the
/// reader and the schema visit the same lists.  a(key, member) is a required key; a.optional() one that is
/// missing where there is nothing to say; a.section() an object without a struct of its own; a.either() two
/// sets of keys of which one stands there, told apart by one key; a.alternative() a variant, each alternative
/// under its own key; a.one_of() a word for each value of an enumeration, a.one_of_unless() the same where
/// the usual one is left out.
namespace kollema::file {

/// A size: a number greater than zero.
struct Positive {
    double& value;
};

template <class E, std::size_t N>
using Words = std::array<std::pair<E, std::string_view>, N>;

inline constexpr Words<Distribution, 5> distributions{{{Distribution::normal, "normal"},
                                                       {Distribution::uniform, "uniform"},
                                                       {Distribution::triangular, "triangular"},
                                                       {Distribution::truncated, "truncated"},
                                                       {Distribution::fixed, "fixed"}}};
inline constexpr Words<DecidedBy, 3> deciders{{{DecidedBy::automatic, "automatic"},
                                               {DecidedBy::worst_case, "worst_case"},
                                               {DecidedBy::statistics, "statistics"}}};
inline constexpr Words<Resting, 4> restings{{{Resting::chance, "chance"},
                                             {Resting::centred, "centred"},
                                             {Resting::to_wider, "to_wider"},
                                             {Resting::to_closer, "to_closer"}}};
inline constexpr Words<LengthUnit, 2> length_units{{{LengthUnit::mm, "mm"}, {LengthUnit::inch, "in"}}};
inline constexpr Words<char, 4> tolerance_classes{{{'f', "f"}, {'m', "m"}, {'c', "c"}, {'v', "v"}}};

/// The key of each alternative of a variant, in its order.
template <std::size_t N>
using Keys = std::array<const char*, N>;
inline constexpr Keys<10> shapes{"face",   "midplane", "round", "hole", "groove",
                                 "keyway", "slot",     "flat",  "cone", "external_thread"};

template <class A>
void layout(A& a, Frame& f) {
    a("origin", f.origin);
    a("x", f.x);
    a("z", f.z);
}

template <class A>
void layout(A& a, SizeTolerance& t) {
    a.either(
        "zone", !t.zone.empty(), [&](A& b) { b("zone", t.zone); },
        [&](A& b) {
            b("plus", t.plus_mm);
            b("minus", t.minus_mm);
        });
}

template <class A>
void layout(A& a, Counterbore& c) {
    a("diameter", Positive{c.diameter_mm});
    a("depth", Positive{c.depth_mm});
}

template <class A>
void layout(A& a, Countersink& c) {
    a("diameter", Positive{c.diameter_mm});
    a("angle", Positive{c.angle_deg});
}

template <class A>
void layout(A& a, InternalThread& t) {
    a("name", t.name);
    a("class", t.tolerance_class);
    a("depth", t.depth_mm);
}

template <class A>
void layout(A& a, Hole& h) {
    a("diameter", Positive{h.diameter_mm});
    a("tolerance", h.tolerance);
    a("depth", h.depth_mm);
    a.optional("counterbore", h.counterbore);
    a.optional("countersink", h.countersink);
    a.optional("thread", h.thread);
}

// Faces, mid-planes and cylinders are what the body offers: only their id, name and frame stand there.
template <class A>
void layout(A&, PlaneFace&) {}
template <class A>
void layout(A&, MidPlane&) {}
template <class A>
void layout(A&, Round&) {}

template <class A>
void layout(A& a, Groove& g) {
    a("inside", g.inside);
    a("diameter", Positive{g.diameter_mm});
    a("tolerance", g.tolerance);
    a("width", Positive{g.width_mm});
    a("width_tolerance", g.width_tolerance);
    a("from_diameter", Positive{g.from_diameter_mm});
}
template <class A>
void layout(A& a, Keyway& k) {
    a("inside", k.inside);
    a("width", Positive{k.width_mm});
    a("tolerance", k.tolerance);
    a("depth", Positive{k.depth_mm});
    a("length", Positive{k.length_mm});
    a("diameter", Positive{k.diameter_mm});
    a("round_ends", k.round_ends);
}
template <class A>
void layout(A& a, Slot& s) {
    a("length", Positive{s.length_mm});
    a("width", Positive{s.width_mm});
    a("tolerance", s.tolerance);
    a("depth", Positive{s.depth_mm});
}
template <class A>
void layout(A& a, Flat& f) {
    a("height", Positive{f.height_mm});
    a("length", Positive{f.length_mm});
    a("diameter", Positive{f.diameter_mm});
}
template <class A>
void layout(A& a, Cone& c) {
    a("inside", c.inside);
    a("end_diameter", Positive{c.end_diameter_mm});
    a("diameter", Positive{c.diameter_mm});
    a("length", Positive{c.length_mm});
}
template <class A>
void layout(A& a, ExternalThread& t) {
    a("name", t.name);
    a("class", t.tolerance_class);
    a("length", Positive{t.length_mm});
    a("undercut", t.undercut_mm);
}

template <class A>
void layout(A& a, Anchor& o) {
    a("on", o.on);
    a("place", o.place);
}

template <class A>
void layout(A& a, Ownership& o) {
    a("joint", o.joint);
    a("member", o.member);
    a("place", o.place);
    a("set_by_hand", o.set_by_hand);
}

template <class A>
void layout(A& a, Feature& f) {
    a("id", f.id);
    a("name", f.name);
    a("frame", f.frame);
    a.alternative(f.shape, shapes);
    a.optional("owner", f.owner);
    a.optional("anchor", f.anchor);
}

template <class A>
void layout(A& a, Dimension& d) {
    a("id", d.id);
    a("name", d.name);
    a("from", d.from);
    a("to", d.to);
    a("direction", d.direction);
    a("plus", d.plus_mm);
    a("minus", d.minus_mm);
    a.one_of("distribution", d.distribution, distributions);
    a("cpk", Positive{d.cpk});
}

template <class A>
void layout(A& a, Part& p) {
    a("id", p.id);
    a("name", p.name);
    a("material", p.material);
    a("process", p.process);
    a("body", p.body);
    a("features", p.features);
    a("dimensions", p.dimensions);
}

template <class A>
void layout(A& a, Instance& i) {
    a("id", i.id);
    a("part", i.part);
    a("grounded", i.grounded);
    a.unless_default("may_come_off", i.may_come_off);
}

template <class A>
void layout(A& a, Member& m) {
    a("instance", m.instance);
    a("face", m.face);
    a("at", m.at);
    a("turn_rad", m.turn_rad);
    a.unless_default("from_other_end", m.from_other_end);
}

template <class A>
void layout(A& a, Joint& j) {
    a("id", j.id);
    a("name", j.name);
    a("kind", j.kind);
    a("members", j.members);
    a("places", j.places);
}

template <class A>
void layout(A& a, FeatureRef& r) {
    a("instance", r.instance);
    a("feature", r.feature);
}

template <class A>
void layout(A& a, Requirement& r) {
    a("id", r.id);
    a("name", r.name);
    a("from", r.from);
    a("to", r.to);
    a("lower", r.lower_mm);
    a("upper", r.upper_mm);
    a.one_of("decided_by", r.decided_by, deciders);
    a("yield_wanted", r.yield_wanted);
    a.one_of_unless(Resting::chance, "resting", r.resting, restings);
    a.optional("at", r.at);
}

template <class A>
void layout(A& a, TolerancedLength& l) {
    a("nominal", l.nominal_mm);
    a("plus", l.plus_mm);
    a("minus", l.minus_mm);
}

template <class A>
void layout(A& a, FitPair& p) {
    a("id", p.id);
    a("name", p.name);
    a("size", Positive{p.nominal_mm});
    a("fit", p.fit);
    a("hub_material", p.hub_material);
    a("shaft_material", p.shaft_material);
    a("length", p.length_mm);
    a("reach", p.reach_mm);
    a("hub_outer", p.hub_outer_mm);
    a("shaft_bore", p.shaft_bore_mm);
    a("friction", p.friction);
    a("rz_hub", p.rz_hub_um);
    a("rz_shaft", p.rz_shaft_um);
    a("working_temperature", p.working_C);
    a("cpk", p.cpk);
    a("asked", p.asked_mm);
    const bool along = p.axial_room != TolerancedLength{} || p.axial_part != TolerancedLength{};
    a.section("axial", along, [&](A& b) {
        b("room", p.axial_room);
        b("part", p.axial_part);
    });
    a.section("bearing", !p.bearing.empty(), [&](A& b) {
        b("size", p.bearing);
        b("seat_length", p.seat_length_mm);
        b("shoulder", p.shoulder_mm);
        b("fillet", p.fillet_mm);
        b("chamfer", p.chamfer_mm);
    });
}

}

namespace kollema::stack {

template <class A>
void layout(A& a, TypedRow& r) {
    a("name", r.name);
    a("nominal", r.nominal);
    a("limits", r.limits);
    a.unless_default("sense", r.sense);
    a.unless_default("distribution", r.distribution);
    a.unless_default("cpk", r.cpk);
    a.unless_default("shift", r.shift);
    a.unless_default("made", r.made);
}

}

namespace kollema::pattern {

template <class A>
void layout(A& a, TypedMember& m) {
    a.unless_default("group", m.group);
    a.unless_default("name", m.name);
    a.unless_default("what", m.what);
    a.unless_default("size", m.size);
    a.unless_default("limits", m.limits);
    a.unless_default("position", m.position);
}

template <class A>
void layout(A& a, TypedHoles& h) {
    a.unless_default("group", h.group);
    a.unless_default("x", h.x);
    a.unless_default("y", h.y);
    a.unless_default("count", h.count);
    a.unless_default("circle", h.circle);
    a.unless_default("first", h.first);
}

}

namespace kollema::file {

inline constexpr Words<AtAssembly, 4> at_assembly{{{AtAssembly::nothing, "nothing"},
                                                   {AtAssembly::shims, "shims"},
                                                   {AtAssembly::matching, "matching"},
                                                   {AtAssembly::machining, "machining"}}};

template <class A>
void layout(A& a, Remedy& r) {
    a.one_of("what", r.what, at_assembly);
    a.unless_default("step", r.step_mm);
    a.unless_default("classes", r.classes);
    a.unless_default("first", r.first);
    a.unless_default("second", r.second);
    a.unless_default("half", r.half_mm);
}

template <class A>
void layout(A& a, TypedChain& c) {
    a("id", c.id);
    a("name", c.name);
    a.one_of_unless(LengthUnit::mm, "unit", c.unit, length_units);
    a("rows", c.rows);
    a.unless_default("gap", c.gap);
    a.unless_default("closing", c.closing);
    a.unless_default("lower", c.lower);
    a.unless_default("upper", c.upper);
    a.one_of("decided_by", c.decided_by, deciders);
    a("yield_wanted", c.yield_wanted);
    a.unless_default("at_assembly", c.at_assembly);
    a.unless_default("measured_on", c.measured_on);
}

inline constexpr Words<bool, 2> located{{{true, "free"}, {false, "fixed"}}};
inline constexpr Words<pattern::Spread, 2> spreads{
    {{pattern::Spread::uniform, "uniform"}, {pattern::Spread::normal, "normal"}}};

template <class A>
void layout(A& a, TypedPattern& p) {
    a("id", p.id);
    a("name", p.name);
    a.one_of_unless(LengthUnit::mm, "unit", p.unit, length_units);
    a("members", p.typed.members);
    a("holes", p.typed.holes);
    a.one_of_unless(true, "located", p.typed.may_move, located);
    a.one_of_unless(pattern::Spread::uniform, "position_distribution", p.typed.positions, spreads);
    a.one_of_unless(pattern::Spread::uniform, "size_distribution", p.typed.sizes, spreads);
}

template <class A>
void layout(A& a, StockItem& s) {
    a("standard", s.standard);
    a("size", s.size);
    a("lengths", s.lengths_mm);
}

}

namespace kollema::standards {

template <class A>
void layout(A& a, Process& p) {
    a("id", p.id);
    a("title", p.title);
    a.one_of("class", p.tolerance_class, file::tolerance_classes);
    a("finest_grade", p.finest_grade);
    a("usual_grade", p.usual_grade);
    a("least", p.least_mm);
    a("roughness", file::Positive{p.roughness_um});
    a("cost", file::Positive{p.cost});
}

}

namespace kollema::file {

template <class A>
void layout(A& a, Workshop& w) {
    a("stock", w.stock);
    a("processes", w.processes);
}

template <class A>
void layout(A& a, Project& p) {
    a.constant("schema", schema_name);
    a.constant("version", schema_version);
    a.constant("unit", std::string_view("mm"));
    a("name", p.name);
    a("parts", p.parts);
    a("instances", p.instances);
    a("joints", p.joints);
    a("requirements", p.requirements);
    a.list_or_none("pairs", p.pairs);
    a.list_or_none("chains", p.chains);
    a.list_or_none("patterns", p.patterns);
    a.unless_default("workshop", p.workshop);
}

}
