"""What stands in an SVG file, by an XML reader alone: python3 svg.py FILE"""
import json
import sys
import xml.etree.ElementTree as tree

SVG = "{http://www.w3.org/2000/svg}"
root = tree.parse(sys.argv[1]).getroot()
assert root.tag == SVG + "svg"
layers = []
for group in root.iter(SVG + "g"):
    layers.append(
        {
            "id": group.get("id"),
            "title": group.findtext(SVG + "title"),
            "paths": [path.get("d") for path in group.iter(SVG + "path")],
            "strokes": sorted({path.get("stroke") for path in group.iter(SVG + "path")}),
            "dots": [[float(dot.get("cx")), float(dot.get("cy"))] for dot in group.iter(SVG + "circle")],
            "texts": [text.text for text in group.iter(SVG + "text")],
        }
    )
print(json.dumps({k: root.get(k) for k in ("width", "height", "viewBox")} | {"layers": layers}))
