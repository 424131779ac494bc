#include "proof/cut_memory.h"

#include "cut/bit_chooser.h"

#include <algorithm>
#include <cmath>
#include <memory>

#include <xxhash.h>

namespace wren {
namespace {

constexpr int side = 32; ///< of a square, cells

class Hasher {
public:
    Hasher() { XXH3_128bits_reset(state_.get()); }
    void add(const void* bytes, std::size_t count) {
        XXH3_128bits_update(state_.get(), bytes, count);
    }
    void add(const std::vector<double>& values) {
        add(values.data(), values.size() * sizeof(double));
    }
    CutMemory::Key key() const {
        const XXH128_hash_t h = XXH3_128bits_digest(state_.get());
        return {h.low64, h.high64};
    }

private:
    struct Free {
        void operator()(XXH3_state_t* s) const { XXH3_freeState(s); }
    };
    std::unique_ptr<XXH3_state_t, Free> state_{XXH3_createState()};
};

std::vector<double> numbersOf(const Path& path) {
    std::vector<double> out;
    out.reserve(path.size() * 15);
    for (const Move& m : path) {
        out.insert(out.end(), {double(m.motion), m.from.x, m.from.y, m.from.z, m.to.x, m.to.y,
                               m.to.z, m.feed, m.dwell, m.rpm, double(m.spindleOn)});
        if (m.isArc()) {
            out.insert(out.end(), {double(m.plane), m.centre.x, m.centre.y, m.centre.z});
        }
    }
    return out;
}

std::vector<double> numbersOf(const Bit& b) {
    return {double(b.kind), b.diameter, b.fluteLength, double(b.flutes), b.shank,  b.corner,
            b.tip,          b.angle,    b.reach,       b.collet,         b.maxRpm, b.maxFeed};
}

/// How far to the side anything that turns with the bit reaches.
double widestOf(const Stock& stock, const Bit& bit, const Path& path) {
    double lowest = stock.topZ();
    for (const Move& m : path) {
        lowest = std::min({lowest, m.from.z, m.to.z});
    }
    const bool nut = stock.topZ() - lowest > bit.reachOrUsual();
    return std::max({bit.diameter / 2, bit.shank / 2, nut ? colletNut : 0.0}) + nearWider;
}

} // namespace

CutMemory::CutMemory(std::string setting, std::shared_ptr<const CutMemory> earlier)
    : setting_(std::move(setting)), earlier_(std::move(earlier)) {
    if (earlier_ && earlier_->setting_ != setting_) {
        earlier_ = nullptr;
    }
}

std::shared_ptr<const CutMemory::Done> CutMemory::find(const Key& key) {
    const auto own = all_.find(key);
    if (own != all_.end()) {
        return own->second;
    }
    if (earlier_) {
        const auto old = earlier_->all_.find(key);
        if (old != earlier_->all_.end()) {
            return all_[key] = old->second;
        }
    }
    return nullptr;
}

void CutMemory::keep(const Key& key, Done done) {
    all_[key] = std::make_shared<const Done>(std::move(done));
}

NearWood::NearWood(const Stock& stock, const Bit& bit, const Path& path)
    : across_((stock.columns() + side - 1) / side) {
    const int down = (stock.rows() + side - 1) / side;
    std::vector<char> met(static_cast<std::size_t>(across_ * down), 0);
    const double reach = widestOf(stock, bit, path) + stock.cell();
    const auto meet = [&](Vec3 a, Vec3 b) {
        const auto square = [](double cells, int most) {
            return std::clamp(static_cast<int>(std::floor(cells / side)), 0, most - 1);
        };
        const int c0 = square(stock.column(std::min(a.x, b.x) - reach), across_);
        const int c1 = square(stock.column(std::max(a.x, b.x) + reach), across_);
        const int r0 = square(stock.row(std::min(a.y, b.y) - reach), down);
        const int r1 = square(stock.row(std::max(a.y, b.y) + reach), down);
        for (int r = r0; r <= r1; ++r) {
            std::fill_n(met.begin() + std::ptrdiff_t(r) * across_ + c0, c1 - c0 + 1, 1);
        }
    };
    std::vector<Vec3> way;
    for (const Move& m : path) {
        if (!m.cuts() && std::min(m.from.z, m.to.z) >= stock.topZ()) {
            continue; // nothing stands there
        }
        way.clear();
        addWay(way, m);
        for (std::size_t i = 0; i + 1 < way.size(); ++i) {
            // In short pieces: the box about a long slanting one holds far more than it comes near.
            const Vec3 whole = way[i + 1] - way[i];
            const int n = 1 + static_cast<int>(length(whole.xy()) / 8);
            for (int k = 0; k < n; ++k) {
                meet(way[i] + whole * (double(k) / n), way[i] + whole * (double(k + 1) / n));
            }
        }
    }
    for (int i = 0; i < across_ * down; ++i) {
        if (met[static_cast<std::size_t>(i)]) {
            squares_.push_back(i);
        }
    }
}

/// Calls f(column, row, count) for every row of cells of every square.
template <typename F>
void NearWood::overRows(const Stock& stock, F f) const {
    for (int s : squares_) {
        const int c = s % across_ * side;
        const int count = std::min(side, stock.columns() - c);
        const int last = std::min((s / across_ + 1) * side, stock.rows());
        for (int r = s / across_ * side; r < last; ++r) {
            f(c, r, count);
        }
    }
}

CutMemory::Key NearWood::keyOf(const Stock& stock, const Bit& bit, const Path& path,
                               const std::vector<double>& more) const {
    Hasher hash;
    hash.add(numbersOf(path));
    hash.add(numbersOf(bit));
    hash.add(more);
    hash.add({stock.cell(), double(stock.columns()), double(stock.rows()), stock.x(0), stock.y(0),
              stock.topZ(), stock.bottomZ()});
    hash.add(squares_.data(), squares_.size() * sizeof(int));
    overRows(stock, [&](int c, int r, int count) {
        const float* cells = stock.row(r) + c;
        hash.add(cells, static_cast<std::size_t>(count) * sizeof(float));
        if (const float* under = stock.undersideOf(cells)) {
            hash.add(under, static_cast<std::size_t>(count) * sizeof(float));
        }
    });
    return hash.key();
}

std::vector<float> NearWood::heightsOf(const Stock& stock) const {
    std::vector<float> out;
    out.reserve(squares_.size() * side * side);
    overRows(stock, [&](int c, int r, int count) {
        out.insert(out.end(), stock.row(r) + c, stock.row(r) + c + count);
    });
    return out;
}

void NearWood::putInto(Stock& stock, const std::vector<float>& heights) const {
    auto from = heights.begin();
    overRows(stock, [&](int c, int r, int count) {
        std::copy_n(from, count, stock.row(r) + c);
        from += count;
    });
}

Simulation simulateRemembering(Stock start, const std::vector<RunProgram>& programs,
                               const std::stop_token& stop, Loads loads, CutMemory& memory) {
    Simulation result{std::move(start), {}, {}, {}};
    for (std::size_t i = 0; i < programs.size(); ++i) {
        const RunProgram& program = programs[i];
        const NearWood near(result.stock, program.bit, program.path);
        const CutMemory::Key key =
            near.keyOf(result.stock, program.bit, program.path, {double(loads)});
        std::shared_ptr<const CutMemory::Done> done = memory.find(key);
        if (done) {
            near.putInto(result.stock, done->heights);
        } else {
            Simulation one = simulateOn(std::move(result.stock), {program}, {}, stop, {}, loads);
            result.stock = std::move(one.stock);
            memory.keep(key,
                        {near.heightsOf(result.stock),
                         {},
                         one.loads.empty() ? std::nullopt : std::optional(std::move(one.loads[0])),
                         std::move(one.collisions)});
            done = memory.find(key);
        }
        for (Collision c : done->collisions) {
            c.program = i;
            result.collisions.push_back(c);
        }
        if (done->loads) {
            result.loads.push_back(*done->loads);
        }
    }
    return result;
}

} // namespace wren
