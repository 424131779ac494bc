#pragma once

#include "frame/sheet.h"

#include <QTimer>
#include <QWidget>

#include <functional>
#include <vector>

class QHBoxLayout;
class QLabel;
class QGridLayout;
class QPushButton;
class QScrollArea;

namespace wren::app {

class ValueField;

/// The numbers for the step in hand, in a few columns: what is entered as fields, what is derived
/// beside it in slate. A step with many numbers spreads them over leaves, named in the foot
/// (Alt+Left and Alt+Right turn them). The foot tells why the number in hand is what it is.
class Ledger : public QWidget {
    Q_OBJECT
public:
    explicit Ledger(Sheet& sheet, QWidget* parent = nullptr);

    void turnLeaf(int direction);
    /// As tall as the leaf asks, as long as the drawing over it keeps its least.
    void takeRoom();
    void showFocused();
    QStringList leafNames() const;
    void showComparison(const QString& text); ///< of the present design and a variant

Q_SIGNALS:
    void refused(QString sentence);
    void accepted();
    void testSlotsWanted();
    void traceWanted();
    void importWanted();
    void outlineTraceWanted();
    void fitWanted(QString pocket, double by); ///< mm off each wall
    void fixtureWanted();
    void batchWanted();
    void programWanted(); ///< any program, to be held against a part
    void trialWanted();
    void controllerFileWanted(bool write); ///< its description, to or from a file
    void bedProgramWanted(bool surface); ///< or its lines
    void handSheetWanted(QString name);
    void comparisonWanted(QString variant);
    void doubleWanted(); ///< of the thing in hand
    void mirrorWanted();
    void removeWanted();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    using Text = std::function<QString(const Derived&)>;
    struct Leaf {
        QString name;
        void (Ledger::*build)();
    };

    /// What decides which fields a leaf has and what they offer; with other asks it is built anew.
    struct Asks {
        QStringList bits;
        std::size_t gauges = 0; ///< so many have fields
        std::size_t boards = 0; ///< of the shop, so many have fields
        std::vector<std::pair<std::string, int>> clamps; ///< their parts and sides
        std::vector<std::pair<std::string, int>> seen;   ///< in blanks: parts and kinds
        std::vector<Variant> variants;
        std::vector<std::string> woods; ///< the maker's own
        GivesWay follows = GivesWay::saddles;
        bool through = false; ///< the neck goes through the body
        bool operator==(const Asks&) const = default;
    };

    static Asks asksFor(const Project& project);
    std::vector<Leaf> leaves() const;
    void rebuild();
    void nameLeaves();
    void refreshDerived();
    void explain(const QString& path);

    // ledger_board.cpp
    void leafShape();
    void leafSlots();
    void leafMarkers();
    void leafGauges();
    // ledger_cuts.cpp
    void leafBlank();
    // ledger_hold.cpp
    void leafClamps();
    void leafWoodSeen();
    void addWoodPhoto(PartId part);
    void addWoodPhoto(PartId part, const QString& file);
    void addWoodMark(PartId part, WoodMarkKind kind);
    void leafBatch();
    void leafController();
    void fixtureFields(const QString& hold);
    void suggestClamps(PartId part);
    void leafMainCuts();
    void leafCarvedCuts();
    void leafOtherCuts();
    void leafChoices();
    void leafProof();
    void leafPrograms();
    void radiusFinish();
    void radiusStep();
    void dayFigures();
    const Cut* pieceCut(CutKind kind) const;
    void cutGroup(const QString& title, CutKind cut);
    /// Bit, speed, feeds and depth of one cut, with the bits that can do it and what the recipe
    /// says.
    void cutFields(const QString& title, const QString& group,
                   const std::function<bool(const Bit&)>& can,
                   const std::function<const Cut*(const Derived&)>& find);
    // ledger_neck.cpp
    void leafShaft();
    void leafHead();
    void leafTuners();
    void leafRod();
    void leafJoint();
    void leafNeckBlank();
    void leafBackCuts();
    void leafFaceCuts();
    void leafFacePlan();
    void leafBackPlan();
    void neckPlan(const QString& title, std::size_t side);
    void leafNeckProof();
    void neckCutGroup(const QString& title, const QString& key, CutKind cut);
    // ledger_body.cpp
    void leafBodyOutline();
    void leafPocket();
    void offerSkims(QWidget* below);
    void leafCavity();
    void leafHollows();
    void leafMeasured();
    void leafFaces();
    void leafBodyBlank();
    void leafShopBoards();
    void leafBodyCuts();
    void leafBodyHow();
    void leafPieceFace();
    void leafPieceBack();
    void piecePlan(std::size_t side);
    void leafBodyProof();
    // ledger_whole.cpp
    void leafWhole();
    void leafStringSet();
    void leafBalance();
    // ledger_bench.cpp
    void leafByHand();
    void leafSawing();
    void boardFields();
    /// A button that takes a thing out of its list.
    void removal(const QString& words, const QString& tip, const QString& path,
                 const QString& what);
    void leafVariants();
    void variantDeeds(const Variant& variant);
    void changeProject(const std::function<Project(const Project&)>& how, const QString& words);
    // ledger_thing.cpp
    std::string thingInHand() const;
    void leafThing();
    void ownSize(const std::string& path);
    /// How far a bit must reach into it, in the glued body and in its layers.
    void bitReach(FeatureId feature);
    void nearIt(const std::string& thing);
    void thingDeeds(const std::string& path);
    // ledger_tools.cpp
    void leafBit();
    void leafRouter();

    void group(const QString& title);
    void groupBelow(const QString& title); ///< in the same column
    ValueField* field(const QString& label, const QString& path);
    void unset(ValueField* field, const QString& meaning);
    void derived(const QString& label, Text text);
    void note(Text text, int width = 230);
    /// Many rows, in an area of its own that scrolls.
    void scrolledRows(Text text, const QString& name, const QString& meaning);
    /// The place of a proof's worst, from the nut and off the centreline or as `told`, with a step
    /// that puts the cursor there.
    void derivedPlace(
        std::function<const ProofReport*(const Derived&)> proof, Vec2 ProofReport::*what,
        std::function<Vec2(Vec2)> told = [](Vec2 at) { return at; });
    void rows(Text text); ///< several lines of figures
    QPushButton* deed(const QString& text, const QString& tip);
    QString mm(double v) const;

    Sheet& sheet_;
    QTimer rebuilding_;
    QTimer showing_; ///< the field that has the focus
    QScrollArea* sideways_ = nullptr;
    QHBoxLayout* columns_ = nullptr;
    QHBoxLayout* names_ = nullptr;
    QGridLayout* grid_ = nullptr;
    int row_ = 0;
    int fieldWidth_ = 112;
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
    ValueField* school_ = nullptr;                 ///< on the cuts' first leaf only
    Asks asks_;                                    ///< what the open leaf was built for
    QString handSheet_ = QStringLiteral("facets"); ///< the page for the bench that is looked at
    QString comparison_;
};

/// What no value looks like.
inline const QString dash = QStringLiteral("\u2013");

const Cut* cutOf(const Derived& d, CutKind kind);

} // namespace wren::app
