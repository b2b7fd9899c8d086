#include "first_steps.hpp"
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace kollema::desktop {

FirstSteps::FirstSteps(QWidget* parent) : QWidget(parent), words_(new QLabel) {
    auto* column = new QVBoxLayout(this);
    column->addStretch(1);
    words_->setAlignment(Qt::AlignCenter);
    words_->setWordWrap(true);
    column->addWidget(words_);
    column->addSpacing(8);
    const auto button = [&](const QString& text, const char* name, auto signal) {
        auto* b = new QPushButton(text);
        b->setObjectName(name);
        b->setMinimumWidth(260);
        connect(b, &QPushButton::clicked, this, signal);
        column->addWidget(b, 0, Qt::AlignHCenter);
        return b;
    };
    part_ = button("Add the first part …", "first_part", &FirstSteps::part_wished);
    join_ = button("Join parts in the picture …", "first_join", &FirstSteps::joining_wished);
    demo_ = button("Look at the demo", "first_demo", &FirstSteps::demo_wished);
    file_ = button("Open a file …", "first_file", &FirstSteps::file_wished);
    column->addStretch(2);
    show_parts(0);
}

void FirstSteps::show_parts(std::size_t count) {
    words_->setText(count == 0   ? "Nothing stands here yet."
                    : count == 1 ? "One part stands here. A second one can be joined to it."
                                 : "No joint yet: point at the seats of two parts, and say what must hold.");
    part_->setText(count == 0 ? "Add the first part …" : "Add another part …");
    join_->setVisible(count >= 2);
    demo_->setVisible(count == 0);
    file_->setVisible(count == 0);
}

}

#include "moc_first_steps.cpp"
