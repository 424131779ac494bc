{
  "blank": {
    "boards": 1,
    "gap": 14,
    "length": 505,
    "thickness": 6.2,
    "width": 75,
    "wood": "ebony"
  },
  "board": {
    "behind_zero": 5,
    "blind_margin": 0,
    "bridge_spread": 52.5,
    "end": "straight",
    "end_radius": 120,
    "far_at": "last-fret",
    "frets": 22,
    "hand": "right",
    "nut_shelf": 4,
    "nut_spread": 36.5,
    "overhang_bass": 3,
    "overhang_treble": 3,
    "past_last_fret": 8,
    "radius": 305,
    "scale": 628,
    "shelf_floor": 3,
    "slot_depth": 2,
    "slot_width": 0.58,
    "spacing": "centres",
    "square_fret": "nut",
    "strings": 6,
    "thickness": 5.5,
    "zero_fret": "yes"
  },
  "format": "upland-wren project",
  "hold": {
    "z_zero": "bed"
  },
  "machine": {
    "name": "Fell bench router"
  },
  "markers": {
    "at_octave": 2,
    "depth": 1.5,
    "frets": "3 5 7 9 12 15 17 19",
    "inlay": "pressed",
    "reach": 16,
    "shape": "dot",
    "side_below": 2,
    "side_depth": 4,
    "side_size": 2,
    "size": 5,
    "spread": 24,
    "tilt": 0,
    "tip": 1.6
  },
  "name": "Ring Ouzel",
  "version": 2
}
