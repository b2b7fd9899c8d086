#pragma once
#include <QDialog>
#include <QList>
#include <functional>

class QLineEdit;
class QListWidget;

namespace kollema::desktop {

/// A command as the finder lists it.  It is done by its key: what stood in a menu a moment ago may have been
/// made anew meanwhile.
struct Command {
    QString key, text, words, shortcut;
};

/// Type some letters of what is wanted: commands and joints whose words hold them, Enter does the first.
class CommandFinder : public QDialog {
    Q_OBJECT
public:
    /// `commands` tells those that can be done now, whenever it is asked; `run` does one of them, if it is
    /// still there.
    CommandFinder(std::function<QList<Command>()> commands, std::function<void(const QString&)> run,
                  QWidget* parent = nullptr);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter();
    void take();
    std::function<QList<Command>()> commands_;
    std::function<void(const QString&)> run_;
    QLineEdit* words_;
    QListWidget* list_;
};

}
