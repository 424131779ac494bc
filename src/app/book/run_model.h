#pragma once

#include "state/book_reading.h"

#include <QAbstractTableModel>

namespace wren::app {

/// Runs, newest first, those only that hold what is searched for. Rows are looked up, not copied: a
/// book of a hundred thousand is shown at once.
class RunModel : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;
    void show(const BookReadingPtr& book, const QString& search);
    const RunRecord* run(int row) const;

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation way, int role) const override;

private:
    BookReadingPtr book_;
    std::vector<std::size_t> rows_; ///< into the book's runs
};

/// What a shop wrote down beside its runs, of all kinds, newest first.
class RecordModel : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;
    void show(const BookReadingPtr& book, const QString& search);

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation way, int role) const override;

private:
    std::vector<Record> rows_;
};

} // namespace wren::app
