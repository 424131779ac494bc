#pragma once

#include "part/panel_field.h"
#include "proof/known_wood.h"
#include "proof/simulate.h"

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
    struct Done {
        std::shared_ptr<const Left> left;
        Path path; ///< as it was run, where running may change it
        std::optional<LoadTrace> loads;
        std::vector<Collision> collisions;
    };

    /// What it keeps holds for a `setting` alone; what `earlier` kept for the same one is taken
    /// over as it is found again.
    explicit CutMemory(std::string setting, std::shared_ptr<const CutMemory> earlier = {});

    /// What a path comes near, worked out once.
    std::shared_ptr<const NearWood> nearOf(const Stock& stock, const Bit& bit, const Path& path);
    /// How a panel's faces fall over the cells of a grid, worked out once.
    std::shared_ptr<const FaceDrops> dropsOf(const Panel& panel, const SetupFromInstrument& to,
                                             const CellGrid& grid);
    std::shared_ptr<const Done> find(const Hash& key);
    std::shared_ptr<const Done> keep(const Hash& key, Done done);
    /// Forgets what has not come again.
    void settle() { earlier_ = nullptr; }

private:
    template <typename T>
    using Kept = std::map<Hash, std::shared_ptr<const T>>;
    template <typename T>
    std::shared_ptr<const T> taken(Kept<T> CutMemory::*kept, const Hash& key);

    std::string setting_;
    std::shared_ptr<const CutMemory> earlier_;
    Kept<Done> done_;
    Kept<NearWood> near_;
    Kept<FaceDrops> drops_;
};

/// simulateOn() program by program, as it comes to the same; what is remembered is not run again.
Simulation simulateRemembering(Stock start, const std::vector<RunProgram>& programs,
                               const std::stop_token& stop, Loads loads, CutMemory& memory);

} // namespace wren
