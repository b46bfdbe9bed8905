// How far gcode-toolpath finds the cutter to go, and between which places: node gcode.mjs FILE
import { readFileSync } from "node:fs";
import toolpath from "gcode-toolpath";

const Toolpath = toolpath.default ?? toolpath;
// Arcs come with the two axes of their plane first.
const place = {
  G17: ({ x, y, z }) => [x, y, z],
  G18: ({ x, y, z }) => [y, z, x],
  G19: ({ x, y, z }) => [z, x, y],
};
const told = { cutting: 0, rapid: 0, moves: 0, arcs: 0, low: [1e9, 1e9, 1e9], high: [-1e9, -1e9, -1e9], tools: 0 };
const include = (at) => {
  for (let axis = 0; axis < 3; ++axis) {
    told.low[axis] = Math.min(told.low[axis], at[axis]);
    told.high[axis] = Math.max(told.high[axis], at[axis]);
  }
};
const path = new Toolpath({
  addLine: (modal, from, to) => {
    const length = Math.hypot(to.x - from.x, to.y - from.y, to.z - from.z);
    told[modal.motion === "G0" ? "rapid" : "cutting"] += length;
    told.tools = Math.max(told.tools, modal.tool);
    ++told.moves;
    include([to.x, to.y, to.z]);
  },
  addArcCurve: (modal, from, to, centre) => {
    const angle = (at) => Math.atan2(at.y - centre.y, at.x - centre.x);
    const whole = 2 * Math.PI;
    const turn = modal.motion === "G3" ? angle(to) - angle(from) : angle(from) - angle(to);
    const radius = Math.hypot(from.x - centre.x, from.y - centre.y);
    told.cutting += Math.hypot(radius * (turn - whole * Math.floor(turn / whole)), to.z - from.z);
    ++told.moves;
    ++told.arcs;
    include(place[modal.plane](to));
  },
});
path.loadFromStringSync(readFileSync(process.argv[2], "utf8"));
console.log(JSON.stringify(told));
