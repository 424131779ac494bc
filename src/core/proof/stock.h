#pragma once

#include "cut/move.h"
#include "proof/load_trace.h"
#include "proof/swept.h"
#include "shop/bit.h"
#include "shop/blank.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace wren {

/// The blank as a field of Z intervals: over each cell of a square grid, wood stands from `low` to
/// `high` (setup frame, mm). Heights are those over the cell's centre. A column cut right through
/// has high <= low; how far the bit went below is kept, because "through by how much" is asked.
class Stock {
public:
    /// Lies with its front left corner on X0 Y0. `cell` in mm.
    Stock(const Blank& blank, double bottomZ, double cell);

    /// The same wood turned over about its own middle line: rows change ends (side for side) or
    /// columns (end for end). It lies with its front left corner on X0 Y0 again, `bottomZ` below
    /// it.
    Stock turnedSideForSide(double length, double width, double bottomZ) const&;
    Stock turnedSideForSide(double length, double width, double bottomZ) &&;
    Stock turnedEndForEnd(double length, double width, double bottomZ) const&;
    Stock turnedEndForEnd(double length, double width, double bottomZ) &&;

    /// Lying a little elsewhere.
    Stock movedBy(Vec2 way) const;

    int columns() const { return nx_; }
    int rows() const { return ny_; }
    double cell() const { return cell_; }
    double topZ() const { return top_; }
    double bottomZ() const { return bottom_; }
    double x(int column) const { return x0_ + (column + 0.5) * cell_; }
    double y(int row) const { return y0_ + (row + 0.5) * cell_; }
    /// `count` cells of the row at `y`, from a column on.
    PlacesInRow places(int column, int count, double y) const {
        return {x0_, cell_, column, count, y};
    }
    /// Columns and rows as numbers, cell centres on whole ones.
    double column(double x) const { return (x - x0_) / cell_ - 0.5; }
    double row(double y) const { return (y - y0_) / cell_ - 0.5; }

    /// Only what lies between two heights stays of a column of cells.
    void keep(int column, double low, double high);
    void keepCell(int column, int row, double low, double high); ///< or of one cell

    /// An empty space shut in between two heights of a column: a chamber under a glued-on top.
    void shutIn(int column, int row, double low, double high);
    /// Lays `above` on this wood at height `seam`, both with the same face up and the same grid;
    /// what is missing between them is shut in. What comes of it is as tall as `top`.
    void glueOn(const Stock& above, double seam, double top);
    /// Lying so much higher in its setup.
    Stock lifted(double by) const;
    /// Chambers that have been cut open are open: their floor is the column's top, or their roof
    /// its underside.
    void openCutHollows();

    float high(int column, int row) const { return high_[index(column, row)]; }
    /// Flat until the wood has been turned over.
    float low(int column, int row) const {
        return low_.empty() ? static_cast<float>(bottom_) : low_[index(column, row)];
    }
    /// The undersides below cells handed out by row(); null: the bottom everywhere.
    const float* undersideOf(const float* cell) const {
        return low_.empty() ? nullptr : low_.data() + (cell - high_.data());
    }
    bool wood(int column, int row) const { return high(column, row) > low(column, row); }
    float* row(int r) { return high_.data() + index(0, r); }
    const float* row(int r) const { return high_.data() + index(0, r); }

    double volume() const; ///< mm3 of wood left

    /// The heights of rows [from, to), to be put back when what was cut there is to be undone.
    struct Heights {
        int from = 0;
        std::vector<float> high;
    };
    Heights heights(int from, int to) const;
    void putBack(const Heights& kept);

private:
    std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(nx_) +
               static_cast<std::size_t>(column);
    }

    Stock turned(bool rows, double shift, double bottomZ) &&;

    double cell_;
    int nx_;
    int ny_;
    double bottom_;
    double top_;
    double x0_ = 0; ///< of the grid's corner: off the blank's when the cells do not divide it
    double y0_ = 0;
    std::vector<float> high_;
    std::vector<float> low_; ///< empty: the bottom everywhere
    struct Hollow {
        float low = 0, high = 0;
    };
    std::vector<Hollow> hollows_; ///< empty: none anywhere
};

/// A move as the places between which it is cut straight: both its ends, and an arc's chords within
/// 0.001 mm of it. Bands of one stock share them.
void addWay(std::vector<Vec3>& places, const Move& move);
using Way = std::span<const Vec3>;

/// Takes away what the tool sweeps on its `way`, in the rows [rowFrom, rowTo). The height left over
/// a cell's centre is within 0.0001 mm for straight pieces. What is taken is booked along the way
/// where that is asked for. `chained`: the tool has just cut where the way begins, so that its
/// start need not be drawn again.
void sweep(Stock& stock, const EndShape& tool, Way way, int rowFrom, int rowTo,
           std::optional<LoadTrace::Along> taken = std::nullopt, bool chained = false);
/// Of a whole move; a level arc's as a round piece.
void sweep(Stock& stock, const EndShape& tool, const Move& move, int rowFrom, int rowTo,
           std::optional<LoadTrace::Along> taken = std::nullopt, bool chained = false);

/// How deep, at most, a body whose end stands `above` mm over the tip would enter wood on its
/// `way`; 0 when it stays clear. Same rows, nothing is taken away.
double entersWood(const Stock& stock, const EndShape& body, double above, Way way, int rowFrom,
                  int rowTo);

/// Whether it would, by however little.
bool touchesWood(const Stock& stock, const EndShape& body, double above, Way way, int rowFrom,
                 int rowTo);

/// The height the move leaves at one point, +infinity where the tool does not pass: the same
/// geometry, asked for a single place.
double heightLeftAt(Vec2 point, const EndShape& tool, const Move& move);

} // namespace wren
