#pragma once
#include "assembly/placement.hpp"
#include "quantity/format.hpp"
#include "quantity/working.hpp"
#include <QString>
#include <QStringList>
#include <vector>

namespace kollema::desktop {

/// A figure of a joint as the strip under its section shows it.
struct Figure {
    enum class Kind { typed, choice, toggle, read_only };
    QString key; ///< the same as in the section's callouts; "thread", "thickness:<part>"
    QString label;
    Kind kind = Kind::typed;
    QString value;
    QStringList choices;
    QString meaning; ///< of the term, for the tooltip
};

/// "9.0 of 5.2 needed", "+4 to +12 µm", "23.6 mm"
QString value_of(const kind::Outcome& outcome, LengthUnit unit);

/// All figures of a joint; values in the unit shown.
std::vector<Figure> figures_of(const Project& project, const JointId& joint, LengthUnit unit);

/// What a typed or chosen value makes of the project.  Errors: anything the edit or the expression refuses.
Result<Project> with_figure(const Project& project, const JointId& joint, const QString& key,
                            const QString& value, LengthUnit unit);

/// The figure that a click on a section's callout changes: "grip" leads to a member's thickness.
QString figure_for_callout(const Project& project, const JointId& joint, const QString& callout);

/// The joint's working, step by step; empty where it cannot be designed.
Working working_of(const Project& project, const JointId& joint);

/// What the joint locates, clamps and leaves free, in a sentence.
QString holds_sentence(const Project& project, const assembly::Placement& placement, const JointId& joint,
                       LengthUnit unit);

/// The six freedoms one by one: what holds each, and with which float.
QStringList holds_lines(const Project& project, const assembly::Placement& placement, const JointId& joint,
                        LengthUnit unit);

/// How the joint is assembled, step by step, with cautions.
QStringList assembly_lines(const Project& project, const JointId& joint, LengthUnit unit);

/// "2 × M6×20 - 8.8"
QString hardware_line(const Project& project, const Joint& joint);
QString hardware_line(const Joint& joint, const Result<kind::Design>& design);

}
