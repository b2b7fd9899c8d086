#pragma once
#include "check/finding.hpp"
#include <QAbstractListModel>
#include <memory>

namespace kollema::desktop {

/// Findings as rows, the worst first: only those that are looked at cost anything.
class FindingsModel : public QAbstractListModel {
    Q_OBJECT
public:
    enum Role { severity = Qt::UserRole };

    using QAbstractListModel::QAbstractListModel;
    void show(std::shared_ptr<const check::Findings> findings, LengthUnit unit);
    const check::Finding* finding(int row) const; ///< null where there is none
    /// The row that tells the same as a finding of an earlier version, else the first.
    int row_like(const check::Finding& finding) const;

    int rowCount(const QModelIndex& parent = {}) const override;
    /// The message; as a tooltip everything that the finding tells.
    QVariant data(const QModelIndex& index, int role) const override;

private:
    std::shared_ptr<const check::Findings> findings_ = std::make_shared<const check::Findings>();
    LengthUnit unit_ = LengthUnit::mm;
};

}
