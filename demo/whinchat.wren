{
  "format": "upland-wren project",
  "version": 1,
  "name": "Whinchat",
  "board": {
    "strings": 6, "scale": 620, "frets": 22, "nut_width": 43, "last_fret_width": 56.5, "overhang": 3,
    "past_last_fret": 9, "radius": 300, "thickness": 6, "slot_width": 0.58, "slot_depth": 2
  },
  "blank": {"length": 500, "width": 77, "thickness": 6.8, "wood": "hard-maple"},
  "hold": {"z_zero": "bed"},
  "machine": {"name": "Fell bench router"}
}
