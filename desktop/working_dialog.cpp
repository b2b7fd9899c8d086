#include "working_dialog.hpp"
#include "presenter/text.hpp"
#include "quantity/format.hpp"
#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace kollema::desktop {

WorkingDialog::WorkingDialog(const QString& title, const Working& working, QWidget* parent)
    : QDialog(parent),
      table_(new QTableWidget(static_cast<int>(working.size()), 5, this)) {
    setWindowTitle("Working: " + title);
    resize(1000, 460);
    auto* column = new QVBoxLayout(this);
    auto* heading = new QLabel(title, this);
    heading->setObjectName("heading");
    column->addWidget(heading);
    column->addWidget(table_, 1);
    table_->setAccessibleName("Working");
    table_->setHorizontalHeaderLabels({"Step", "Formula", "With figures", "Value", "Source"});
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->horizontalHeader()->setSectionResizeMode(3, QHeaderView::ResizeToContents);
    table_->verticalHeader()->hide();
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setWordWrap(true);
    for (int row = 0; row < static_cast<int>(working.size()); ++row) {
        const Step& step = working[static_cast<std::size_t>(row)];
        const QString cells[] = {qt(step.name), qt(step.formula), qt(step.figures),
                                 qt(plain(step.value, 6) + " " + step.unit), qt(step.source)};
        for (int c = 0; c < 5; ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setToolTip(cells[c]);
            table_->setItem(row, c, item);
        }
    }
    auto* buttons = new QHBoxLayout;
    auto* copy = new QPushButton("Copy as CSV", this);
    auto* close = new QPushButton("Close", this);
    close->setDefault(true);
    buttons->addStretch(1);
    buttons->addWidget(copy);
    buttons->addWidget(close);
    column->addLayout(buttons);
    connect(copy, &QPushButton::clicked, this, &WorkingDialog::copy_as_csv);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
}

void WorkingDialog::copy_as_csv() const {
    QString csv = "step,formula,with figures,value,source\n";
    for (int row = 0; row < table_->rowCount(); ++row)
        for (int c = 0; c < table_->columnCount(); ++c)
            csv += '"' + table_->item(row, c)->text().replace('"', "\"\"") +
                   (c + 1 < table_->columnCount() ? "\"," : "\"\n");
    QApplication::clipboard()->setText(csv);
}

}

#include "moc_working_dialog.cpp"
