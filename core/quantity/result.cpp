#include "quantity/result.hpp"
#include "quantity/printable.hpp"

namespace kollema {

std::string in_one_line(const Failure& failure) {
    std::string line = failure.what + ": " + failure.why + ". " + failure.remedy;
    for (char& c : line)
        if (c == '\n' || c == '\r') c = ' ';
    return printable(line);
}

}
