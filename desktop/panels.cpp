#include "panels.hpp"
#include <QFrame>
#include <QLabel>
#include <QLayout>
#include <QSplitter>

namespace kollema::desktop {

QFrame* framed(QLayout* layout) {
    auto* frame = new QFrame;
    frame->setObjectName("panel");
    layout->setContentsMargins(10, 7, 10, 7);
    frame->setLayout(layout);
    return frame;
}

QLabel* heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setObjectName("heading");
    return label;
}

QSplitter* side_by_side(std::initializer_list<QWidget*> sheets, std::initializer_list<int> widths) {
    auto* splitter = new QSplitter(Qt::Horizontal);
    for (auto* sheet : sheets)
        splitter->addWidget(sheet);
    splitter->setSizes(QList<int>(widths));
    splitter->setStretchFactor(1, 1);
    splitter->setChildrenCollapsible(false);
    splitter->setHandleWidth(6);
    return splitter;
}

}
