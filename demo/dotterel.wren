{
  "blank": {
    "boards": 1,
    "gap": 14,
    "length": 705,
    "thickness": 7.4,
    "width": 94,
    "wood": "wenge"
  },
  "board": {
    "behind_zero": 5,
    "blind_margin": 0,
    "bridge_spread": 76,
    "end": "slanted",
    "end_radius": 120,
    "far_at": "last-fret",
    "frets": 24,
    "hand": "right",
    "nut_shelf": 0,
    "nut_spread": 40,
    "overhang_bass": 3,
    "overhang_treble": 3,
    "past_last_fret": 8,
    "radius": 350,
    "scale": 864,
    "shelf_floor": 3,
    "slot_depth": 2,
    "slot_width": 0.58,
    "spacing": "centres",
    "square_fret": "7",
    "strings": 5,
    "thickness": 6.4,
    "treble_scale": 813,
    "zero_fret": "no"
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
    "depth": 1.6,
    "frets": "3 5 7 9 12 15 17 19 21 24",
    "inlay": "filled",
    "reach": 12,
    "shape": "wrap",
    "side_below": 2,
    "side_depth": 4,
    "side_frets": "3 5 7 9 12 15 17 19 21 24",
    "side_size": 2,
    "size": 7,
    "spread": 22,
    "tilt": 0,
    "tip": 1.6
  },
  "name": "Dotterel",
  "version": 2
}
