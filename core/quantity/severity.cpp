#include "quantity/severity.hpp"
#include <string>

namespace kollema {

std::string_view name(Severity severity) {
    switch (severity) {
    case Severity::error:
        return "error";
    case Severity::warning:
        return "warning";
    case Severity::note:
        break;
    }
    return "note";
}

Result<Severity> parse_severity(std::string_view text) {
    for (const auto s : {Severity::note, Severity::warning, Severity::error})
        if (text == name(s)) return s;
    return fail({.what = "\"" + std::string(text) + "\"",
                 .why = "this is not a severity",
                 .remedy = "Use note, warning or error",
                 .kind = FailureKind::argument});
}

}
