#pragma once

#include "design/fretboard.h"
#include "geom/arched_face.h"
#include "geom/vec.h"

namespace wren {

/// A fret from the bass edge to the treble edge, in plan.
struct FretLine {
    Vec2 bass;
    Vec2 treble;

    /// Where it crosses the centreline (Y = 0), on X.
    double middle() const;
};

/// Strings and frets in plan, in the instrument frame. Each outer string carries its own scale,
/// measured parallel to the centreline as a rule on the bench measures it; a fret is the straight
/// line through the two points the scales give, carried on to the board's edges. With equal scales
/// every fret is square and this is the plain board.
class Fan {
public:
    explicit Fan(const Fretboard& board);

    /// The share of the scale a fret stands at; the bridge is 1, the nut 0.
    static double share(double fret);
    /// The share the board's width is usually quoted at: the last fret's, or the end's when there
    /// are no frets.
    double lastShare() const { return lastShare_; }

    double bassSide() const { return side_; } ///< -1: the bass strings are at -Y
    /// A string's point at a share of the scale. `across`: -1 the bass string, +1 the treble one,
    /// between them the others by their place at the nut.
    Vec2 string(double across, double share) const;
    Vec2 bassString(double share) const { return string(-1, share); }
    Vec2 trebleString(double share) const { return string(1, share); }
    /// The board's edge: overhang outside the outer string. -1 bass, +1 treble. At an X.
    double edgeAt(int across, double x) const;

    FretLine line(double fret) const { return lineAt(share(fret)); }
    FretLine lineAt(double share) const;
    /// The same line carried parallel to itself by `dx` along the board.
    FretLine parallelTo(double share, double dx) const;

    /// From the nut's line or zero fret back to the board's end.
    double behind() const { return behind_; }
    /// Where the board ends on the centreline.
    double endOnCentre() const { return end_; }
    /// The board's end as a line; for a radiused end the line through its two corners.
    FretLine endLine() const;

private:
    Vec2 crossing(Vec2 p, Vec2 q, int across) const;

    double side_;
    double bassScale_;
    double trebleScale_;
    double bassNut_;
    double trebleNut_;
    double nutSpread_;
    double bridgeSpread_;
    double overhang_[2];
    double behind_;
    double lastShare_;
    double end_;
    double endSlope_; ///< dx per unit of (treble minus bass) of a slanted end
    bool endAlongFret_;
    BoardEnd endKind_;
    double endRadius_;
};

/// The face of the board, instrument frame.
ArchedFace faceOf(const Fretboard& board);

} // namespace wren
