#pragma once

#include "proof/simulate.h"

#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>

namespace wren {

/// What programs did to wood, by what they are and by the wood they met: one that comes again over
/// the same wood need not be run again. Only the wood a tool may come near counts, in squares of
/// cells, so that a change elsewhere in a part leaves it standing. Of one part; not for several
/// threads at once.
class CutMemory {
public:
    /// 128 bits that stand for a program and the wood it meets.
    using Key = std::array<std::uint64_t, 2>;

    struct Done {
        std::vector<float> heights; ///< of the squares' cells, afterwards
        Path path;                  ///< as it was run, where running may change it
        std::optional<LoadTrace> loads;
        std::vector<Collision> collisions;
    };

    /// What it keeps holds for a `setting` alone; what `earlier` kept for the same one is taken
    /// over as it is found again.
    explicit CutMemory(std::string setting, std::shared_ptr<const CutMemory> earlier = {});

    std::shared_ptr<const Done> find(const Key& key);
    void keep(const Key& key, Done done);
    /// Forgets what has not come again.
    void settle() { earlier_ = nullptr; }

private:
    std::string setting_;
    std::shared_ptr<const CutMemory> earlier_;
    std::map<Key, std::shared_ptr<const Done>> all_;
};

/// The squares of a stock's cells that a path's tool, or what is above it, may come near.
class NearWood {
public:
    /// Rapids count where they go below the wood's upper face. The path lies in the stock's frame.
    NearWood(const Stock& stock, const Bit& bit, const Path& path);

    /// Of the path, the bit and that wood, and of `more` that decides what comes of it.
    CutMemory::Key keyOf(const Stock& stock, const Bit& bit, const Path& path,
                         const std::vector<double>& more) const;
    std::vector<float> heightsOf(const Stock& stock) const;
    void putInto(Stock& stock, const std::vector<float>& heights) const;

private:
    template <typename F>
    void overRows(const Stock& stock, F f) const;

    int across_ = 0;
    std::vector<int> squares_;
};

/// simulateOn() program by program, as it comes to the same; what is remembered is not run again.
Simulation simulateRemembering(Stock start, const std::vector<RunProgram>& programs,
                               const std::stop_token& stop, Loads loads, CutMemory& memory);

} // namespace wren
