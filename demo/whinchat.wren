{
  "format": "upland-wren project",
  "version": 2,
  "name": "Whinchat",
  "board": {
    "strings": 6, "scale": 620, "frets": 22, "nut_width": 43, "last_fret_width": 56.5, "overhang": 3,
    "past_last_fret": 9, "radius": 250, "far_radius": 400, "thickness": 6, "slot_width": 0.58,
    "slot_depth": 2
  },
  "markers": {"frets": "3 5 7 9 12 15 17 19 21", "shape": "leaf", "size": 6, "reach": 16, "tip": 1.8,
    "tilt": 0, "depth": 1.5, "spread": 24, "side_frets": "3 5 7 9 12 15 17 19 21"},
  "blank": {"length": 500, "width": 77, "thickness": 6.8, "wood": "hard-maple"},
  "hold": {"z_zero": "bed"},
  "machine": {"name": "Fell bench router"}
}
