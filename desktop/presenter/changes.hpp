#pragma once
#include "presenter/results.hpp"
#include <QStringList>

namespace kollema::desktop {

/// What an edit changes elsewhere: holes that follow, lengths, findings that come and go, yields.  In the
/// order of what matters; a line each.
QStringList changes_between(const Results& before, const Results& after, LengthUnit unit);

}
