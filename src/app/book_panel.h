#pragma once

#include "book/shop_book.h"

#include <QWidget>

#include <vector>

class QTableWidget;
class QLabel;

namespace wren::app {

/// The shop book: every program that was sent, newest first.
class BookPanel : public QWidget {
    Q_OBJECT
public:
    explicit BookPanel(QWidget* parent = nullptr);

    void show(const std::vector<RunRecord>& runs);

private:
    QTableWidget* table_;
    QLabel* empty_;
};

} // namespace wren::app
