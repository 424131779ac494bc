#pragma once

namespace wren {

/// A convex cylinder lying along X: its highest line on Y = 0 at height `top`, radius in mm.
struct CylinderFace {
    double top = 0;
    double radius = 0;

    /// The surface `distance` above this one along the normal.
    CylinderFace raised(double distance) const { return {top + distance, radius + distance}; }
    double heightAt(double y) const;
};

/// Height of a ball end's tip when it touches the cylinder with its axis at `y`; `r` is the ball's
/// radius. The ball's centre runs on the cylinder's own offset by r, so the contact is exact.
double ballTipOn(const CylinderFace& face, double y, double r);

/// Height of a flat end when it touches the cylinder with its axis at `y`: its rim rests on the
/// highest point under the disc, which is the one nearest the cylinder's crown.
double flatTipOn(const CylinderFace& face, double y, double r);

/// Where the ball's axis stands when it touches the face at `contact`.
double ballAxisFor(const CylinderFace& face, double contact, double r);

/// Distance between neighbouring contacts of a ball so that the ridge between them is `scallop`
/// high, on a convex surface of radius `face.radius`: s^2 = 8 h / (1/r + 1/R), the two-circle form
/// of the scallop formula in Machinery's Handbook (h small against r).
double ballStepover(const CylinderFace& face, double scallop, double r);

} // namespace wren
