#include "model/typed_pattern.hpp"

namespace kollema {

Result<pattern::ReadPattern> read(const TypedPattern& typed, const Workshop& workshop) {
    return pattern::read_typed(typed.typed, {.bare = typed.unit, .processes = processes_at_hand(workshop)});
}

}
