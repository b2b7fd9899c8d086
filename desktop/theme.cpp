#include "theme.hpp"
#include <QApplication>
#include <QEvent>
#include <QFontDatabase>
#include <QMainWindow>
#include <QPalette>
#include <QStyleFactory>

// The resources stand in a static library, from which a linker takes only what is asked for.
static void init_resources() { Q_INIT_RESOURCE(resources); }

namespace kollema::desktop {
namespace {

const Theme light{.paper = "#efece4",
                  .sheet = "#fbfaf6",
                  .ink = "#1d2a2f",
                  .faint = "#5d6a6c",
                  .line = "#c9c4b6",
                  .accent = "#2d5d54",
                  .accent_ink = "#ffffff",
                  .error = "#a3261f",
                  .warning = "#8a5a00",
                  .good = "#2c6b3f",
                  .note = "#3a5f86",
                  .hardware = "#d5dadc",
                  .selection = "#dce8e2",
                  .tints = {"#e3ead9", "#ecdfd0", "#d8e3ea", "#e7dcea"}};
const Theme dark{.paper = "#1b2326",
                 .sheet = "#222c30",
                 .ink = "#e8e6de",
                 .faint = "#a3aeae",
                 .line = "#3d4a4f",
                 .accent = "#7fc0ae",
                 .accent_ink = "#10201c",
                 .error = "#ff8f85",
                 .warning = "#f0bd5c",
                 .good = "#86cf98",
                 .note = "#93bce6",
                 .hardware = "#5b686d",
                 .selection = "#2f4640",
                 .tints = {"#33402f", "#453b2f", "#2d3d47", "#3f3545"},
                 .dark = true};

// The look is one for the whole process, as a QApplication's palette is.
const Theme* current = &light; // NOLINT

QString style_sheet(const Theme& t) {
    QString sheet = R"(
        QDialog { background: @paper; }
        QMenuBar, QMenuBar::item { background: @paper; padding: 3px 8px; }
        QMenuBar::item:selected, QMenu::item:selected { background: @selection; }
        QMenu { background: @sheet; border: 1px solid @line; padding: 4px; }
        QMenu::item { padding: 4px 26px 4px 16px; }
        QMenu::item:disabled { color: @faint; }
        QFrame#panel { background: @sheet; border: 1px solid @line; border-radius: 3px; }
        QLabel#heading { font-weight: bold; color: @accent; }
        QLabel#faint { color: @faint; }
        QLabel#big, QLabel[big="true"] { font-size: 17pt; font-weight: bold; }
        QLabel#refusal { background: @error; color: @sheet; padding: 4px 8px; }
        QLabel#consequences, QLabel#preview_text { background: @selection; color: @ink; padding: 4px 8px; }
        QFrame#card { background: @sheet; border: 1px solid @line; border-left: 4px solid @line; }
        QFrame#card[severity="error"] { border-left-color: @error; }
        QFrame#card[severity="warning"] { border-left-color: @warning; }
        QFrame#card[severity="note"] { border-left-color: @note; }
        QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
        QPushButton, QToolButton { background: @paper; border: 1px solid @line; border-radius: 3px; padding: 3px 9px; }
        QPushButton:hover, QToolButton:hover { border-color: @accent; }
        QPushButton:focus, QToolButton:focus, QComboBox:focus, QLineEdit:focus, QCheckBox:focus { border: 2px solid @accent; }
        QPushButton#primary { background: @accent; color: @accent_ink; border-color: @accent; }
        QPushButton:disabled, QToolButton:disabled, QComboBox:disabled, QLineEdit:disabled { color: @faint; background: @paper; }
        QToolButton:checked { background: @accent; color: @accent_ink; }
        QLineEdit, QComboBox, QListWidget, QTableWidget, QDoubleSpinBox { background: @sheet; border: 1px solid @line; border-radius: 2px; padding: 2px 4px;
            selection-background-color: @accent; selection-color: @accent_ink; }
        QComboBox QAbstractItemView { background: @sheet; selection-background-color: @selection; selection-color: @ink; }
        QTableWidget { gridline-color: @line; padding: 0; }
        QTableWidget::item:selected, QListWidget::item:selected { background: @selection; color: @ink; }
        QHeaderView::section { background: @paper; color: @faint; border: none; border-bottom: 1px solid @line; padding: 2px 4px; }
        QTableCornerButton::section { background: @paper; border: none; }
        QComboBox::drop-down { border: none; width: 18px; }
        QComboBox::down-arrow { image: url(:/arrow-@shade.svg); width: 9px; height: 6px; }
        QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
        QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 30px; }
        QScrollBar::handle:vertical:hover { background: @faint; }
        QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
        QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
        QSplitter::handle { background: @paper; }
        QToolTip { background: @sheet; color: @ink; border: 1px solid @accent; padding: 3px; }
        QStatusBar { background: @paper; color: @faint; }
    )";
    sheet.replace("@shade", t.dark ? "dark" : "light");
    const std::pair<const char*, QColor> names[] = {
        {"@paper", t.paper},   {"@sheet", t.sheet},        {"@ink", t.ink},
        {"@faint", t.faint},   {"@line", t.line},          {"@accent_ink", t.accent_ink},
        {"@accent", t.accent}, {"@error", t.error},        {"@warning", t.warning},
        {"@note", t.note},     {"@selection", t.selection}};
    for (const auto& [name, value] : names)
        sheet.replace(QLatin1String(name), value.name());
    return sheet;
}

constexpr const char *dressed = "dressed", *wardrobe_name = "wardrobe";

/// Puts the style sheet on what wears one: at once where it is seen, else when it is shown.
class Wardrobe : public QObject {
public:
    explicit Wardrobe(QApplication& application) : QObject(&application) {
        setObjectName(wardrobe_name);
        application.installEventFilter(this);
    }

    void show_in(const QString& sheet) {
        sheet_ = sheet;
        for (auto* widget : QApplication::allWidgets())
            if (widget->isVisible() && wears_one(*widget)) put_on(*widget);
    }

    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Polish || event->type() == QEvent::Show)
            if (auto* widget = qobject_cast<QWidget*>(watched); widget && wears_one(*widget)) put_on(*widget);
        return QObject::eventFilter(watched, event);
    }

private:
    static bool wears_one(const QWidget& widget) {
        if (widget.property(dressed).toBool()) return true;
        if (!widget.isWindow() || qobject_cast<const QMainWindow*>(&widget)) return false;
        for (const auto* above = widget.parentWidget(); above; above = above->parentWidget())
            if (above->property(dressed).toBool() ||
                (above->isWindow() && !qobject_cast<const QMainWindow*>(above)))
                return false; // a menu or a list that drops down: it takes its parent's
        return true;
    }
    void put_on(QWidget& widget) const {
        if (widget.styleSheet() != sheet_) widget.setStyleSheet(sheet_);
    }

    QString sheet_;
};

}

const Theme& theme() { return *current; }

QColor colour(Severity severity) {
    switch (severity) {
    case Severity::error:
        return theme().error;
    case Severity::warning:
        return theme().warning;
    case Severity::note:
        break;
    }
    return theme().note;
}

void load_resources() {
    init_resources();
    for (const auto* file : {":/fonts/regular.otf", ":/fonts/bold.otf"})
        QFontDatabase::addApplicationFont(file);
    QApplication::setFont(QFont("B612", 9));
}

void dress(QWidget& part) { part.setProperty(dressed, true); }

void apply_theme(QApplication& application, bool use_dark) {
    current = use_dark ? &dark : &light;
    const Theme& t = *current;
    auto* wardrobe = static_cast<Wardrobe*>(application.findChild<QObject*>(wardrobe_name));
    if (!wardrobe) {
        application.setStyle(QStyleFactory::create("Fusion"));
        wardrobe = new Wardrobe(application);
    }
    QPalette palette;
    palette.setColor(QPalette::Window, t.paper);
    palette.setColor(QPalette::Base, t.sheet);
    palette.setColor(QPalette::AlternateBase, t.paper);
    palette.setColor(QPalette::Button, t.paper);
    for (const auto role :
         {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        palette.setColor(role, t.ink);
    palette.setColor(QPalette::PlaceholderText, t.faint);
    palette.setColor(QPalette::Highlight, t.accent);
    palette.setColor(QPalette::HighlightedText, t.accent_ink);
    palette.setColor(QPalette::ToolTipBase, t.sheet);
    application.setPalette(palette);
    wardrobe->show_in(style_sheet(t));
}

}
