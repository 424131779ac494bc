{
  "format": "upland-wren project",
  "sawing": {
    "boards": [
      {"length": 1600, "thickness": 32, "width": 135, "wood": "hard-maple"},
      {"length": 900, "thickness": 12, "width": 95, "wood": "hard-maple"},
      {"length": 1150, "thickness": 42, "width": 392, "wood": "white-ash"},
      {"length": 1300, "thickness": 14, "width": 395, "wood": "cherry"}
    ]
  },
  "version": 2,
  "name": "Whinchat",
  "board": {
    "strings": 6, "scale": 620, "frets": 22, "nut_width": 43, "last_fret_width": 56.5, "overhang": 3,
    "past_last_fret": 9, "radius": 250, "far_radius": 400, "thickness": 6, "slot_width": 0.58,
    "slot_depth": 2,
    "gauges": [
      {"thickness": 1.17, "note": "E2", "wound": "yes", "core": 0.41, "weight": 6.8},
      {"thickness": 0.91, "note": "A2", "wound": "yes", "core": 0.38, "weight": 4.3},
      {"thickness": 0.66, "note": "D3", "wound": "yes", "core": 0.33, "weight": 2.3},
      {"thickness": 0.43, "note": "G3"}, {"thickness": 0.33, "note": "B3"}, {"thickness": 0.25, "note": "E4"}
    ]
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
  "body": {"build": "topped", "thickness": 42, "top": 8, "top_spare": 1.5, "wood": "white-ash",
    "top_wood": "cherry", "straps": "116 4, -252 -92",
    "chambers": "-205 -120 r12, -140 -98 r12, -112 -70 r12, -150 -60 r12, -222 -52 r12; -44 -94 s, 0 -106 s, 40 -98 s, 62 -70 s, 48 -50 r12, -20 -52 r12",
    "front_edge": "round", "front_edge_size": 3.5, "back_edge": "round", "back_edge_size": 3.5,
    "front_slopes": "20 -128 116 -40 14 40", "back_slopes": "-140 -112 -10 -128 14 60 20",
    "channels": "-146 40 -60 52 8 14; -60 52 0 74 8 14",
    "engravings": "back words -75 -30 9 0 0.5: Whinchat 1 of 3"},
  "neck_pocket": {"depth": 16, "clearance": 0.08},
  "pickup1": {"kind": "single", "from_bridge": 143},
  "pickup2": {"kind": "two-coil", "from_bridge": 46},
  "bridge": {"kind": "through-body"},
  "cavity": {"outline": "-8 62 r12, 44 56 r14, 82 66 r12, 74 112 r14, 36 136 r14, -8 118 r12",
    "controls": "pot 10 92, pot 44 102, toggle 62 80"},
  "hold": {"z_zero": "bed"},
  "machine": {"name": "Fell bench router"}
}
