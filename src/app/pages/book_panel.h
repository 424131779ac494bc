#pragma once

#include "book/shop_book.h"

#include <QWidget>

#include <vector>

class QTableWidget;
class QLabel;

namespace wren::app {

/// The shop book: every program that was sent, newest first, and the stops gone on with.
class BookPanel : public QWidget {
    Q_OBJECT
public:
    explicit BookPanel(QWidget* parent = nullptr);

    void show(const std::vector<RunRecord>& runs, const std::vector<OverrideRecord>& overrides);

private:
    QTableWidget* table_;
    QLabel* empty_;
    QLabel* overrides_;
};

} // namespace wren::app
