// What gltf-validator finds in a GLB file: node gltf.mjs FILE
import { readFileSync } from "node:fs";
import validator from "gltf-validator";

const report = await validator.validateBytes(new Uint8Array(readFileSync(process.argv[2])), {
  maxIssues: 20,
});
console.log(JSON.stringify(report));
