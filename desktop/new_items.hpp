#pragma once
#include "model/project.hpp"
#include "quantity/format.hpp"
#include <QString>
#include <functional>

class QWidget;

namespace kollema::desktop {

/// Takes the project that a dialog made, or tells why it could not be made; true when it was taken.
using TakeProject = std::function<bool(const QString& text, Result<Project> after)>;

/// Small dialogs that add something.  They stay open with a message when what was typed cannot be.
void ask_for_gap(QWidget* parent, const Project& project, LengthUnit unit, const TakeProject& take);

}
