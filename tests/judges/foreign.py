#!/usr/bin/env python3
"""Writes a drawing by ezdxf for our reader: foreign.py FILE. Prints what stands in it, as ezdxf itself measures it."""
import json
import sys

import ezdxf
from ezdxf.math import Vec3
from ezdxf.path import make_path

drawing = ezdxf.new("R2010", setup=True)
drawing.header["$INSUNITS"] = 4
for name in ("walls", "pond", "reeds", "jetty"):
    drawing.layers.add(name)
model = drawing.modelspace()
model.add_line((0, 0, 0), (3000, 4000, 0), dxfattribs={"layer": "walls"})
model.add_arc((1000, 2000, 50), 750, 30, 300, dxfattribs={"layer": "pond"})
model.add_circle((5000, 5000), 1250, dxfattribs={"layer": "pond"})
model.add_ellipse((0, 0), (2000, 1000), 0.4, 0.5, 4.0, dxfattribs={"layer": "pond"})
model.add_lwpolyline([(0, 0, 0.5), (1000, 0, -0.3), (1000, 1000, 0), (0, 1500, 0)], format="xyb", close=True,
                     dxfattribs={"layer": "walls"})
model.add_open_spline([(0, 0, 0), (500, 800, 100), (1500, -200, 300), (2500, 900, 0), (3000, 0, 0)], degree=3,
                      dxfattribs={"layer": "reeds"})
model.add_rational_spline([(0, 0, 0), (500, 800, 0), (1500, -200, 0), (2500, 900, 0)], [1, 2, 0.5, 1], degree=3,
                          dxfattribs={"layer": "reeds"})
model.add_spline(dxfattribs={"layer": "reeds"}).set_closed([(0, 0, 0), (1000, 0, 0), (1000, 1000, 0), (0, 1000, 0)], degree=3)
model.add_polyline3d([(0, 0, 0), (100, 200, 300), (500, 200, 100)], dxfattribs={"layer": "jetty"})
post = drawing.blocks.new("post", base_point=(10, 10))
post.add_circle((10, 10), 40)
post.add_line((10, 10), (60, 10), dxfattribs={"layer": "jetty"})
row = drawing.blocks.new("row")
for at in range(4):
    row.add_blockref("post", (at * 500, 0), dxfattribs={"rotation": 20 * at, "xscale": 1.5, "yscale": 1.5})
model.add_blockref("row", (9000, 100, 0), dxfattribs={"layer": "jetty", "rotation": 33})
model.add_text("not a curve")
drawing.saveas(sys.argv[1])


def all_entities(entities):
    for entity in entities:
        if entity.dxftype() == "INSERT":
            yield from all_entities(entity.virtual_entities())
        elif entity.dxftype() != "TEXT":
            yield entity


def spline_points(entity, steps=4000):
    """De Boor's algorithm over the part of the knots where all basis functions are there."""
    degree, knots = entity.dxf.degree, list(entity.knots)
    weights = list(entity.weights) or [1.0] * len(entity.control_points)
    poles = [weighted(p, w) for p, w in zip(entity.control_points, weights)]
    begin, end = knots[degree], knots[len(poles)]
    for step in range(steps + 1):
        t = begin + (end - begin) * step / steps
        span = max(i for i in range(degree, len(poles)) if knots[i] <= t and (knots[i] < end or i == degree))
        d = [poles[span - degree + i] for i in range(degree + 1)]
        for level in range(1, degree + 1):
            for i in range(degree, level - 1, -1):
                low, high = knots[span - degree + i], knots[span + 1 + i - level]
                share = (t - low) / (high - low)
                d[i] = [a * (1 - share) + b * share for a, b in zip(d[i - 1], d[i])]
        yield Vec3(d[degree][0], d[degree][1], d[degree][2]) / d[degree][3]


def weighted(place, weight):
    return [place[0] * weight, place[1] * weight, place[2] * weight, weight]


def points_of(entity):
    if entity.dxftype() == "SPLINE":
        return list(spline_points(entity))
    return list(make_path(entity).flattening(1e-4, segments=64))


lengths = []
for entity in all_entities(model):
    points = points_of(entity)
    lengths.append(sum((b - a).magnitude for a, b in zip(points, points[1:])))
print(json.dumps({"lengths": lengths}))
