// What occt-import-js finds in a STEP or IGES file, meshed finely: node exact.mjs FILE
import { readFileSync } from "node:fs";
import importer from "occt-import-js";

// The kernel chats while it reads.
const say = console.log;
console.log = () => {};
const kernel = await importer();
const file = process.argv[2];
const bytes = new Uint8Array(readFileSync(file));
const options = {
  linearUnit: "millimeter",
  linearDeflectionType: "bounding_box_ratio",
  linearDeflection: 0.0005,
  angularDeflection: 0.25,
};
const read = file.endsWith(".step") ? kernel.ReadStepFile(bytes, options) : kernel.ReadIgesFile(bytes, options);

function measured(mesh) {
  const at = mesh.attributes.position.array;
  const corners = mesh.index.array;
  let area = 0;
  let volume = 0;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < at.length; i += 3)
    for (let k = 0; k < 3; ++k) {
      low[k] = Math.min(low[k], at[i + k]);
      high[k] = Math.max(high[k], at[i + k]);
    }
  const corner = (i) => at.slice(3 * corners[i], 3 * corners[i] + 3);
  for (let i = 0; i < corners.length; i += 3) {
    const [p, q, r] = [corner(i), corner(i + 1), corner(i + 2)];
    const u = [0, 1, 2].map((k) => q[k] - p[k]);
    const v = [0, 1, 2].map((k) => r[k] - p[k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    area += Math.hypot(...n) / 2;
    volume += (p[0] * n[0] + p[1] * n[1] + p[2] * n[2]) / 6;
  }
  return { name: mesh.name, colour: mesh.color ?? null, faces: mesh.brep_faces.length, area, volume, low, high };
}

function named(node) {
  return { name: node.name, meshes: node.meshes.length, children: node.children.map(named) };
}

say(JSON.stringify({ success: read.success, root: named(read.root), meshes: read.meshes.map(measured) }));
