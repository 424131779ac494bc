#!/usr/bin/env python3
"""Reads a DXF file with ezdxf and prints its units and entities as JSON."""
import json
import sys

import ezdxf

document = ezdxf.readfile(sys.argv[1])
auditor = document.audit()
entities = []
for e in document.modelspace():
    one = {"type": e.dxftype(), "layer": e.dxf.layer}
    if e.dxftype() == "LINE":
        one["from"] = list(e.dxf.start)[:2]
        one["to"] = list(e.dxf.end)[:2]
    elif e.dxftype() == "ARC":
        one["from"] = list(e.start_point)[:2]
        one["to"] = list(e.end_point)[:2]
        one["centre"] = list(e.dxf.center)[:2]
        one["radius"] = e.dxf.radius
    elif e.dxftype() == "CIRCLE":
        one["centre"] = list(e.dxf.center)[:2]
        one["radius"] = e.dxf.radius
    elif e.dxftype() == "TEXT":
        one["text"] = e.dxf.text
    entities.append(one)
print(json.dumps({"version": document.dxfversion, "units": document.units,
                  "errors": len(auditor.errors), "entities": entities}))
