// What dxf-parser finds in a DXF file: node dxf.mjs FILE
import { readFileSync } from "node:fs";
import parser from "dxf-parser";

const Parser = parser.default ?? parser.DxfParser ?? parser;
const drawing = new Parser().parseSync(readFileSync(process.argv[2], "utf8"));
console.log(
  JSON.stringify({ entities: drawing.entities.length, layers: Object.keys(drawing.tables.layer.layers) }),
);
