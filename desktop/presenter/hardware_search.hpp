#pragma once
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include "quantity/working.hpp"
#include "standards/catalogue.hpp"
#include "standards/workshop.hpp"
#include <QSet>
#include <QStringList>

namespace kollema::desktop {

/// What is looked for in the catalogue.
struct HardwareQuery {
    QString words; ///< names, standards, groups and a size: "M8 nut lock"
    QString duty;  ///< "clamp", "locate", …; empty: any
    bool inch = false, metric = true;
    bool only_stocked = false, only_favourites = false;
};

/// A standard that answers, and the size that the words named, if any.
struct HardwareHit {
    const standards::HardwareKind* kind = nullptr;
    std::string size; ///< empty where no size was named
    bool stocked = false, favourite = false;
};

/// Hits in the catalogue's order, those on the shelf first, then favourites.
std::vector<HardwareHit> search(const HardwareQuery& query, const Workshop& workshop,
                                const QSet<QString>& favourites);

/// The verbs of the catalogue with their meaning for the choice "It must …".
std::vector<std::pair<QString, QString>> duties();

/// The meaning of a letter symbol in a standard's drawing.
QString meaning_of(const std::string& symbol, const std::string& shape);

/// What a screw of this size asks of its surroundings: holes, tap drill, tightening, engagement, run-outs; as
/// lines "name", "figure".  Empty for what is no screw.
struct Companion {
    QString name, figure, source;
};
std::vector<Companion> companions(const standards::HardwareItem& item, const std::string& grade,
                                  double friction, const std::string& material, LengthUnit unit,
                                  QString* caution, Working* working);

}
