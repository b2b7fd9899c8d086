#pragma once
#include "contact/contact.hpp"

namespace kollema::contact {

/// Bodies whose motions depend on each other.  Cut the graph of bodies and contacts at every body that alone
/// connects two halves: within a block each body's motion is counted from the block's root, and blocks do not
/// see each other, so that an assembly costs as much as its blocks do.
struct Block {
    std::size_t root = 0;
    std::vector<std::size_t> bodies;   ///< without the root
    std::vector<std::size_t> contacts; ///< in file order
};

struct Blocks {
    std::vector<Block> all; ///< those nearer the ground before those beyond
    struct Home {
        std::size_t block = none, position = 0;
    };
    std::vector<Home> home; ///< by body: the block in which it is not the root
    static constexpr std::size_t none = static_cast<std::size_t>(-1);
};
/// Contacts that stop nothing connect nothing.  A body that nothing connects to the ground is a block of its
/// own, counted from the ground; so is the first body of a group that hangs together.
Blocks blocks(const Mechanism& mechanism);

/// A body's ancestors by block: in each block on the way to the ground the body that carries it.
struct Carrier {
    std::size_t block = 0, body = 0;
};
std::vector<Carrier> way_to_ground(const Blocks& blocks, std::size_t body);

}
