"""The exact shapes of an IFC file, entity by entity, as the STEP file that has the same ones (both stand on
ISO 10303-42), for readers of STEP: ifc_shapes.py FILE.ifc FILE.step"""

import re
import sys

PLAIN = {  # what has the same attributes behind a name
    "IFCCARTESIANPOINT": "CARTESIAN_POINT",
    "IFCDIRECTION": "DIRECTION",
    "IFCAXIS2PLACEMENT3D": "AXIS2_PLACEMENT_3D",
    "IFCPLANE": "PLANE",
    "IFCPOLYLINE": "POLYLINE",
    "IFCVERTEXPOINT": "VERTEX_POINT",
    "IFCEDGECURVE": "EDGE_CURVE",
    "IFCORIENTEDEDGE": "ORIENTED_EDGE",
    "IFCEDGELOOP": "EDGE_LOOP",
    "IFCFACEOUTERBOUND": "FACE_OUTER_BOUND",
    "IFCFACEBOUND": "FACE_BOUND",
    "IFCADVANCEDFACE": "ADVANCED_FACE",
    "IFCCLOSEDSHELL": "CLOSED_SHELL",
    "IFCOPENSHELL": "OPEN_SHELL",
    "IFCADVANCEDBREP": "MANIFOLD_SOLID_BREP",
    "IFCSHELLBASEDSURFACEMODEL": "SHELL_BASED_SURFACE_MODEL",
    "IFCBSPLINECURVEWITHKNOTS": "B_SPLINE_CURVE_WITH_KNOTS",
    "IFCBSPLINESURFACEWITHKNOTS": "B_SPLINE_SURFACE_WITH_KNOTS",
}


def attributes(text):
    """The attributes between the outermost commas."""
    found, depth, start = [], 0, 0
    for at, character in enumerate(text):
        depth += (character == "(") - (character == ")")
        if character == "," and depth == 0:
            found.append(text[start:at])
            start = at + 1
    return found + [text[start:]]


def translated(kind, text):
    if kind in PLAIN:
        return f"{PLAIN[kind]}('',{text})"
    told = attributes(text)
    if kind == "IFCRATIONALBSPLINECURVEWITHKNOTS":
        return (
            f"(BOUNDED_CURVE()B_SPLINE_CURVE({','.join(told[:5])})B_SPLINE_CURVE_WITH_KNOTS({','.join(told[5:8])})"
            f"CURVE()GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_CURVE({told[8]})REPRESENTATION_ITEM(''))"
        )
    if kind == "IFCRATIONALBSPLINESURFACEWITHKNOTS":
        return (
            f"(BOUNDED_SURFACE()B_SPLINE_SURFACE({','.join(told[:7])})B_SPLINE_SURFACE_WITH_KNOTS({','.join(told[7:12])})"
            f"GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_SURFACE({told[12]})REPRESENTATION_ITEM('')SURFACE())"
        )
    return None


FRAME = """#{0}=APPLICATION_CONTEXT('mechanical design');
#{1}=APPLICATION_PROTOCOL_DEFINITION('international standard','automotive_design',2000,#{0});
#{2}=PRODUCT_CONTEXT('',#{0},'mechanical');
#{3}=PRODUCT('it','it','',(#{2}));
#{4}=PRODUCT_DEFINITION_FORMATION('','',#{3});
#{5}=PRODUCT_DEFINITION_CONTEXT('part definition',#{0},'design');
#{6}=PRODUCT_DEFINITION('design','',#{4},#{5});
#{7}=PRODUCT_DEFINITION_SHAPE('','',#{6});
#{8}=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT({prefix},.METRE.));
#{9}=(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.));
#{10}=(NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT());
#{11}=UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-06),#{8},'distance_accuracy_value','');
#{12}=(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((#{11}))GLOBAL_UNIT_ASSIGNED_CONTEXT((#{8},#{9},#{10}))REPRESENTATION_CONTEXT('',''));
#{13}=SHAPE_REPRESENTATION('it',({shapes}),#{12});
#{14}=SHAPE_DEFINITION_REPRESENTATION(#{7},#{13});
"""


def main():
    with open(sys.argv[1], encoding="ascii") as file:
        text = file.read()
    lines, shapes, last = [], [], 0
    for number, kind, told in re.findall(r"^#(\d+)=(IFC\w+)\((.*)\);$", text, re.M):
        last = max(last, int(number))
        line = translated(kind, told)
        if line:
            lines.append(f"#{number}={line};")
        if kind in ("IFCADVANCEDBREP", "IFCSHELLBASEDSURFACEMODEL"):
            shapes.append("#" + number)
    unit = re.search(r"IFCSIUNIT\(\*,\.LENGTHUNIT\.,([^,]*),\.METRE\.\)", text)
    frame = FRAME.format(*range(last + 1, last + 16), prefix=unit.group(1), shapes=",".join(shapes))
    with open(sys.argv[2], "w", encoding="ascii") as file:
        file.write("ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\n")
        file.write("FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));\nENDSEC;\nDATA;\n")
        file.write("\n".join(lines) + "\n" + frame + "ENDSEC;\nEND-ISO-10303-21;\n")


main()
