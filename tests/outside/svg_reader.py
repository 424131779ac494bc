#!/usr/bin/env python3
"""Reads an SVG drawing with the standard XML reader and prints its layers' paths as JSON, Y upward."""
import json
import re
import sys
import xml.etree.ElementTree as tree

SVG = "{http://www.w3.org/2000/svg}"
root = tree.parse(sys.argv[1]).getroot()
layers = {}
for group in root.findall(SVG + "g"):
    shapes = layers.setdefault(group.get("id"), [])
    for path in group.findall(SVG + "path"):
        points, arcs = [], []
        for letter, rest in re.findall(r"([MLAZ])([^MLAZ]*)", path.get("d")):
            numbers = [float(n) for n in re.findall(r"-?[0-9.]+", rest)]
            if letter in "ML":
                points.append([numbers[0], -numbers[1]])
            elif letter == "A":
                arcs.append(numbers[0])
                points.append([numbers[5], -numbers[6]])
        shapes.append({"points": points, "arcs": arcs, "closed": path.get("d").endswith("Z")})
    for circle in group.findall(SVG + "circle"):
        shapes.append({"centre": [float(circle.get("cx")), -float(circle.get("cy"))],
                       "radius": float(circle.get("r"))})
print(json.dumps({"width": root.get("width"), "view": root.get("viewBox"), "layers": layers}))
