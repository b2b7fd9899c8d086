#pragma once
#include "check/finding.hpp"
#include "quantity/result.hpp"
#include "stack/verdict.hpp"
#include <QString>
#include <string>
#include <string_view>

namespace kollema::desktop {

inline QString qt(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

/// A name as a menu shows it: an "&" in it is a letter, no mark of a key.
inline QString menu_text(QString name) { return name.replace('&', "&&"); }

/// A failure for the message line: what and why, then what to do.
QString message(const Failure& failure);

/// The sign and the word of a severity: never colour alone.
QString sign(Severity severity);
QString word(Severity severity);

QString sign(const stack::Verdict& verdict);

/// A share as percent with as many decimals as its distance from 100 % needs: 94.59 %, 99.9987 %.
QString percent(double share);

/// Parts per million for people: 54 067, 1.2, 3e-5.
QString ppm(double share);

}
