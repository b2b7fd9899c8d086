#pragma once
#include "kind/design.hpp"
#include "kind/need.hpp"
#include "kind/site.hpp"
#include <concepts>
#include <span>

/// A kind of joint is one file: a small value whose members are its parameters, and pure functions of it.
namespace kollema::kind {

struct Info {
    std::string_view key;            ///< in files: "cap_screw"
    std::string_view title;          ///< "Cap screws into a thread"
    std::string_view purpose;        ///< what it must do: "clamps; comes off from one side"
    std::string_view size_parameter; ///< the one that a click on the fastener changes
    bool locates = false;            ///< else it only clamps
    std::size_t least_members = 2, most_members = 12;
    /// What each member may be, in order; the last counts for all that follow.
    std::vector<std::vector<Seat>> seats{{Seat::face}};
    std::vector<std::string_view> does{"clamp"}; ///< clamp, locate, turn, drive, retain, slide
    bool faces_meet = false; ///< the faces lie on each other: the first is taken hold of from within
};

template <class K>
concept Kind = std::regular<K> && requires(K k, const Site& site, const Design& design, const AsMade& made) {
    { K::info() } -> std::same_as<Info>;
    { K::fields() } -> std::convertible_to<std::span<const Field<K>>>;
    /// What no domain of a single parameter can say.
    { k.defect() } -> std::same_as<std::optional<Failure>>;
    /// After a parameter was changed: what belongs to it changes with it (an inch screw is sold in inch
    /// grades).
    { k.follow(std::string_view{}) } -> std::same_as<void>;
    { k.design(site) } -> std::same_as<Result<Design>>;
    { k.needs(site, design, made) } -> std::same_as<Needs>;
};

}
