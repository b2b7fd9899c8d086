#pragma once
#include "presenter/hardware_search.hpp"
#include "standards/workshop.hpp"
#include <QWidget>
#include <optional>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace kollema::desktop {

class PieceView;
class ValueEdit;

/// The hardware finder: by what it must do, by name, standard or size; the piece true to scale, its
/// dimensions, lengths and what it asks of its surroundings; the workshop's shelf and favourites.
class HardwareFinder : public QWidget {
    Q_OBJECT
public:
    explicit HardwareFinder(QWidget* parent = nullptr);
    void show_workshop(const Workshop& workshop, LengthUnit unit);
    void restyle() { show_companions(); } ///< the theme is another one
    void focus_words();
    void choose(const std::string& standard, const std::string& size);       ///< looks for it by name
    void choose_among(const std::string& standard, const std::string& size); ///< among what was found
    std::optional<standards::HardwareItem> chosen() const { return item_; }
    const Working& working() const { return working_; }

signals:
    void stock_wished(const StockItem& item);
    void unstock_wished(const std::string& standard, const std::string& size);

private:
    QWidget* build_left();
    QWidget* build_middle();
    QWidget* build_right();
    void search_again();
    void fill_sizes();
    void show_item();
    void show_dimensions();
    void show_companions();
    void toggle_stock();
    void toggle_length(int row);
    void toggle_favourite();
    void copy_as_csv() const;
    const standards::HardwareKind* kind() const;
    std::string chosen_size() const;

    Workshop workshop_;
    LengthUnit unit_ = LengthUnit::mm;
    std::vector<HardwareHit> hits_;
    std::optional<standards::HardwareItem> item_;
    std::string wanted_size_ = "M8";
    QSet<QString> favourites_;
    Working working_;

    QLineEdit* words_;
    QComboBox *duty_, *system_, *sizes_, *length_, *grade_, *material_;
    ValueEdit* friction_;
    QCheckBox *only_stocked_, *only_favourites_;
    QTableWidget *list_, *dimensions_, *lengths_;
    PieceView* picture_;
    QLabel *title_, *facts_, *companions_, *caution_;
    QPushButton *stock_, *favourite_;
    QWidget* screw_row_;
};

}
