#include "presenter/requirements.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include <QStringList>

namespace kollema::desktop {

QString words(Resting resting) { return qt(name(resting)); }

QString meaning(Resting resting) {
    switch (resting) {
    case Resting::chance:
        return "Fasteners rest anywhere their holes' clearance allows, any place as likely";
    case Resting::centred:
        return "Fasteners stand in the middle of their holes: what an assembler with a jig gets";
    case Resting::to_wider:
        return "Weight, a spring or a hand pushes the parts so that the gap is as wide as the clearances "
               "allow";
    case Resting::to_closer:
        break;
    }
    return "Weight, a spring or a hand pushes the parts so that the gap is as narrow as the clearances allow";
}

QString words(DecidedBy decider) {
    switch (decider) {
    case DecidedBy::automatic:
        return "automatic";
    case DecidedBy::worst_case:
        return "worst case";
    case DecidedBy::statistics:
        break;
    }
    return "statistics";
}

QString point_text(const Requirement& requirement, LengthUnit unit) {
    if (!requirement.at) return {};
    return qt(shown_length(requirement.at->x(), unit)) + " ; " + qt(shown_length(requirement.at->y(), unit));
}

Result<Requirement> with_point(Requirement requirement, const QString& text, LengthUnit unit) {
    if (text.trimmed().isEmpty()) {
        requirement.at.reset();
        return requirement;
    }
    const QStringList parts = text.split(';');
    if (parts.size() != 2)
        return fail(
            {.what = text.toStdString(),
             .why = "a place on the face is two lengths from its middle with a semicolon between them",
             .remedy = "Write for example 12.5 ; 0, or leave it empty for the ends of the faces",
             .kind = FailureKind::argument});
    Vector2 at;
    for (int i = 0; i < 2; ++i) {
        const auto mm = parse_length_mm(parts[i].trimmed().toStdString(), unit);
        if (!mm) return tl::unexpected(mm.error());
        at[i] = requirement.at ? as_shown_of((*requirement.at)[i], *mm) : *mm;
    }
    requirement.at = at;
    return requirement;
}

}
