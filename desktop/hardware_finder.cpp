#include "hardware_finder.hpp"
#include "panels.hpp"
#include "piece_view.hpp"
#include "presenter/text.hpp"
#include "quantity/expression.hpp"
#include "standards/hardware.hpp"
#include "standards/materials.hpp"
#include "theme.hpp"
#include "value_edit.hpp"
#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QSignalBlocker>
#include <QSplitter>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

namespace kollema::desktop {
namespace {

QTableWidget* quiet_table(const QStringList& columns, const QString& name) {
    auto* table = new QTableWidget(0, static_cast<int>(columns.size()));
    table->setHorizontalHeaderLabels(columns);
    table->setAccessibleName(name);
    table->verticalHeader()->hide();
    table->verticalHeader()->setDefaultSectionSize(21);
    table->setShowGrid(false);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->setSelectionMode(QAbstractItemView::SingleSelection);
    table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    return table;
}

QTableWidgetItem* cell(QTableWidget* table, int row, int column, const QString& text,
                       Qt::Alignment align = Qt::AlignLeft) {
    auto* item = new QTableWidgetItem(text);
    item->setTextAlignment(align | Qt::AlignVCenter);
    table->setItem(row, column, item);
    return item;
}

}

HardwareFinder::HardwareFinder(QWidget* parent)
    : QWidget(parent),
      words_(new QLineEdit),
      duty_(new QComboBox),
      system_(new QComboBox),
      sizes_(new QComboBox),
      length_(new QComboBox),
      grade_(new QComboBox),
      material_(new QComboBox),
      friction_(new ValueEdit),
      only_stocked_(new QCheckBox("on our shelf")),
      only_favourites_(new QCheckBox("favourites")),
      list_(quiet_table({"", "Standard", "Piece"}, "Standards found")),
      dimensions_(quiet_table({"Letter", "Nominal", "Least", "Most", "Meaning"}, "Dimensions")),
      lengths_(quiet_table({"Length", "Clamps", "Mass", "Shelf"}, "Standard lengths")),
      picture_(new PieceView),
      title_(new QLabel),
      facts_(new QLabel),
      companions_(new QLabel),
      caution_(new QLabel),
      stock_(new QPushButton),
      favourite_(new QPushButton),
      screw_row_(new QWidget) {
    setAccessibleName("Hardware finder");
    favourites_ = QSet<QString>([] {
        const QStringList saved = QSettings().value("favourites").toStringList();
        return QSet<QString>(saved.begin(), saved.end());
    }());
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 6, 6);
    row->addWidget(side_by_side({build_left(), build_middle(), build_right()}, {370, 545, 350}));
    search_again();
}

QWidget* HardwareFinder::build_left() {
    words_->setObjectName("hardware_words");
    words_->setPlaceholderText("Name, standard or size: nut M8, DIN 471 20 …");
    words_->setAccessibleName("Words of the piece looked for");
    words_->setClearButtonEnabled(true);
    duty_->setAccessibleName("It must");
    duty_->setObjectName("duty_of_piece");
    duty_->addItem("do anything");
    for (const auto& [verb, meaning] : duties())
        duty_->addItem(meaning, verb);
    system_->setAccessibleName("System");
    system_->addItems({"metric", "inch", "metric and inch"});
    list_->setObjectName("standards_found");
    list_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    list_->horizontalHeader()->setStretchLastSection(true);
    auto* form = new QFormLayout;
    form->addRow("It must", duty_);
    form->addRow("System", system_);
    auto* only = new QHBoxLayout;
    only->addWidget(new QLabel("Only"));
    only->addWidget(only_stocked_);
    only->addWidget(only_favourites_);
    only->addStretch(1);
    auto* column = new QVBoxLayout;
    column->addWidget(heading("Find hardware"));
    column->addWidget(words_);
    column->addLayout(form);
    column->addLayout(only);
    column->addWidget(list_, 1);
    connect(words_, &QLineEdit::textChanged, this, &HardwareFinder::search_again);
    for (auto* box : {duty_, system_})
        connect(box, &QComboBox::activated, this, &HardwareFinder::search_again);
    for (auto* box : {only_stocked_, only_favourites_})
        connect(box, &QCheckBox::clicked, this, &HardwareFinder::search_again);
    connect(list_, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row != before) fill_sizes();
    });
    return framed(column);
}

QWidget* HardwareFinder::build_middle() {
    title_->setProperty("big", true);
    sizes_->setObjectName("piece_size");
    sizes_->setAccessibleName("Size");
    length_->setObjectName("piece_length");
    length_->setAccessibleName("Length drawn");
    facts_->setObjectName("faint");
    facts_->setWordWrap(true);
    companions_->setTextFormat(Qt::RichText);
    companions_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    companions_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    for (auto* box : {grade_, material_, sizes_, length_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(box == material_ ? 12 : 6);
    }
    caution_->setObjectName("faint");
    caution_->setWordWrap(true);
    grade_->setAccessibleName("Strength grade");
    grade_->setObjectName("piece_grade");
    material_->setAccessibleName("Material of the part");
    for (const auto& m : standards::materials())
        material_->addItem(qt(m.title), qt(m.id));
    material_->setCurrentIndex(material_->findData("s235"));
    friction_->show_value("0.12");
    friction_->setMaximumWidth(60);
    friction_->setAccessibleName("Friction");
    auto* screw = new QHBoxLayout(screw_row_);
    screw->setContentsMargins(0, 0, 0, 0);
    for (auto [label, field] :
         {std::pair{"Grade", static_cast<QWidget*>(grade_)}, {"in", material_}, {"friction", friction_}}) {
        screw->addWidget(new QLabel(label));
        screw->addWidget(field);
    }
    screw->addStretch(1);
    auto* head = new QHBoxLayout;
    head->addWidget(title_, 1);
    head->addWidget(new QLabel("Size"));
    head->addWidget(sizes_);
    head->addWidget(new QLabel("Length"));
    head->addWidget(length_);
    auto* column = new QVBoxLayout;
    column->addLayout(head);
    column->addWidget(facts_);
    column->addWidget(picture_, 1);
    column->addWidget(screw_row_);
    column->addWidget(companions_);
    column->addWidget(caution_);
    connect(sizes_, &QComboBox::activated, this, [this] {
        wanted_size_ = chosen_size();
        show_item();
    });
    connect(length_, &QComboBox::activated, this, &HardwareFinder::show_dimensions);
    for (auto* box : {grade_, material_})
        connect(box, &QComboBox::activated, this, &HardwareFinder::show_companions);
    connect(friction_, &ValueEdit::committed, this, [this](const QString& text) {
        friction_->show_value(text);
        show_companions();
    });
    return framed(column);
}

QWidget* HardwareFinder::build_right() {
    stock_->setObjectName("stock");
    favourite_->setObjectName("favourite");
    dimensions_->setObjectName("dimensions");
    dimensions_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    dimensions_->horizontalHeader()->setStretchLastSection(true);
    lengths_->setObjectName("lengths");
    lengths_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    lengths_->setToolTip(
        "Double-click or press Space to put a length on the workshop's shelf, or to take it off");
    auto* copy = new QAction("Copy dimensions as CSV", dimensions_);
    copy->setShortcut(QKeySequence("Ctrl+Shift+C"));
    copy->setShortcutContext(Qt::WidgetShortcut);
    dimensions_->addAction(copy);
    dimensions_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* toggle = new QAction("On the shelf or not", lengths_);
    toggle->setShortcut(Qt::Key_Space);
    toggle->setShortcutContext(Qt::WidgetShortcut);
    lengths_->addAction(toggle);
    lengths_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(stock_);
    buttons->addWidget(favourite_);
    buttons->addStretch(1);
    auto* column = new QVBoxLayout;
    column->addLayout(buttons);
    column->addWidget(dimensions_, 3);
    column->addWidget(lengths_, 2);
    connect(stock_, &QPushButton::clicked, this, &HardwareFinder::toggle_stock);
    connect(favourite_, &QPushButton::clicked, this, &HardwareFinder::toggle_favourite);
    connect(copy, &QAction::triggered, this, &HardwareFinder::copy_as_csv);
    connect(toggle, &QAction::triggered, this, [this] { toggle_length(lengths_->currentRow()); });
    connect(lengths_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) { toggle_length(row); });
    return framed(column);
}

void HardwareFinder::show_workshop(const Workshop& workshop, LengthUnit unit) {
    if (workshop == workshop_ && unit == unit_) return;
    workshop_ = workshop;
    unit_ = unit;
    search_again();
}

void HardwareFinder::focus_words() {
    words_->setFocus(Qt::ShortcutFocusReason);
    words_->selectAll();
}

const standards::HardwareKind* HardwareFinder::kind() const {
    const auto row = static_cast<std::size_t>(std::max(0, list_->currentRow()));
    return row < hits_.size() ? hits_[row].kind : nullptr;
}

std::string HardwareFinder::chosen_size() const { return sizes_->currentData().toString().toStdString(); }

void HardwareFinder::search_again() {
    const auto* before = kind();
    hits_ = search({.words = words_->text(),
                    .duty = duty_->currentData().toString(),
                    .inch = system_->currentIndex() != 0,
                    .metric = system_->currentIndex() != 1,
                    .only_stocked = only_stocked_->isChecked(),
                    .only_favourites = only_favourites_->isChecked()},
                   workshop_, favourites_);
    const QSignalBlocker quiet(list_);
    list_->setRowCount(static_cast<int>(hits_.size()));
    int current = 0;
    for (int row = 0; row < list_->rowCount(); ++row) {
        const auto& hit = hits_[static_cast<std::size_t>(row)];
        if (hit.kind == before) current = row;
        cell(list_, row, 0, QString(hit.stocked ? "▣" : "") + (hit.favourite ? "★" : ""))
            ->setToolTip(hit.stocked ? "on the workshop's shelf" : "");
        cell(list_, row, 1, qt(hit.kind->standard));
        cell(list_, row, 2, qt(hit.kind->title))->setToolTip(qt(hit.kind->title));
    }
    if (!words_->text().isEmpty() && words_->hasFocus()) current = 0;
    if (!hits_.empty()) list_->setCurrentCell(current, 1);
    fill_sizes();
}

void HardwareFinder::fill_sizes() {
    const auto* k = kind();
    sizes_->clear();
    if (!k) return show_item();
    for (const auto& size : k->sizes) {
        const bool stocked = find_stock(workshop_, k->standard, size);
        sizes_->addItem(qt(size) + (stocked ? "  ▣" : ""), qt(size));
    }
    const auto& named = hits_[static_cast<std::size_t>(list_->currentRow())].size;
    if (!named.empty()) wanted_size_ = named; // and it stays when the words go
    const int wanted = sizes_->findData(qt(wanted_size_));
    sizes_->setCurrentIndex(wanted >= 0 ? wanted : static_cast<int>(k->sizes.size()) / 2);
    show_item();
}

void HardwareFinder::choose(const std::string& standard, const std::string& size) {
    words_->setText(qt(standard) + " " + qt(size));
    choose_among(standard, size);
}

void HardwareFinder::choose_among(const std::string& standard, const std::string& size) {
    wanted_size_ = size;
    for (int row = 0; row < list_->rowCount(); ++row)
        if (hits_[static_cast<std::size_t>(row)].kind->standard == standard) list_->setCurrentCell(row, 1);
    fill_sizes();
}

void HardwareFinder::show_item() {
    const auto* k = kind();
    item_.reset();
    if (k)
        if (auto found = standards::hardware(k->standard, chosen_size())) item_ = *found;
    for (QWidget* content : {static_cast<QWidget*>(stock_), static_cast<QWidget*>(favourite_),
                             static_cast<QWidget*>(length_), static_cast<QWidget*>(sizes_)})
        content->setEnabled(item_.has_value());
    const QSignalBlocker quiet(length_);
    length_->clear();
    grade_->clear();
    if (!item_) {
        title_->setText("Nothing found");
        facts_->setText(
            "No piece answers these words. Try fewer words, another system, or take the filters off.");
        picture_->clear();
        dimensions_->setRowCount(0);
        lengths_->setRowCount(0);
        companions_->clear();
        caution_->clear();
        screw_row_->hide();
        return;
    }
    for (const double l : item_->lengths_mm)
        length_->addItem(qt(plain(from_mm(l, unit_), 6)), l);
    length_->setCurrentIndex(length_->count() / 3);
    length_->setEnabled(length_->count() > 0);
    for (const auto& grade : k->grades)
        grade_->addItem(qt(grade));
    if (grade_->count() == 0 && k->inch) grade_->addItem("SAE 5");
    if (const int common = grade_->findText("8.8"); common >= 0) grade_->setCurrentIndex(common);
    title_->setText(qt(item_->standard) + " – " + qt(item_->size));
    QStringList facts{qt(item_->title), qt(item_->source)};
    if (!item_->note.empty()) facts << qt(item_->note);
    facts_->setText(facts.join("  ·  "));
    facts_->setToolTip("The table stands " + qt(k->provenance));
    const bool stocked = find_stock(workshop_, item_->standard, item_->size);
    stock_->setText(stocked ? "▣ On our shelf: take off" : "We stock this size");
    stock_->setToolTip("Every choice in this project prefers what is on the workshop's shelf");
    favourite_->setText(favourites_.contains(qt(item_->standard)) ? "★ Favourite" : "☆ Make a favourite");
    show_dimensions();
    show_companions();
}

void HardwareFinder::show_dimensions() {
    if (!item_) return;
    const std::optional<double> length =
        length_->count() > 0 ? std::optional(length_->currentData().toDouble()) : std::nullopt;
    picture_->show_piece(piece::view_of(*item_, length), unit_);
    const auto shown = [&](const std::optional<double>& mm) {
        return mm ? qt(plain(from_mm(*mm, unit_), 6)) : QString("–");
    };
    const auto piece = standards::at_length(*item_, length.value_or(0));
    dimensions_->setRowCount(static_cast<int>(piece.dimensions.size()));
    for (int row = 0; row < dimensions_->rowCount(); ++row) {
        const auto& d = piece.dimensions[static_cast<std::size_t>(row)];
        cell(dimensions_, row, 0, qt(d.symbol));
        cell(dimensions_, row, 1, shown(d.nominal_mm), Qt::AlignRight);
        cell(dimensions_, row, 2, shown(d.min_mm), Qt::AlignRight);
        cell(dimensions_, row, 3, shown(d.max_mm), Qt::AlignRight);
        cell(dimensions_, row, 4, meaning_of(d.symbol, item_->shape))
            ->setToolTip(meaning_of(d.symbol, item_->shape));
    }
    const StockItem* stock = find_stock(workshop_, item_->standard, item_->size);
    lengths_->setVisible(!item_->lengths_mm.empty());
    lengths_->setRowCount(static_cast<int>(item_->lengths_mm.size()));
    lengths_->setColumnHidden(1, item_->grips_mm.empty());
    for (int row = 0; row < lengths_->rowCount(); ++row) {
        const double l = item_->lengths_mm[static_cast<std::size_t>(row)];
        const auto mass = piece::mass_kg(*item_, l);
        const bool kept = stock && (stock->lengths_mm.empty() ||
                                    std::ranges::find(stock->lengths_mm, l) != stock->lengths_mm.end());
        cell(lengths_, row, 0, qt(plain(from_mm(l, unit_), 6)));
        if (const auto i = static_cast<std::size_t>(row); i < item_->grips_mm.size())
            cell(lengths_, row, 1,
                 shown(item_->grips_mm[i].min_mm) + " to " + shown(item_->grips_mm[i].max_mm));
        cell(lengths_, row, 2, mass ? qt(fmt::format("{} g", plain(*mass * 1000, 3))) : QString("–"))
            ->setToolTip("by the volume of the nominal shape, within about a tenth");
        cell(lengths_, row, 3, kept ? "▣" : "");
    }
}

void HardwareFinder::show_companions() {
    if (!item_) return;
    const auto friction = parse_number(friction_->text().trimmed().toStdString());
    QString caution;
    working_.clear();
    const auto lines =
        companions(*item_, grade_->currentText().trimmed().toStdString(), friction.value_or(0),
                   material_->currentData().toString().toStdString(), unit_, &caution, &working_);
    screw_row_->setVisible(!lines.empty() && item_->group != "Nuts");
    QString rows;
    for (const auto& line : lines)
        rows += QString("<tr><td style='color:%1; padding-right:12px'>%2</td><td "
                        "style='padding-right:12px'><b>%3</b></td><td style='color:%1'>%4</td></tr>")
                    .arg(theme().faint.name(), line.name.toHtmlEscaped(), line.figure.toHtmlEscaped(),
                         line.source.toHtmlEscaped());
    if (const auto mass = piece::mass_kg(*item_, {}))
        rows += QString("<tr><td style='color:%1; padding-right:12px'>Mass</td><td><b>%2 g</b></td><td "
                        "style='color:%1'>by its shape</td></tr>")
                    .arg(theme().faint.name(), qt(plain(*mass * 1000, 3)));
    companions_->setText("<table cellspacing='0'>" + rows + "</table>");
    companions_->setVisible(!rows.isEmpty());
    caution_->setText(lines.empty() || item_->group == "Nuts" ? QString() : caution);
    caution_->setVisible(!caution_->text().isEmpty());
}

void HardwareFinder::toggle_stock() {
    if (!item_) return;
    if (find_stock(workshop_, item_->standard, item_->size))
        emit unstock_wished(item_->standard, item_->size);
    else
        emit stock_wished({item_->standard, item_->size, {}});
}

void HardwareFinder::toggle_length(int row) {
    if (!item_ || row < 0 || row >= static_cast<int>(item_->lengths_mm.size())) return;
    const double l = item_->lengths_mm[static_cast<std::size_t>(row)];
    const StockItem* old = find_stock(workshop_, item_->standard, item_->size);
    StockItem item{item_->standard, item_->size, {}};
    if (old) item.lengths_mm = old->lengths_mm.empty() ? item_->lengths_mm : old->lengths_mm;
    if (std::erase(item.lengths_mm, l) == 0) item.lengths_mm.push_back(l);
    std::ranges::sort(item.lengths_mm);
    if (item.lengths_mm.empty())
        emit unstock_wished(item.standard, item.size);
    else
        emit stock_wished(item);
}

void HardwareFinder::toggle_favourite() {
    if (!item_) return;
    const QString name = qt(item_->standard);
    if (!favourites_.remove(name)) favourites_.insert(name);
    QStringList all(favourites_.begin(), favourites_.end());
    all.sort();
    QSettings().setValue("favourites", all);
    search_again();
}

void HardwareFinder::copy_as_csv() const {
    QString csv = "letter,nominal,least,most,meaning\n";
    for (int row = 0; row < dimensions_->rowCount(); ++row) {
        QStringList cells;
        for (int c = 0; c < dimensions_->columnCount(); ++c)
            cells << (c == 4 ? "\"" + dimensions_->item(row, c)->text() + "\""
                             : dimensions_->item(row, c)->text().replace("–", ""));
        csv += cells.join(',') + "\n";
    }
    QApplication::clipboard()->setText(csv);
}

}

#include "moc_hardware_finder.cpp"
