#pragma once

#include "sheet.h"

#include <QWidget>

#include <functional>
#include <vector>

class QHBoxLayout;
class QLabel;
class QGridLayout;

namespace wren::app {

class ValueField;

/// The numbers for the step in hand, in a few columns: what is entered as fields, what is derived
/// beside it in slate. The foot tells why the number in hand is what it is.
class Ledger : public QWidget {
    Q_OBJECT
public:
    explicit Ledger(Sheet& sheet, QWidget* parent = nullptr);

Q_SIGNALS:
    void refused(QString sentence);
    void accepted();

private:
    using Text = std::function<QString(const Derived&)>;

    void rebuild();
    void refreshDerived();
    void pageBoard();
    void pageBlank();
    void pageCuts();
    void pageProof();
    void cutGroup(const QString& title, const QString& cut);
    void explain(const QString& path);

    void group(const QString& title);
    ValueField* field(const QString& label, const QString& path);
    void unset(ValueField* field, const QString& meaning);
    void derived(const QString& label, Text text);
    void note(Text text);

    Sheet& sheet_;
    QWidget* page_ = nullptr;
    QHBoxLayout* columns_ = nullptr;
    QGridLayout* grid_ = nullptr;
    int row_ = 0;
    QLabel* foot_ = nullptr;
    QString explained_;
    struct DerivedLabel {
        QLabel* label;
        Text text;
    };
    struct RecipeField {
        ValueField* field;
        Text text;
    };
    std::vector<DerivedLabel> derived_;
    std::vector<RecipeField> recipes_;
    ValueField* school_ = nullptr; ///< on the cuts page only
    std::size_t bits_ = 0;
};

} // namespace wren::app
