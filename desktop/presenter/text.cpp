#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <cmath>
#include <fmt/format.h>

namespace kollema::desktop {

QString message(const Failure& failure) {
    return qt(failure.what + ": " + failure.why + ". " + failure.remedy + ".");
}

QString sign(Severity severity) {
    switch (severity) {
    case Severity::error:
        return QStringLiteral("✕");
    case Severity::warning:
        return QStringLiteral("▲");
    case Severity::note:
        break;
    }
    return QStringLiteral("●");
}

QString word(Severity severity) {
    switch (severity) {
    case Severity::error:
        return QStringLiteral("Error");
    case Severity::warning:
        return QStringLiteral("Warning");
    case Severity::note:
        break;
    }
    return QStringLiteral("Note");
}

QString sign(const stack::Verdict& verdict) { return verdict.met ? "✓" : verdict.undecided ? "?" : "✕"; }

QString percent(double share) {
    const double missing = 1 - share;
    int decimals = 2;
    constexpr double nothing = 5e-11; // not to be told from certainty with eight decimals
    for (double step = 1e-3; missing > nothing && missing < step && decimals < 8; step /= 10)
        ++decimals;
    return qt(fixed(100 * share, decimals)) + QStringLiteral(" %");
}

QString ppm(double share) {
    const double value = 1e6 * share;
    if (value == 0) return QStringLiteral("0");
    if (value < 0.01) return qt(fmt::format("{:.1e}", value));
    if (value < 100) return qt(plain(value, 2));
    QString digits = QString::number(std::llround(value));
    for (qsizetype at = digits.size() - 3; at > 0; at -= 3)
        digits.insert(at, QChar(0x2009)); // thin space
    return digits;
}

}
