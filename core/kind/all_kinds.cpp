#include "kind/all_kinds.hpp"
#include "quantity/nearest.hpp"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace kollema::kind {
namespace {

template <class... K>
std::vector<AnyKind> one_of_each(const std::variant<K...>*) {
    static_assert((Kind<K> && ...), "what is listed in all_kinds.hpp must be a joint kind");
    return {AnyKind(K{})...};
}

template <class K>
const Field<K>* field_named(const K&, std::string_view key) {
    const std::span<const Field<K>> all = K::fields();
    const auto found = std::ranges::find(all, key, &Field<K>::key);
    return found == all.end() ? nullptr : &*found;
}

/// A whole number of thirty-seconds of an inch; no metric size below 63.5 mm is.
bool is_inch_size(double mm) {
    const double parts = mm / mm_per_inch * 32;
    return std::abs(parts - std::round(parts)) < 1e-6;
}

/// How bad things are by a rule: the worst severity, then how far its figure is from what is wanted.
std::pair<int, double> badness(const Needs& needs, std::string_view rule) {
    std::pair<int, double> worst{-1, 0};
    for (const auto& need : needs)
        if (need.rule == rule)
            worst = std::max(worst, {static_cast<int>(need.severity), std::abs(need.is - need.wanted)});
    return worst;
}

int worst_severity(const Needs& needs) {
    int worst = -1;
    for (const auto& need : needs)
        worst = std::max(worst, static_cast<int>(need.severity));
    return worst;
}

/// What the kind asks for when the joint has written its holes anew; nothing where it cannot be made.
std::optional<Needs> needs_as_designed(const AnyKind& kind, const Site& site) {
    const auto made = design(kind, site);
    if (!made) return std::nullopt;
    AsMade holes;
    for (const auto& shape : made->shapes)
        holes.shapes.emplace_back(site.places, shape.shape);
    return std::visit([&](const auto& k) { return k.needs(site, *made, holes); }, kind.one());
}

/// The seat with another diameter or zone; false where there is no such zone.
bool sets(AxisSeat& seat, const SetSize& change) {
    switch (change.of) {
    case SetSize::Of::diameter:
        seat.diameter_mm = std::get<double>(change.value);
        break;
    case SetSize::Of::zone:
        seat.tolerance = {.zone = std::get<std::string>(change.value)};
        break;
    case SetSize::Of::length:
        seat.length_mm = std::get<double>(change.value);
        break;
    case SetSize::Of::fillet:
        for (auto* end : {&seat.near, &seat.far})
            if (end->fillet_mm > 0) end->fillet_mm = std::get<double>(change.value);
        break;
    }
    const auto limits = fit::size_limits(seat.diameter_mm, seat.tolerance);
    if (limits) seat.limits = *limits;
    return limits.has_value();
}

/// True where a remedy can be made, betters what it is offered for, and brings nothing worse than there is.
bool helps(AnyKind kind, Site site, const Needs& before, const std::string& rule, const Remedy& remedy) {
    for (const auto& change : remedy.changes) {
        if (const auto* set = std::get_if<SetParameter>(&change)) {
            auto changed = with_parameter(kind, set->key, set->value);
            if (!changed) return false;
            kind = std::move(*changed);
        }
        if (const auto* set = std::get_if<SetThickness>(&change))
            site.members[set->member].thickness_mm = set->thickness_mm;
        if (const auto* set = std::get_if<SetSize>(&change);
            set && !sets(site.members[set->member].axis, *set))
            return false;
    }
    const auto after = needs_as_designed(kind, site);
    return after && badness(*after, rule) < badness(before, rule) &&
           worst_severity(*after) <= worst_severity(before);
}

Failure refused(std::string what, std::string why, std::string remedy) {
    return {.what = std::move(what),
            .why = std::move(why),
            .remedy = std::move(remedy),
            .kind = FailureKind::argument};
}

}

AnyKind::AnyKind() = default;
AnyKind::AnyKind(const AnyKind&) = default;
AnyKind::AnyKind(AnyKind&&) noexcept = default;
AnyKind& AnyKind::operator=(const AnyKind&) = default;
AnyKind& AnyKind::operator=(AnyKind&&) noexcept = default;
AnyKind::~AnyKind() = default;
bool AnyKind::operator==(const AnyKind& other) const { return one_ == other.one_; }

const std::vector<AnyKind>& all_kinds() {
    static const std::vector<AnyKind> all = one_of_each(static_cast<const OneOfAll*>(nullptr));
    return all;
}

Result<AnyKind> kind_named(std::string_view key) {
    std::vector<std::string_view> known;
    for (const auto& kind : all_kinds()) {
        if (info(kind).key == key) return kind;
        known.push_back(info(kind).key);
    }
    return fail({.what = fmt::format("\"{}\"", key),
                 .why = fmt::format("no joint is of this kind; the nearest is \"{}\"", nearest(key, known)),
                 .remedy = fmt::format("Use one of {}", fmt::join(known, ", ")),
                 .kind = FailureKind::file});
}

Info info(const AnyKind& kind) {
    return std::visit([](const auto& k) { return k.info(); }, kind.one());
}

std::vector<Parameter> parameters(const AnyKind& kind) {
    return std::visit(
        [](const auto& k) {
            std::vector<Parameter> all;
            for (const auto& field : k.fields())
                all.push_back(parameter_of(field, k));
            return all;
        },
        kind.one());
}

bool set_unchecked(AnyKind& kind, std::string_view key, const Value& value) {
    return std::visit(
        [&](auto& k) {
            const auto* field = field_named(k, key);
            return field && set_value(*field, k, value);
        },
        kind.one());
}

Result<AnyKind> with_parameter(AnyKind kind, std::string_view key, const Value& value) {
    const auto all = parameters(kind);
    const auto parameter = std::ranges::find(all, key, &Parameter::key);
    if (parameter == all.end())
        return tl::unexpected(refused(std::string(key),
                                      fmt::format("{} have no such figure", info(kind).title),
                                      "Choose one of the figures shown"));
    if (!set_unchecked(kind, key, snapped(*parameter, value)))
        return tl::unexpected(refused(parameter->title, "this is not the kind of value it takes",
                                      "Give a value like the one that stands there"));
    const auto after = parameters(kind);
    if (auto defect = defect_of(*std::ranges::find(after, key, &Parameter::key), ""))
        return tl::unexpected(*defect);
    std::visit([&](auto& k) { k.follow(key); }, kind.one());
    return kind;
}

std::optional<Failure> defect_of(const AnyKind& kind) {
    for (const auto& parameter : parameters(kind))
        if (auto defect = kollema::defect_of(parameter, "")) return defect;
    return std::visit([](const auto& k) { return k.defect(); }, kind.one());
}

AnyKind suited(AnyKind kind, std::string_view what_it_must_do) {
    std::visit(
        [&](auto& k) {
            if constexpr (requires { k.suit(what_it_must_do); }) k.suit(what_it_must_do);
        },
        kind.one());
    return kind;
}

bool fits(const AnyKind& kind, const std::vector<Seat>& seats) {
    const Info about = info(kind);
    return seats.size() >= about.least_members && seats.size() <= about.most_members &&
           takes_hold_of(kind, seats);
}

bool takes_hold_of(const AnyKind& kind, const std::vector<Seat>& seats) {
    const Info about = info(kind);
    for (std::size_t m = 0; m < seats.size(); ++m) {
        const auto& allowed = about.seats[std::min(m, about.seats.size() - 1)];
        if (std::ranges::find(allowed, seats[m]) == allowed.end()) return false;
    }
    return true;
}

bool says_where_seats_stand(const AnyKind& kind) {
    return std::visit(
        [](const auto& k) {
            return requires(const Site& site) { k.stands_mm(site); };
        },
        kind.one());
}

std::vector<double> stands_mm(const AnyKind& kind, const Site& site) {
    return std::visit(
        [&](const auto& k) {
            if constexpr (requires { k.stands_mm(site); }) {
                return k.stands_mm(site);
            } else {
                std::vector<double> all;
                for (std::size_t m = 0; m < site.members.size(); ++m)
                    all.push_back(site.thickness_mm(0, m));
                return all;
            }
        },
        kind.one());
}

Result<Design> design(const AnyKind& kind, const Site& site) {
    const Info about = info(kind);
    if (site.members.size() < about.least_members || site.members.size() > about.most_members)
        return fail({.what = site.joint,
                     .why = fmt::format("{} join {} to {} members, here are {}", about.title,
                                        about.least_members, about.most_members, site.members.size()),
                     .remedy = "Choose another kind of joint, or other members"});
    return std::visit([&](const auto& k) { return k.design(site); }, kind.one());
}

Needs needs(const AnyKind& kind, const Site& site, const Design& design, const AsMade& as_made) {
    Needs all = std::visit([&](const auto& k) { return k.needs(site, design, as_made); }, kind.one());
    const Needs before = all;
    for (auto& need : all) {
        std::erase_if(need.remedies,
                      [&](const Remedy& remedy) { return !helps(kind, site, before, need.rule, remedy); });
        const auto say = [&](Phrase& phrase) {
            phrase.words.emplace("joint", site.joint);
            phrase.words.emplace("part", site.members[need.member].name);
            phrase.words.emplace("place", std::to_string(need.place.value_or(0) + 1));
            phrase.words.emplace("is", Quantity{need.is, need.unit});
            phrase.words.emplace("wanted", Quantity{need.wanted, need.unit});
        };
        say(need.message);
        say(need.because);
        for (auto& remedy : need.remedies)
            say(remedy.text);
    }
    return all;
}

std::optional<AnyKind> locator_as_thick_as(double shank_mm, bool inch) {
    for (const auto& kind : all_kinds()) {
        const Info about = info(kind);
        if (!about.locates) continue;
        std::optional<double> size;
        for (const auto& parameter : parameters(kind))
            if (parameter.key == about.size_parameter)
                for (const auto& choice : parameter.domain.choices)
                    if (const double d = std::get<double>(choice);
                        is_inch_size(d) == inch && (!size || *size < shank_mm))
                        size = d;
        if (!size) continue;
        if (auto sized = with_parameter(kind, about.size_parameter, *size)) return *sized;
    }
    return std::nullopt;
}

}
