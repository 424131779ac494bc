#pragma once

#include "book/records.h"

#include <QDialog>

#include <filesystem>
#include <map>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// One more thing written down, whatever its kind: a field for each thing it has.
class RecordForm : public QDialog {
    Q_OBJECT
public:
    /// `begun`: what it starts with, of the blank or the fitting in hand; or nothing.
    RecordForm(std::filesystem::path book, const RecordKind& kind,
               const std::map<std::string, std::string>& begun, QWidget* parent);

    void take(); ///< writes it down and closes, or says in one sentence why not

private:
    std::filesystem::path book_;
    const RecordKind& kind_;
    std::vector<std::pair<const FieldOf*, QLineEdit*>> lines_;
    std::vector<std::pair<const FieldOf*, QPushButton*>> choices_;
    QLabel* trouble_;
};

} // namespace wren::app
