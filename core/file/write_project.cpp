#include "file/project_file.hpp"
#include <nlohmann/json.hpp>

namespace kollema::file {
namespace {

using Json = nlohmann::ordered_json;

Json json(const Part& part);
Json json(const Feature& feature);
Json json(const Dimension& dimension);
Json json(const Instance& instance);
Json json(const Joint& joint);
Json json(const Member& member);
Json json(const Requirement& requirement);
Json json(const FitPair& pair);
Json json(const StockItem& item);
Json json(const standards::Process& process);
Json json(const Workshop& workshop);
Json json(const Vector2& v);

template <class T>
Json list(const std::vector<T>& items) {
    Json all = Json::array();
    for (const auto& item : items)
        all.push_back(json(item));
    return all;
}

Json json(const Vector2& v) { return {v.x(), v.y()}; }
Json json(const Vector3& v) { return {v.x(), v.y(), v.z()}; }
Json json(const Frame& f) { return {{"origin", json(f.origin)}, {"x", json(f.x)}, {"z", json(f.z)}}; }

Json json(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }

Json json(const SizeTolerance& t) {
    if (!t.zone.empty()) return {{"zone", t.zone}};
    return {{"plus", t.plus_mm}, {"minus", t.minus_mm}};
}

Json json(const Hole& hole) {
    Json j{
        {"diameter", hole.diameter_mm}, {"tolerance", json(hole.tolerance)}, {"depth", json(hole.depth_mm)}};
    if (hole.counterbore)
        j["counterbore"] = {{"diameter", hole.counterbore->diameter_mm},
                            {"depth", hole.counterbore->depth_mm}};
    if (hole.thread)
        j["thread"] = {{"name", hole.thread->name},
                       {"class", hole.thread->tolerance_class},
                       {"depth", json(hole.thread->depth_mm)}};
    return j;
}

Json json(const Feature& feature) {
    Json j{{"id", feature.id.text}, {"name", feature.name}, {"frame", json(feature.frame)}};
    if (const auto* hole = std::get_if<Hole>(&feature.shape))
        j["hole"] = json(*hole);
    else
        j["face"] = Json::object();
    if (feature.owner)
        j["owner"] = {{"joint", feature.owner->joint.text},
                      {"member", feature.owner->member},
                      {"place", feature.owner->place},
                      {"set_by_hand", feature.owner->set_by_hand}};
    return j;
}

Json json(const Dimension& d) {
    return {{"id", d.id.text},
            {"name", d.name},
            {"from", d.from.text},
            {"to", d.to.text},
            {"direction", json(d.direction)},
            {"plus", d.plus_mm},
            {"minus", d.minus_mm},
            {"distribution", name(d.distribution)},
            {"cpk", d.cpk}};
}

Json json(const Part& part) {
    const auto& block = std::get<Block>(part.body);
    return {
        {"id", part.id.text},
        {"name", part.name},
        {"material", part.material},
        {"process", part.process},
        {"body",
         {{"block", {{"length", block.length_mm}, {"width", block.width_mm}, {"height", block.height_mm}}}}},
        {"features", list(part.features)},
        {"dimensions", list(part.dimensions)}};
}

Json json(const Instance& instance) {
    return {{"id", instance.id.text}, {"part", instance.part.text}, {"grounded", instance.grounded}};
}

Json json(const Member& member) {
    return {{"instance", member.instance.text},
            {"face", member.face.text},
            {"at", json(member.at)},
            {"turn_rad", member.turn_rad}};
}

Json json(const JointKind& kind) {
    if (const auto* s = std::get_if<CapScrewJoint>(&kind))
        return {{"cap_screw",
                 {{"thread", s->thread},
                  {"property_class", s->property_class},
                  {"clearance", standards::name(s->clearance)},
                  {"counterbored", s->counterbored},
                  {"washer", s->washer},
                  {"length", json(s->length_mm)}}}};
    const auto& d = std::get<DowelPinJoint>(kind);
    return {{"dowel_pin",
             {{"diameter", d.diameter_mm},
              {"press_zone", d.press_zone},
              {"slip_zone", d.slip_zone},
              {"press_in_first", d.press_in_first},
              {"length", json(d.length_mm)}}}};
}

Json json(const Joint& joint) {
    return {{"id", joint.id.text},
            {"name", joint.name},
            {"kind", json(joint.kind)},
            {"members", list(joint.members)},
            {"places", list(joint.places)}};
}

std::string_view decided_by(DecidedBy rule) {
    switch (rule) {
    case DecidedBy::worst_case:
        return "worst_case";
    case DecidedBy::statistics:
        return "statistics";
    case DecidedBy::automatic:
        break;
    }
    return "automatic";
}

Json json(const FeatureRef& ref) { return {{"instance", ref.instance.text}, {"feature", ref.feature.text}}; }

Json json(const Requirement& r) {
    return {{"id", r.id.text},
            {"name", r.name},
            {"from", json(r.from)},
            {"to", json(r.to)},
            {"lower", json(r.lower_mm)},
            {"upper", json(r.upper_mm)},
            {"decided_by", decided_by(r.decided_by)},
            {"yield_wanted", r.yield_wanted}};
}

Json json(const TolerancedLength& l) {
    return {{"nominal", l.nominal_mm}, {"plus", l.plus_mm}, {"minus", l.minus_mm}};
}

Json json(const FitPair& p) {
    Json j{{"id", p.id.text},
           {"name", p.name},
           {"size", p.nominal_mm},
           {"fit", p.fit},
           {"hub_material", p.hub_material},
           {"shaft_material", p.shaft_material},
           {"length", p.length_mm},
           {"reach", p.reach_mm},
           {"hub_outer", p.hub_outer_mm},
           {"shaft_bore", p.shaft_bore_mm},
           {"friction", p.friction},
           {"rz_hub", p.rz_hub_um},
           {"rz_shaft", p.rz_shaft_um},
           {"working_temperature", p.working_C},
           {"cpk", p.cpk},
           {"asked", p.asked_mm}};
    if (p.axial_room != TolerancedLength{} || p.axial_part != TolerancedLength{})
        j["axial"] = {{"room", json(p.axial_room)}, {"part", json(p.axial_part)}};
    if (!p.bearing.empty())
        j["bearing"] = {{"size", p.bearing},
                        {"seat_length", p.seat_length_mm},
                        {"shoulder", p.shoulder_mm},
                        {"fillet", p.fillet_mm},
                        {"chamfer", p.chamfer_mm}};
    return j;
}

Json json(const StockItem& item) {
    return {{"standard", item.standard}, {"size", item.size}, {"lengths", item.lengths_mm}};
}

Json json(const standards::Process& p) {
    return {{"id", p.id},
            {"title", p.title},
            {"class", std::string(1, p.tolerance_class)},
            {"finest_grade", p.finest_grade},
            {"usual_grade", p.usual_grade},
            {"least", json(p.least_mm)},
            {"roughness", p.roughness_um},
            {"cost", p.cost}};
}

Json json(const Workshop& workshop) {
    return {{"stock", list(workshop.stock)}, {"processes", list(workshop.processes)}};
}

}

std::string to_json(const Project& project) {
    Json j{{"schema", schema_name},
           {"version", schema_version},
           {"unit", "mm"},
           {"name", project.name},
           {"parts", list(project.parts)},
           {"instances", list(project.instances)},
           {"joints", list(project.joints)},
           {"requirements", list(project.requirements)}};
    if (!project.pairs.empty()) j["pairs"] = list(project.pairs);
    if (project.workshop != Workshop{}) j["workshop"] = json(project.workshop);
    // A name may hold any bytes a file system or a paste brought along; they must not stop the saving.
    return j.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<void> save(const Project& project, const std::filesystem::path& path) {
    return write_text_atomically(path, to_json(project));
}

}
