"""What stands in a binary PLY file: counts and, of every property, the sum: python3 ply.py FILE"""
import json
import struct
import sys

data = open(sys.argv[1], "rb").read()
head, _, body = data.partition(b"end_header\n")
lines = head.decode().splitlines()
assert lines[0] == "ply" and lines[1] == "format binary_little_endian 1.0"
codes = {"double": "d", "float": "f", "uchar": "B", "uint": "I", "int": "i"}
elements, comments = [], []
for line in lines[2:]:
    words = line.split()
    if words[0] == "comment":
        comments.append(" ".join(words[1:]))
    elif words[0] == "element":
        elements.append({"name": words[1], "count": int(words[2]), "properties": []})
    else:
        elements[-1]["properties"].append(words[1:])
at = 0
told = {}
for element in elements:
    sums = {}
    for _ in range(element["count"]):
        for words in element["properties"]:
            if words[0] == "list":
                (count,) = struct.unpack_from("<" + codes[words[1]], body, at)
                at += struct.calcsize(codes[words[1]])
                values = struct.unpack_from("<%d%s" % (count, codes[words[2]]), body, at)
                at += struct.calcsize("<%d%s" % (count, codes[words[2]]))
                sums["corners"] = sums.get("corners", 0) + count
                sums[words[3]] = sums.get(words[3], 0) + sum(values)
            else:
                (value,) = struct.unpack_from("<" + codes[words[0]], body, at)
                at += struct.calcsize("<" + codes[words[0]])
                sums[words[1]] = sums.get(words[1], 0) + value
    told[element["name"]] = {"count": element["count"], "sums": sums}
assert at == len(body), "bytes are left over or missing"
print(json.dumps({"comments": comments, "elements": told}))
