#!/usr/bin/env python3
"""A second reader of posted programs, written apart from the product and sharing nothing with it.

Reads only what the programs use: G0 to G3 in the XY plane with I and J, modal words, G20 and G21.
Prints JSON: extents over every programmed point (arcs by their extreme points), the distinct X of
the moves that run across (for slots), the lowest Z, and how far the tip travels at a feed.
usage: second_reader.py FILE.nc
"""
import json
import math
import re
import sys

position = {"X": None, "Y": None, "Z": None}
mode, scale = 0, 1.0
points, across = [], {}
cut_length = 0.0


def arc_points(start, end, i, j, clockwise):
    cx, cy = start[0] + i, start[1] + j
    radius = math.hypot(i, j)
    a0 = math.atan2(start[1] - cy, start[0] - cx)
    a1 = math.atan2(end[1] - cy, end[0] - cx)
    if clockwise and a1 >= a0:
        a1 -= 2 * math.pi
    if not clockwise and a1 <= a0:
        a1 += 2 * math.pi
    steps = [a0 + (a1 - a0) * k / 360 for k in range(361)]
    return [(cx + radius * math.cos(a), cy + radius * math.sin(a)) for a in steps], radius * abs(a1 - a0)


for raw in open(sys.argv[1]):
    line = re.sub(r"\(.*?\)", "", raw).strip()
    words = re.findall(r"([A-Z])\s*(-?\d*\.?\d+)", line)
    given, i, j = {}, 0.0, 0.0
    for letter, number in words:
        value = float(number)
        if letter == "G" and value in (0, 1, 2, 3):
            mode = int(value)
        elif letter == "G" and value == 20:
            scale = 25.4
        elif letter == "G" and value == 21:
            scale = 1.0
        elif letter in "XYZ":
            given[letter] = value * scale
        elif letter == "I":
            i = value * scale
        elif letter == "J":
            j = value * scale
    if not given:
        continue
    before = dict(position)
    position.update(given)
    if position["X"] is None or position["Y"] is None:
        continue
    here = (position["X"], position["Y"], position["Z"])
    points.append(here)
    if mode in (1, 2, 3):
        start = (before["X"], before["Y"], before["Z"])
        if mode == 1:
            cut_length += math.dist(start, here)
            if abs(start[0] - here[0]) < 1e-6 and abs(start[1] - here[1]) > 1e-6:
                across[round(here[0], 3)] = across.get(round(here[0], 3), 0) + 1
        else:
            way, flat = arc_points(start, here, i, j, mode == 2)
            points += [(x, y, here[2]) for x, y in way]
            cut_length += math.hypot(flat, here[2] - start[2])

print(json.dumps({
    "min": [min(p[k] for p in points) for k in range(3)],
    "max": [max(p[k] for p in points) for k in range(3)],
    "across": sorted(across),
    "cut_mm": cut_length,
}))
