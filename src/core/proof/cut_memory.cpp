#include "proof/cut_memory.h"

#include "proof/hasher.h"

namespace wren {

CutMemory::CutMemory(std::string setting, std::shared_ptr<const CutMemory> earlier)
    : setting_(std::move(setting)), earlier_(std::move(earlier)) {
    if (earlier_ && earlier_->setting_ != setting_) {
        earlier_ = nullptr;
    }
}

/// Found, and taken over when an earlier memory alone has it; null where none has.
template <typename T>
std::shared_ptr<const T> CutMemory::taken(Kept<T> CutMemory::*kept, const Hash& key) {
    const auto own = (this->*kept).find(key);
    if (own != (this->*kept).end()) {
        return own->second;
    }
    if (earlier_) {
        const auto old = ((*earlier_).*kept).find(key);
        if (old != ((*earlier_).*kept).end()) {
            return (this->*kept)[key] = old->second;
        }
    }
    return nullptr;
}

std::shared_ptr<const NearWood> CutMemory::nearOf(const Stock& stock, const Bit& bit,
                                                  const Path& path) {
    const Hash key = NearWood::keyOf(stock, bit, path);
    if (auto known = taken(&CutMemory::near_, key)) {
        return known;
    }
    return near_[key] = std::make_shared<const NearWood>(stock, bit, path);
}

std::shared_ptr<const FaceDrops>
CutMemory::dropsOf(const Panel& panel, const SetupFromInstrument& to, const CellGrid& grid) {
    Hasher hash;
    for (const ContourPiece& p : panel.outline) {
        hash.add(std::vector<double>{double(p.kind), p.from.x, p.from.y, p.to.x, p.to.y,
                                     p.isArc() ? p.centre.x : 0, p.isArc() ? p.centre.y : 0});
    }
    for (const FaceFall* fall : {&panel.frontFall, &panel.backFall}) {
        const std::vector<double> numbers = fall->numbers();
        hash.add(std::vector<double>{double(numbers.size())});
        hash.add(numbers);
    }
    const auto frame = to.matrix();
    hash.add(std::vector<double>(frame.begin(), frame.end()));
    hash.add(std::vector<double>{grid.first.x, grid.first.y, grid.cell, double(grid.nx),
                                 double(grid.ny)});
    const Hash key = hash.hash();
    if (auto known = taken(&CutMemory::drops_, key)) {
        return known;
    }
    return drops_[key] = std::make_shared<const FaceDrops>(panel, to, grid);
}

std::shared_ptr<const CutMemory::Done> CutMemory::find(const Hash& key) {
    return taken(&CutMemory::done_, key);
}

std::shared_ptr<const CutMemory::Done> CutMemory::keep(const Hash& key, Done done) {
    return done_[key] = std::make_shared<const Done>(std::move(done));
}

Simulation simulateRemembering(Stock start, const std::vector<RunProgram>& programs,
                               const std::stop_token& stop, Loads loads, CutMemory& memory) {
    KnownWood wood(std::move(start));
    std::vector<Collision> collisions;
    std::vector<LoadTrace> traces;
    for (std::size_t i = 0; i < programs.size(); ++i) {
        const RunProgram& program = programs[i];
        const auto near = memory.nearOf(wood.frame(), program.bit, program.path);
        const Hash key = wood.keyOf(*near, {double(loads)});
        std::shared_ptr<const CutMemory::Done> done = memory.find(key);
        if (done) {
            wood.leave(*near, done->left);
        } else {
            CutMemory::Done now;
            now.left = std::make_shared<const Left>(wood.cut(*near, [&](Stock stock) {
                Simulation one = simulateOn(std::move(stock), {program}, {}, stop, {}, loads);
                if (!one.loads.empty()) {
                    now.loads = std::move(one.loads[0]);
                }
                now.collisions = std::move(one.collisions);
                return std::move(one.stock);
            }));
            done = memory.keep(key, std::move(now));
        }
        for (Collision c : done->collisions) {
            c.program = i;
            collisions.push_back(c);
        }
        if (done->loads) {
            traces.push_back(*done->loads);
        }
    }
    return {std::move(wood).take(), std::move(collisions), {}, std::move(traces)};
}

} // namespace wren
