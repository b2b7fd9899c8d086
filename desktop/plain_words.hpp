#pragma once
#include <QObject>

namespace kollema::desktop {

/// Names come from files and are plain text everywhere: a label or a tip that nobody said otherwise of shows
/// letters, and never reads them as a page that may load pictures.  Watches the application's widgets.
class PlainWords : public QObject {
public:
    using QObject::QObject;
    bool eventFilter(QObject* watched, QEvent* event) override;
};

}
