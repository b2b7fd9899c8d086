#include "findings_model.hpp"
#include "presenter/text.hpp"
#include <QStringList>
#include <algorithm>

namespace kollema::desktop {
namespace {

QString everything(const check::Finding& f, LengthUnit unit) {
    QStringList lines{qt(in_words(f.message, unit)), "because " + qt(in_words(f.because, unit))};
    for (const auto& fix : f.fixes)
        lines << "→ " + qt(in_words(fix.text, unit));
    return lines.join("\n");
}

}

void FindingsModel::show(std::shared_ptr<const check::Findings> findings, LengthUnit unit) {
    beginResetModel();
    findings_ = std::move(findings);
    unit_ = unit;
    endResetModel();
}

const check::Finding* FindingsModel::finding(int row) const {
    return row >= 0 && row < rowCount() ? &(*findings_)[static_cast<std::size_t>(row)] : nullptr;
}

int FindingsModel::row_like(const check::Finding& finding) const {
    const auto same = std::ranges::find_if(*findings_, [&](const check::Finding& f) {
        return f.rule == finding.rule && f.joint == finding.joint && f.requirement == finding.requirement &&
               f.where.member == finding.where.member && f.where.place == finding.where.place;
    });
    return same == findings_->end() ? 0 : static_cast<int>(same - findings_->begin());
}

int FindingsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(findings_->size());
}

QVariant FindingsModel::data(const QModelIndex& index, int role) const {
    const auto* f = finding(index.row());
    if (!f) return {};
    switch (role) {
    case Qt::DisplayRole:
        return sign(f->severity) + "  " + qt(in_words(f->message, unit_));
    case Qt::AccessibleTextRole:
        return word(f->severity) + ": " + qt(in_words(f->message, unit_));
    case Qt::ToolTipRole:
        return everything(*f, unit_);
    case severity:
        return static_cast<int>(f->severity);
    default:
        return {};
    }
}

}

#include "moc_findings_model.cpp"
