// What upng-js finds in a PNG that moves: node moving_png.mjs FILE
import { readFileSync } from "node:fs";
import UPNG from "upng-js";

const bytes = readFileSync(process.argv[2]);
const image = UPNG.decode(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
const pictures = UPNG.toRGBA8(image).map((buffer) => new Uint8Array(buffer));
// The first pixel of each.
console.log(
  JSON.stringify({
    width: image.width,
    height: image.height,
    delays: image.frames.map((frame) => frame.delay),
    pixels: pictures.map((picture) => Array.from(picture.slice(0, 4))),
  }),
);
