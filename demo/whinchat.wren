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
  "neck": {"joint": "bolt-on", "stations": "1 20.5 C, 12 22.5 D", "thickness_over": "both",
    "shoulder": 3, "heel_length": 76, "heel_depth": 18, "heel_shape": "rounded", "pin_frets": "2 19"},
  "head": {"kind": "flat", "drop": 6, "curve": 22, "thickness": 14},
  "rod": {"from": "top", "width": 6.35, "depth": 9.5, "length": 430, "adjuster": "heel"},
  "neck_blank": {"thickness": 25.4, "wood": "hard-maple", "strips": 3},
  "neck_hold": {"turn": "side-for-side", "register": "pins"},
  "hold": {"z_zero": "bed"},
  "machine": {"name": "Fell bench router"}
}
