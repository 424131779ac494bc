#pragma once

#include "base/finding.h"
#include "proof/stock.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace wren {

// What counts as cut through and as holding, for every part; mm. Common practice, no source.

/// A through cut passes the far face by at least so much: one that only reaches it leaves a
/// paper-thin skin in real wood.
inline constexpr double throughBy = 0.05;
/// Thinner wood than this ties nothing.
inline constexpr double holdingWood = 0.5;

/// Wood left over a cell, below nothing by as much as the bit went past the far face.
inline double woodOver(const Stock& stock, int column, int row) {
    return static_cast<double>(stock.high(column, row)) - stock.low(column, row);
}

/// What hangs together of a stock, through everything thick enough to hold.
class TiedWood {
public:
    explicit TiedWood(const Stock& stock);

    /// From the cells of the blank's rim; only those that `starts` says yes to, if it is given.
    void fromRim(const std::function<bool(int column, int row)>& starts = {});
    /// From one cell; outside the stock there is none. Returns how many cells came new.
    long from(int column, int row);

    /// A piece that hangs together with none of what was met so far, where it is met first.
    struct Loose {
        int column = 0, row = 0;
        long cells = 0;
    };
    /// The first of more than `least` cells, row by row; smaller ones before it are met.
    std::optional<Loose> loose(double least);

    bool at(int column, int row) const; ///< whether it hangs together with one of the starts

private:
    void visit(int column, int row);
    bool fresh(int column, int row) const; ///< thick enough, and not visited yet
    long spread();

    const Stock& stock_;
    std::vector<char> seen_;
    std::vector<std::pair<int, int>> front_;
};

/// "Beside the outline 0.40 mm of wood are left WHERE", `thickest` being the wood and what it
/// should be through by together.
Finding& saySkinLeft(PartId part, Findings& out, double thickest, const std::string& where);
/// Nothing ties the part to its frame.
Finding& sayPartFree(PartId part, Findings& out, const std::string& name);

} // namespace wren
