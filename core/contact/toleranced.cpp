#include "contact/toleranced.hpp"

namespace kollema::contact {

std::string_view name(Rest rest) {
    switch (rest) {
    case Rest::chance:
        return "chance";
    case Rest::pushed:
        return "pushed";
    case Rest::centred:
        break;
    }
    return "centred";
}

std::size_t made_by(const std::vector<Behaviour>& all, std::size_t contact) {
    const auto& clearance = all[contact].clearance;
    return clearance && clearance->made_with ? *clearance->made_with : contact;
}

int usual_level(Type type) {
    return type == Type::seat || type == Type::line || type == Type::point || type == Type::ring ? 0 : 1;
}

}
