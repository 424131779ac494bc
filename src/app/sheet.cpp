#include "sheet.h"

#include "background.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace wren::app {
namespace {

/// Coarser than the proof: a picture of 0.4 mm cells is finer than the screen shows.
constexpr double viewCell = 0.4;

/// Heights as tints of wood, lit from the back left so that steps and slots read as relief.
QImage pictureOf(const Stock& stock) {
    QImage image(stock.columns(), stock.rows(), QImage::Format_ARGB32);
    const double span = std::max(0.1, stock.topZ() - stock.bottomZ());
    for (int r = 0; r < stock.rows(); ++r) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(stock.rows() - 1 - r));
        const float* here = stock.row(r);
        const float* above = stock.row(std::min(r + 1, stock.rows() - 1));
        for (int c = 0; c < stock.columns(); ++c) {
            const float h = here[c];
            if (h <= stock.low(c, r)) {
                line[c] = qRgba(0, 0, 0, 0);
                continue;
            }
            const double depth = (stock.topZ() - h) / span;
            const float left = here[std::max(0, c - 1)];
            const double light =
                std::clamp(0.5 * (h - left) - 0.8 * (above[c] - h), -1.2, 1.2) * 0.16;
            const double k = std::clamp(1.0 - 0.34 * depth + light, 0.35, 1.08);
            line[c] = qRgb(std::min(255, static_cast<int>(0xEF * k)),
                           std::min(255, static_cast<int>(0xDC * k)),
                           std::min(255, static_cast<int>(0xB8 * k)));
        }
    }
    return image;
}

/// A picture in a setup's frame, turned to run with the instrument.
QImage withInstrument(const QImage& image, const Setup& setup) {
    const Vec3 o = setup.fromInstrument.toInstrument({0, 0, 0});
    const Vec3 p = setup.fromInstrument.toInstrument({1, 1, 0});
    return image.mirrored(p.x < o.x, p.y < o.y);
}

Stock stockAt(const Derived& d, const ProgramPlace& place, const Moment& m) {
    const int side = place.side;
    if (place.panel >= 0) {
        const PanelJob& job = d.body->panels[static_cast<std::size_t>(place.panel)];
        PanelSides sides = d.body->sides(job, d.project.bodyHold.turn);
        if (sides.start && sides.start->cell() != viewCell) {
            return panelStockAt(sides, static_cast<std::size_t>(side), m, sides.start->cell());
        }
        return panelStockAt(sides, static_cast<std::size_t>(side), m, viewCell);
    }
    if (side < 0) {
        return simulate(*d.setup, d.readBack, viewCell, m, {},
                        fillingsOf(*d.board, *d.setup, d.readBack))
            .stock;
    }
    return neckStockAt(d.neck->sides(d.project.neckHold.turn), static_cast<std::size_t>(side), m,
                       viewCell);
}

const std::vector<RunProgram>& programsOf(const Derived& d, const ProgramPlace& place) {
    const auto side = static_cast<std::size_t>(std::max(0, place.side));
    if (place.panel >= 0) {
        return d.body->panels[static_cast<std::size_t>(place.panel)].readBack[side];
    }
    return place.side < 0 ? d.readBack : d.neck->readBack[side];
}

/// Where the part in hand stands when everything has been run.
ProgramPlace endOf(const Derived& d, Part part, int piece) {
    ProgramPlace place;
    if (part == Part::body && d.body && !d.body->panels.empty()) {
        const auto n = std::min(static_cast<std::size_t>(piece), d.body->panels.size() - 1);
        const PanelJob& job = d.body->panels[n];
        const int side = job.setups.back && !job.readBack[1].empty() ? 1 : 0;
        if (!job.readBack[static_cast<std::size_t>(side)].empty()) {
            return {side == 1 ? &*job.setups.back : &job.setups.face, side, static_cast<int>(n), 0};
        }
    } else if (part == Part::neck && d.neck && !d.neck->readBack[1].empty()) {
        return {&d.neck->setups.back, 1, -1, 0};
    } else if (part == Part::board && d.plan && !d.readBack.empty()) {
        return {&d.plan->setup, -1, -1, 0};
    }
    return place;
}

StockViewPtr makeStockView(const Derived& d, double seconds, Part part, int piece) {
    auto view = std::make_shared<StockView>();
    view->seconds = seconds;
    Moment m = momentAt(d, seconds);
    ProgramPlace place = m.program < d.programs.size() ? d.placeOf(m.program) : ProgramPlace{};
    if (!place.setup) { // the whole day: the part in hand as it stands at the end
        place = endOf(d, part, piece);
        if (!place.setup) {
            return nullptr;
        }
        m = Moment{};
    } else {
        m.program = place.index;
    }
    view->side = place.side;
    view->part = place.panel >= 0 ? Part::body : place.side < 0 ? Part::board : Part::neck;
    view->piece = std::max(0, place.panel);
    view->setup = *place.setup;
    const std::vector<RunProgram>& programs = programsOf(d, place);
    view->stock = std::make_shared<Stock>(stockAt(d, place, m));
    view->plan = withInstrument(pictureOf(*view->stock), view->setup);
    const std::size_t p = std::min(m.program, programs.size() - 1);
    const RunProgram& program = programs[p];
    view->bitDiameter = program.bit.diameter;
    if (m.program < programs.size() && m.moves < program.path.size()) {
        view->tool = program.path[m.moves].at(m.fraction);
    } else if (!program.path.empty()) {
        view->tool = program.path.back().to;
    }
    return view;
}

} // namespace

QString stationName(Station station) {
    switch (station) {
    case Station::board:
        return QStringLiteral("Board");
    case Station::neck:
        return QStringLiteral("Neck");
    case Station::body:
        return QStringLiteral("Body");
    case Station::blank:
        return QStringLiteral("Blank");
    case Station::tools:
        return QStringLiteral("Tools");
    case Station::cuts:
        return QStringLiteral("Cuts");
    case Station::proof:
        return QStringLiteral("Proof");
    case Station::machine:
        return QStringLiteral("Machine");
    case Station::book:
        return QStringLiteral("Book");
    }
    return {};
}

Moment momentAt(const Derived& d, double seconds) {
    double before = 0;
    for (std::size_t p = 0; p < d.programs.size(); ++p) {
        const MotionTime& t = d.programs[p].time;
        if (seconds < before + t.seconds) {
            const double inside = seconds - before;
            const auto it = std::upper_bound(t.ends.begin(), t.ends.end(), inside);
            const auto move = static_cast<std::size_t>(it - t.ends.begin());
            const double start = move == 0 ? 0 : t.ends[move - 1];
            const double length = *it - start;
            return {p, move, length > 0 ? (inside - start) / length : 0};
        }
        before += t.seconds;
    }
    return {};
}

Sheet::Sheet(Document& document, QObject* parent) : QObject(parent), document_(document) {
    connect(&document_, &Document::changed, this, [this] {
        overrides_.clear();
        setBitInHand(bitInHand_); // the drawer may have become smaller
        derive();
    });
    connect(&deriver_, &Deriver::failed, this, &Sheet::failed);
    connect(&deriver_, &Deriver::ready, this, [this](const DerivedPtr& d, int step) {
        const bool wasWhole = !scrubbing_;
        derived_ = d;
        step_ = step;
        if (step == 1) {
            stock_.reset();
            deviation_.reset();
            neckDeviation_ = {};
            neckUnrolled_.reset();
            pieceDeviations_.clear();
        }
        if (step >= 2 && wasWhole) {
            moment_ = d->seconds();
        }
        if (step == 3) {
            moment_ = std::min(moment_, d->seconds());
            askForStock();
            askForDeviation();
        }
        Q_EMIT derivedChanged();
    });
    derive();
}

void Sheet::derive() {
    step_ = 0;
    deriver_.request(document_.project(), overrides_);
}

void Sheet::giveReason(const Finding& finding, const QString& reason) {
    const std::string text = reason.trimmed().toStdString();
    std::erase_if(overrides_, [&](const Override& o) {
        return o.part == finding.part && o.code == finding.code;
    });
    if (!text.empty()) {
        overrides_.push_back({finding.part, finding.code, text});
    }
    derive();
}

void Sheet::setStation(Station station) {
    if (station != station_) {
        station_ = station;
        // No board is made for a neck that carries its frets itself.
        if (station == Station::neck || (document_.project().carved() && part_ == Part::board)) {
            setPart(Part::neck);
        }
        if (station == Station::board) {
            setPart(Part::board);
        }
        if (station == Station::body) {
            setPart(Part::body);
        }
        Q_EMIT stationChanged();
    }
}

void Sheet::setPart(Part part) {
    if (part != part_) {
        part_ = part;
        if (!scrubbing_ && step_ == 3) {
            askForStock();
        }
        Q_EMIT partChanged();
    }
}

const PanelJob* Sheet::pieceInHand() const {
    if (!derived_ || !derived_->body || derived_->body->panels.empty()) {
        return nullptr;
    }
    const std::vector<PanelJob>& all = derived_->body->panels;
    return &all[std::min(static_cast<std::size_t>(piece_), all.size() - 1)];
}

void Sheet::setPiece(int piece) {
    const int n = derived_ && derived_->body ? static_cast<int>(derived_->body->panels.size()) : 1;
    piece = std::clamp(piece, 0, std::max(0, n - 1));
    if (piece != piece_) {
        piece_ = piece;
        if (!scrubbing_ && step_ == 3 && part_ == Part::body) {
            askForStock();
        }
        Q_EMIT partChanged();
    }
}

DeviationViewPtr Sheet::pieceDeviation(int side) const {
    const PanelJob* job = pieceInHand();
    return job && job->panel < pieceDeviations_.size()
               ? pieceDeviations_[job->panel][static_cast<std::size_t>(side)]
               : nullptr;
}

void Sheet::setLeaf(int leaf) {
    int& now = leaves_[static_cast<std::size_t>(station_)];
    if (leaf != now) {
        now = leaf;
        Q_EMIT leafChanged();
    }
}

void Sheet::setBitInHand(int index) {
    const int n = static_cast<int>(document_.project().bits.size());
    const int next = std::clamp(index, 0, std::max(0, n - 1));
    if (next != bitInHand_) {
        bitInHand_ = next;
        Q_EMIT bitChanged();
    }
}

void Sheet::setCursor(double x) {
    if (x != cursor_) {
        cursor_ = x;
        Q_EMIT cursorChanged();
    }
}

void Sheet::setShaded(bool shaded) {
    if (shaded != shaded_) {
        shaded_ = shaded;
        Q_EMIT shadedChanged();
    }
}

void Sheet::setMoment(double seconds) {
    if (!derived_ || derived_->programs.empty()) {
        return;
    }
    moment_ = std::clamp(seconds, 0.0, derived_->seconds());
    scrubbing_ = true;
    const std::size_t program = momentAt(*derived_, moment_).program;
    if (program < derived_->programs.size()) { // the tape runs on from part to part
        const ProgramPlace place = derived_->placeOf(program);
        setPart(place.panel >= 0 ? Part::body : place.side < 0 ? Part::board : Part::neck);
        if (place.panel >= 0) {
            setPiece(place.panel);
        }
    }
    askForStock();
    Q_EMIT stockChanged();
}

void Sheet::endScrub() {
    if (derived_) {
        scrubbing_ = false;
        moment_ = derived_->seconds();
        askForStock();
        Q_EMIT stockChanged();
    }
}

/// One simulation at a time; while it runs only the newest wish is remembered.
void Sheet::askForStock() {
    if (!derived_ || derived_->programs.empty()) {
        stock_.reset();
        return;
    }
    if (stockPending_) {
        stockWanted_ = true;
        return;
    }
    stockPending_ = true;
    const DerivedPtr d = derived_;
    const double seconds = moment_;
    inBackground(
        this,
        [d, seconds, part = part_, piece = piece_] {
            return makeStockView(*d, seconds, part, piece);
        },
        [this, d](StockViewPtr view) {
            stockPending_ = false;
            if (derived_ == d) {
                stock_ = std::move(view);
            }
            if (std::exchange(stockWanted_, false) || derived_ != d) {
                askForStock();
            }
            Q_EMIT stockChanged();
        });
}

void Sheet::askForDeviation() {
    const DerivedPtr d = derived_;
    if (!d->proof && !(d->neck && d->neck->proof) && !d->body) {
        return;
    }
    struct Views {
        DeviationViewPtr board;
        std::array<DeviationViewPtr, 2> neck;
        std::shared_ptr<const Unrolled> unrolled;
        std::vector<std::array<DeviationViewPtr, 2>> pieces;
    };
    deviationPending_ = true;
    inBackground(
        this,
        [d] {
            Views views;
            if (d->proof) {
                views.board = std::make_shared<const DeviationView>(*d->proof);
            }
            for (std::size_t side = 0; d->neck && d->neck->proof && side < 2; ++side) {
                auto view = std::make_shared<DeviationView>(d->neck->proof->sides[side]);
                view->turnWith(d->neck->setups.back.fromInstrument);
                views.neck[side] = std::move(view);
            }
            if (views.neck[1]) {
                const Setup& back = d->neck->setups.back;
                const Vec3 a = back.fromInstrument.toInstrument({0, 0, 0});
                const Vec3 b =
                    back.fromInstrument.toInstrument({back.blank.length, back.blank.width, 0});
                views.unrolled = std::make_shared<const Unrolled>(
                    unrolledBack(d->neck->part, views.neck[1]->picture,
                                 {std::min(a.x, b.x), std::max(a.y, b.y)}, views.neck[1]->cell));
            }
            for (std::size_t i = 0; d->body && i < d->body->panels.size(); ++i) {
                const PanelJob& job = d->body->panels[i];
                views.pieces.emplace_back();
                for (std::size_t side = 0; job.proof && side < 2; ++side) {
                    auto view = std::make_shared<DeviationView>(job.proof->sides[side]);
                    const Setup& last = job.setups.back ? *job.setups.back : job.setups.face;
                    view->turnWith(last.fromInstrument);
                    views.pieces[i][side] = std::move(view);
                }
            }
            return views;
        },
        [this, d](Views views) {
            if (derived_ == d) { // else the newer design's own is on its way
                deviationPending_ = false;
                deviation_ = std::move(views.board);
                neckDeviation_ = std::move(views.neck);
                neckUnrolled_ = std::move(views.unrolled);
                pieceDeviations_ = std::move(views.pieces);
                Q_EMIT stockChanged();
            }
        });
}

} // namespace wren::app
