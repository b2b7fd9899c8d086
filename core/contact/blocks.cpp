#include "contact/blocks.hpp"
#include <algorithm>

namespace kollema::contact {
namespace {

struct Edge {
    std::size_t to = 0, contact = 0;
};

/// Hopcroft & Tarjan's search for blocks (Comm. ACM 16 (1973)), with its own stack: chains may be long.
class Search {
public:
    Search(const Mechanism& mechanism, Blocks& blocks)
        : mechanism_(mechanism),
          blocks_(blocks),
          edges_(mechanism.bodies.size()),
          found_at_(mechanism.bodies.size(), 0),
          reaches_(mechanism.bodies.size(), 0) {
        for (std::size_t i = 0; i < mechanism.contacts.size(); ++i) {
            const auto& c = mechanism.contacts[i];
            if (c.type == Type::loose) continue;
            edges_[c.a].push_back({c.b, i});
            edges_[c.b].push_back({c.a, i});
        }
    }

    void run() {
        from(mechanism_.ground);
        for (std::size_t body = 0; body < edges_.size(); ++body) {
            if (found_at_[body] > 0) continue;
            add_block(mechanism_.ground, {body}, {});
            from(body);
        }
    }

private:
    struct Visit {
        std::size_t body, before;
        std::size_t next = 0; ///< edge to look at
    };

    void from(std::size_t start) {
        found_at_[start] = reaches_[start] = ++clock_;
        std::vector<Visit> way{{start, start}};
        while (!way.empty()) {
            Visit& at = way.back();
            if (at.next < edges_[at.body].size())
                follow(way, edges_[at.body][at.next++]);
            else {
                const Visit done = at;
                way.pop_back();
                if (!way.empty()) leave(way.back().body, done.body);
            }
        }
    }

    void follow(std::vector<Visit>& way, const Edge& edge) {
        const std::size_t here = way.back().body;
        if (found_at_[edge.to] == 0) {
            contacts_.push_back(edge.contact);
            bodies_.push_back(edge.to);
            marks_.push_back(contacts_.size() - 1);
            found_at_[edge.to] = reaches_[edge.to] = ++clock_;
            way.push_back({edge.to, here});
        } else if (found_at_[edge.to] < found_at_[here]) {
            contacts_.push_back(edge.contact); // back to one that is on the way; parallel contacts too
            reaches_[here] = std::min(reaches_[here], found_at_[edge.to]);
        }
    }

    /// `child` and all below it are done; what cannot reach above `here` is a block.
    void leave(std::size_t here, std::size_t child) {
        reaches_[here] = std::min(reaches_[here], reaches_[child]);
        if (reaches_[child] < found_at_[here]) return;
        const auto first = std::ranges::find(bodies_.rbegin(), bodies_.rend(), child);
        const auto count = static_cast<std::size_t>(first - bodies_.rbegin()) + 1;
        const std::size_t mark = marks_[bodies_.size() - count];
        std::vector<std::size_t> own(bodies_.end() - static_cast<std::ptrdiff_t>(count), bodies_.end());
        bodies_.resize(bodies_.size() - count);
        marks_.resize(bodies_.size());
        std::vector<std::size_t> contacts(contacts_.begin() + static_cast<std::ptrdiff_t>(mark),
                                          contacts_.end());
        contacts_.resize(mark);
        add_block(here, std::move(own), std::move(contacts));
    }

    void add_block(std::size_t root, std::vector<std::size_t> bodies, std::vector<std::size_t> contacts) {
        std::ranges::sort(contacts);
        contacts.erase(std::unique(contacts.begin(), contacts.end()), contacts.end());
        for (std::size_t i = 0; i < bodies.size(); ++i)
            blocks_.home[bodies[i]] = {blocks_.all.size(), i};
        blocks_.all.push_back({root, std::move(bodies), std::move(contacts)});
    }

    const Mechanism& mechanism_;
    Blocks& blocks_;
    std::vector<std::vector<Edge>> edges_;
    std::vector<std::size_t> found_at_, reaches_; ///< clock of discovery, from 1; earliest reached from below
    std::size_t clock_ = 0;
    std::vector<std::size_t> bodies_, marks_,
        contacts_; ///< not yet in a block; where a body's contacts begin
};

}

Blocks blocks(const Mechanism& mechanism) {
    Blocks all;
    if (mechanism.bodies.empty()) return all;
    all.home.resize(mechanism.bodies.size());
    Search(mechanism, all).run();
    // Blocks were found from the far ends inward.
    std::ranges::reverse(all.all);
    for (auto& home : all.home)
        if (home.block != Blocks::none) home.block = all.all.size() - 1 - home.block;
    return all;
}

std::vector<Carrier> way_to_ground(const Blocks& blocks, std::size_t body) {
    std::vector<Carrier> way;
    for (auto home = blocks.home[body]; home.block != Blocks::none; home = blocks.home[body]) {
        way.push_back({home.block, body});
        body = blocks.all[home.block].root;
    }
    return way;
}

}
