"""What stands in a 3MF file, read by nothing but an unzipper and an XML reader: python3 threemf.py FILE"""
import json
import sys
import xml.etree.ElementTree as tree
import zipfile

CORE = "{http://schemas.microsoft.com/3dmanufacturing/core/2015/02}"
MATERIAL = "{http://schemas.microsoft.com/3dmanufacturing/material/2015/02}"


def measured(vertices, triangles):
    area = volume = 0.0
    for a, b, c in triangles:
        p, q, r = vertices[a], vertices[b], vertices[c]
        u, v = [q[k] - p[k] for k in range(3)], [r[k] - p[k] for k in range(3)]
        n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        area += sum(k * k for k in n) ** 0.5 / 2
        volume += sum(p[k] * n[k] for k in range(3)) / 6
    return area, volume


with zipfile.ZipFile(sys.argv[1]) as archive:
    assert archive.testzip() is None
    for name in archive.namelist():
        if name.endswith((".rels", ".xml")):
            tree.fromstring(archive.read(name))
    model = tree.fromstring(archive.read("3D/3dmodel.model"))

groups = {
    group.get("id"): [base.get("name") + " " + base.get("displaycolor") for base in group]
    for group in model.iter(CORE + "basematerials")
}
colours = {
    group.get("id"): [colour.get("color") for colour in group] for group in model.iter(MATERIAL + "colorgroup")
}
placed = [item.get("objectid") for item in model.iter(CORE + "item")]
objects = []
for item in model.iter(CORE + "object"):
    vertices = [tuple(float(v.get(k)) for k in "xyz") for v in item.iter(CORE + "vertex")]
    triangles, seen = [], set()
    for t in item.iter(CORE + "triangle"):
        triangles.append(tuple(int(t.get(k)) for k in ("v1", "v2", "v3")))
        if t.get("pid") in colours:
            seen.add(colours[t.get("pid")][int(t.get("p1"))])
    area, volume = measured(vertices, triangles)
    objects.append(
        {
            "name": item.get("name"),
            "type": item.get("type", "model"),
            "placed": placed.count(item.get("id")),
            "vertices": len(vertices),
            "triangles": len(triangles),
            "low": [min(v[k] for v in vertices) for k in range(3)],
            "high": [max(v[k] for v in vertices) for k in range(3)],
            "area": area,
            "volume": volume,
            "material": groups.get(item.get("pid"), [""])[int(item.get("pindex", 0))],
            "colours": sorted(seen),
        }
    )
print(json.dumps({"unit": model.get("unit", "millimeter"), "objects": objects}))
