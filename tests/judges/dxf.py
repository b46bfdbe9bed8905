"""What ezdxf finds in a DXF file, and in its audit: /usr/bin/python3 dxf.py FILE"""
import json
import sys

import ezdxf

drawing = ezdxf.readfile(sys.argv[1])
audit = drawing.audit()
entities = []
for entity in drawing.modelspace():
    kind = entity.dxftype()
    told = {"kind": kind, "layer": entity.dxf.layer}
    if entity.dxf.hasattr("true_color"):
        told["colour"] = entity.dxf.true_color
    if kind == "LINE":
        told["length"] = (entity.dxf.end - entity.dxf.start).magnitude
    elif kind == "CIRCLE":
        told.update(radius=entity.dxf.radius, centre=list(entity.dxf.center))
    elif kind == "ARC":
        told.update(
            radius=entity.dxf.radius,
            centre=list(entity.dxf.center),
            start=entity.dxf.start_angle,
            end=entity.dxf.end_angle,
        )
    elif kind == "LWPOLYLINE":
        told.update(closed=entity.closed, points=[list(p) for p in entity.get_points("xyb")], z=entity.dxf.elevation)
    elif kind == "POLYLINE":
        told.update(closed=entity.is_closed, points=[list(v.dxf.location) for v in entity.vertices])
    elif kind == "SPLINE":
        told.update(
            closed=bool(entity.closed),
            degree=entity.dxf.degree,
            knots=list(entity.knots),
            weights=list(entity.weights),
            poles=[list(p) for p in entity.control_points],
            length=entity.construction_tool().length if hasattr(entity.construction_tool(), "length") else None,
        )
    elif kind == "TEXT":
        told.update(text=entity.dxf.text, at=list(entity.dxf.insert))
    elif kind == "3DFACE":
        told["corners"] = [list(entity.dxf.get("vtx%d" % k)) for k in range(4)]
    elif kind == "POINT":
        told["at"] = list(entity.dxf.location)
    entities.append(told)
print(
    json.dumps(
        {
            "version": drawing.dxfversion,
            "units": drawing.units,
            "layers": sorted(layer.dxf.name for layer in drawing.layers),
            "errors": [str(e.message) for e in audit.errors],
            "fixes": [str(e.message) for e in audit.fixes],
            "entities": entities,
        }
    )
)
