#pragma once
#include "presenter/chains.hpp"
#include <QWidget>

class QCustomPlot;
class QLabel;
class QListWidget;
class QPushButton;

namespace kollema::desktop {

/// All that follows from a chain: yield and verdict, extremes, distribution, and the ways out.
class ChainAnswer : public QWidget {
    Q_OBJECT
public:
    explicit ChainAnswer(QWidget* parent = nullptr);

    /// `changes_here`: ways out are done here; else they stand among the findings.
    void show_chain(const ShownChain& shown, LengthUnit unit, bool changes_here);
    void show_message(const QString& why);
    void restyle();

signals:
    void way_wished(const WayOut& way);
    void nothing_at_assembly_wished();
    void copy_wished();
    void page_wished();

private:
    void show_ways(const ShownChain& shown, bool changes_here);
    QString numbers_of(const ShownChain& shown, LengthUnit unit) const;
    void do_way();

    std::vector<WayOut> ways_;
    QLabel *yield_, *verdict_, *numbers_, *at_assembly_, *ways_title_;
    QWidget* remedy_;
    QCustomPlot* plot_;
    QListWidget* way_list_;
    QPushButton* do_way_;
};

}
