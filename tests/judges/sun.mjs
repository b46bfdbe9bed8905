// Where astronomy-engine finds the sun: node sun.mjs FILE, a list of [latitude, longitude, instant in UTC].
// Bearing from north over east and height as it is seen, in degrees.
import { readFileSync } from "node:fs";
import { Body, Equator, Horizon, Observer } from "astronomy-engine";

const asked = JSON.parse(readFileSync(process.argv[2], "utf8"));
const answer = asked.map(([latitude, longitude, instant]) => {
  const time = new Date(instant);
  const observer = new Observer(latitude, longitude, 0);
  const place = Equator(Body.Sun, time, observer, true, true);
  const horizon = Horizon(time, observer, place.ra, place.dec, "normal");
  return [horizon.azimuth, horizon.altitude];
});
console.log(JSON.stringify({ answer }));
