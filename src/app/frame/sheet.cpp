#include "frame/sheet.h"

#include "job/list_keys.h"
#include "state/background.h"

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

/// Where the part in hand stands when everything has been run.
ProgramPlace endOf(const Derived& d, Part part, int piece) {
    const std::vector<const PartJob*> pieces = d.pieces();
    const PartJob* job = part == Part::board  ? d.job(Role::board)
                         : part == Part::neck ? d.job(Role::neck)
                         : pieces.empty()
                             ? nullptr
                             : pieces[std::min(static_cast<std::size_t>(piece), pieces.size() - 1)];
    if (!job || job->read[0].empty()) {
        return {};
    }
    return {job, job->read[1].empty() ? 0U : 1U, 0};
}

Part partOf(const PartJob& job) {
    return job.panel ? Part::body : job.id == Role::neck ? Part::neck : Part::board;
}

int pieceOf(const Derived& d, const PartJob& job) {
    const std::vector<const PartJob*> pieces = d.pieces();
    const auto it = std::find(pieces.begin(), pieces.end(), &job);
    return it == pieces.end() ? 0 : static_cast<int>(it - pieces.begin());
}

StockViewPtr makeStockView(const Derived& d, double seconds, Part part, int piece) {
    auto view = std::make_shared<StockView>();
    view->seconds = seconds;
    Moment m = momentAt(d, seconds);
    ProgramPlace place = m.program < d.programs.size() ? d.placeOf(m.program) : ProgramPlace{};
    if (!place.job) { // the whole day: the part in hand as it stands at the end
        place = endOf(d, part, piece);
        if (!place.job) {
            return nullptr;
        }
        m = Moment{};
    } else {
        m.program = place.index;
    }
    const PartJob& job = *place.job;
    view->side = place.side;
    view->part = partOf(job);
    view->piece = pieceOf(d, job);
    view->setup = place.setup();
    const std::vector<RunProgram>& programs = job.read[place.side];
    const double cell = job.start ? job.start->cell() : viewCell; // wood glued up keeps its own
    view->stock = std::make_shared<Stock>(stockAt(sidesOf(d, job), place.side, m, cell));
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

namespace {

/// Whether a path still names something.
bool stands(const Project& p, const std::string& path) {
    const std::optional<ItemPath> item = itemPath(path);
    if (!item) {
        return true;
    }
    const std::vector<ListKey> lists = listsOf(p);
    return std::any_of(lists.begin(), lists.end(), [&](const ListKey& l) {
        return l.path == item->list && item->number < l.items->size(p);
    });
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
    case Station::whole:
        return QStringLiteral("Instrument");
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
        if (!stands(document_.project(), taken_)) {
            take({});
        }
        derive();
    });
    connect(&deriver_, &Deriver::failed, this, &Sheet::failed);
    connect(&deriver_, &Deriver::ready, this, [this](const DerivedPtr& d, int step) {
        const bool wasWhole = !scrubbing_;
        derived_ = d;
        step_ = step;
        if (step == 1) {
            stock_.reset();
            deviations_.clear();
            neckUnrolled_.reset();
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
        take({});
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

const PartJob* Sheet::pieceInHand() const {
    const std::vector<const PartJob*> all =
        derived_ ? derived_->pieces() : std::vector<const PartJob*>{};
    return all.empty() ? nullptr : all[std::min(static_cast<std::size_t>(piece_), all.size() - 1)];
}

const PartJob* Sheet::jobInHand() const {
    if (part_ == Part::body) {
        return pieceInHand();
    }
    return derived_ ? derived_->job(part_ == Part::neck ? Role::neck : Role::board) : nullptr;
}

std::vector<const PartJob*> Sheet::jobsInHand() const {
    if (part_ == Part::body) {
        return derived_ ? derived_->pieces() : std::vector<const PartJob*>{};
    }
    const PartJob* job = jobInHand();
    return job ? std::vector<const PartJob*>{job} : std::vector<const PartJob*>{};
}

void Sheet::setPiece(int piece) {
    const int n = derived_ ? static_cast<int>(derived_->pieces().size()) : 1;
    piece = std::clamp(piece, 0, std::max(0, n - 1));
    if (piece != piece_) {
        piece_ = piece;
        if (!scrubbing_ && step_ == 3 && part_ == Part::body) {
            askForStock();
        }
        Q_EMIT partChanged();
    }
}

DeviationViewPtr Sheet::deviation(PartId part, std::size_t side) const {
    const auto it = deviations_.find(part);
    return it == deviations_.end() ? nullptr : it->second[side];
}

void Sheet::take(const std::string& path) {
    if (path != taken_) {
        taken_ = path;
        Q_EMIT takenChanged();
    }
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
        const PartJob& job = *derived_->placeOf(program).job;
        setPart(partOf(job));
        if (job.panel) {
            setPiece(pieceOf(*derived_, job));
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
    if (!d->proved()) {
        return;
    }
    struct Views {
        DeviationViews parts;
        std::shared_ptr<const Unrolled> unrolled;
    };
    deviationPending_ = true;
    inBackground(
        this,
        [d] {
            Views views;
            for (const PartJob& job : d->parts) {
                for (std::size_t side = 0; job.proof && side < job.held.sides(); ++side) {
                    auto view = std::make_shared<DeviationView>(job.proof->sides[side]);
                    view->turnWith(job.held.last().fromInstrument);
                    views.parts[job.id][side] = std::move(view);
                }
            }
            if (const auto neck = views.parts.find(Role::neck); neck != views.parts.end()) {
                const Setup& back = d->job(Role::neck)->held.last();
                const Vec3 a = back.fromInstrument.toInstrument({0, 0, 0});
                const Vec3 b =
                    back.fromInstrument.toInstrument({back.blank.length, back.blank.width, 0});
                views.unrolled = std::make_shared<const Unrolled>(
                    unrolledBack(d->neck->part, neck->second[1]->picture,
                                 {std::min(a.x, b.x), std::max(a.y, b.y)}, neck->second[1]->cell));
            }
            return views;
        },
        [this, d](Views views) {
            if (derived_ == d) { // else the newer design's own is on its way
                deviationPending_ = false;
                deviations_ = std::move(views.parts);
                neckUnrolled_ = std::move(views.unrolled);
                Q_EMIT stockChanged();
            }
        });
}

} // namespace wren::app
