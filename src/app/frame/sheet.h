#pragma once

#include "job/feature_edits.h"
#include "job/features.h"
#include "ruler/deviation_view.h"
#include "ruler/unrolled.h"
#include "state/deriver.h"
#include "state/document.h"
#include "state/picture_store.h"

#include <QImage>
#include <QObject>

#include <array>
#include <map>
#include <memory>

namespace wren::app {

/// The stops along the route.
enum class Station { board, neck, body, whole, blank, tools, cuts, proof, machine, book };
inline constexpr int stationCount = 10;
QString stationName(Station station);

/// Which part blank, cuts and proof are about.
enum class Part { board, neck, body };

/// The stock at a moment of the day at the machine, ready to be drawn.
struct StockView {
    double seconds = 0; ///< since the first program's start, bit changes left out
    std::shared_ptr<const Stock> stock;
    QImage plan; ///< one pixel a cell, turned to run with the instrument: nut left, +Y up
    Vec3 tool;   ///< tip, setup frame
    double bitDiameter = 0;
    Part part = Part::board;
    int piece = 0;        ///< of the body
    std::size_t side = 0; ///< of the part: 0 face up, 1 turned over
    Setup setup;          ///< the wood lies in
};
using StockViewPtr = std::shared_ptr<const StockView>;
using DeviationViews = std::map<PartId, std::array<DeviationViewPtr, 2>>;

/// What all bands show together: the newest derived design, the cursor on the ruler, the station,
/// and the moment on the cut tape. The bands read it and repaint when it says so.
class Sheet : public QObject {
    Q_OBJECT
public:
    explicit Sheet(Document& document, QObject* parent = nullptr);

    Document& document() { return document_; }
    const Document& document() const { return document_; }
    PictureStore& pictures() const { return pictures_; } ///< of wood
    const Project& project() const { return document_.project(); }
    const Derived* derived() const { return derived_.get(); }
    DerivedPtr derivedPtr() const { return derived_; }
    int step() const { return step_; } ///< how far the newest derivation has come, 0 to 3
    bool settled() const { return step_ == 3 && !stockPending_ && !deviationPending_ &&
               pictures_.settled(); }
    LengthUnit unit() const { return document_.unit(); }

    Station station() const { return station_; }
    void setStation(Station station); ///< the parts' own take their part in hand
    Part part() const { return part_; }
    void setPart(Part part);
    /// The neck is in hand and could be drawn.
    bool showsNeck() const { return part_ == Part::neck && derived_ && derived_->neck; }
    bool showsBody() const { return part_ == Part::body && derived_ && derived_->body; }
    /// The body's piece in hand, an index into its pieces; null when there is no body.
    const PartJob* pieceInHand() const;
    const PartJob* jobInHand() const; ///< of the part in hand; null when there is none
    std::vector<const PartJob*> jobsInHand() const; ///< of a body all its pieces
    int piece() const { return piece_; }
    void setPiece(int piece);
    /// Which leaf of the station's ledger lies open; each station remembers its own.
    /// The thing or node taken hold of, by its path (job/features.h); empty: none.
    const std::string& taken() const { return taken_; }
    void take(const std::string& path);
    /// The things of the station: the body's, the neck's.
    std::vector<Feature> things() const;
    std::vector<NewThing> addable() const; ///< what can be added there
    int leaf() const { return leaves_[static_cast<std::size_t>(station_)]; }
    void setLeaf(int leaf);
    /// The bed lies open rather than the blank: where it is told how that is held.
    bool showsBed() const { return station_ == Station::blank && leaf() == bedLeaf; }
    static constexpr int bedLeaf = 1; ///< the blank station's, whichever part is in hand
    int bitInHand() const { return bitInHand_; } ///< index into the drawer
    void setBitInHand(int index);
    double cursor() const { return cursor_; } ///< instrument X, mm
    void setCursor(double x);
    bool shaded() const { return shaded_; }
    void setShaded(bool shaded);

    double moment() const { return moment_; } ///< seconds of machining; the whole day at first
    void setMoment(double seconds);           ///< asks for the stock; stockChanged() follows
    bool scrubbing() const { return scrubbing_; }
    void endScrub();
    StockViewPtr stock() const { return stock_; }
    /// Of a side of a part of derived(); null until ready.
    DeviationViewPtr deviation(PartId part, std::size_t side = 0) const;
    /// The back's deviation laid flat; none before it is proved.
    std::shared_ptr<const Unrolled> neckUnrolled() const { return neckUnrolled_; }
    /// Why the stops found now may be overridden. Given for this very design: the next change of
    /// the document takes it back, since it may bring other stops.
    /// Lifts one finding in its part, for this design; an empty reason takes that back.
    void giveReason(const Finding& finding, const QString& reason);
    const Overrides& overrides() const { return overrides_; }

Q_SIGNALS:
    void derivedChanged();
    void stationChanged();
    void partChanged();
    void takenChanged();
    void leafChanged();
    void bitChanged();
    void cursorChanged();
    void shadedChanged();
    void stockChanged();
    void failed(QString sentence);

private:
    void derive();
    void askForStock();
    void askForDeviation();

    Document& document_;
    mutable PictureStore pictures_; ///< filled as they are asked for
    Deriver deriver_;
    DerivedPtr derived_;
    int step_ = 0;
    Station station_ = Station::board;
    std::array<int, stationCount> leaves_{};
    int bitInHand_ = 0;
    double cursor_ = 0;
    bool shaded_ = false;
    double moment_ = 0;
    bool scrubbing_ = false;
    bool stockPending_ = false;
    bool stockWanted_ = false;
    StockViewPtr stock_;
    DeviationViews deviations_;
    std::shared_ptr<const Unrolled> neckUnrolled_;
    std::string taken_;
    Part part_ = Part::board;
    int piece_ = 0;
    bool deviationPending_ = false;
    Overrides overrides_; ///< given for the design as it is
};

/// Where in the programs a moment of the day falls, and where the tool is then.
Moment momentAt(const Derived& derived, double seconds);

} // namespace wren::app
