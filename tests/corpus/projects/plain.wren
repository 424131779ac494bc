{
  "format": "upland-wren project",
  "version": 2,
  "name": "Whinchat",
  "board": {"strings": 6, "scale": 620, "frets": 22, "nut_width": 43, "last_fret_width": 56.5, "overhang": 3, "past_last_fret": 9, "radius": 300, "thickness": 6, "slot_width": 0.58, "slot_depth": 2},
  "blank": {"length": 500, "width": 77, "thickness": 6.8, "wood": "hard-maple"},
  "cut": {"wall_skin": 0, "face_blank": "never"},
  "hold": {"z_zero": "bed"},
  "machine": {"name": "Fell bench router"},
  "bits": [
    {"name": "slot-0.58", "kind": "fret-slot", "diameter": 0.58, "flute_length": 3.5, "flutes": 2, "shank": 3.175},
    {"name": "slot-0.55-long", "kind": "fret-slot", "diameter": 0.55, "flute_length": 5.5, "flutes": 2, "shank": 3.175},
    {"name": "flat-3", "kind": "flat", "diameter": 3, "flute_length": 12, "flutes": 2, "shank": 3},
    {"name": "flat-6", "kind": "flat", "diameter": 6, "flute_length": 22, "flutes": 2, "shank": 6},
    {"name": "ball-6", "kind": "ball", "diameter": 6, "flute_length": 22, "flutes": 2, "shank": 6},
    {"name": "ball-12", "kind": "ball", "diameter": 12, "flute_length": 32, "flutes": 2, "shank": 12}
  ]
}
