// What web-ifc finds in an IFC file: node ifc.mjs FILE
import { readFileSync } from "node:fs";
import * as web from "web-ifc";

const say = console.log;
console.log = console.warn = console.error = () => {};
const api = new web.IfcAPI();
await api.Init();
api.SetLogLevel?.(web.LogLevel?.LOG_LEVEL_OFF ?? 6);
const model = api.OpenModel(new Uint8Array(readFileSync(process.argv[2])));
const count = (type) => api.GetLineIDsWithType(model, type).size();
const value = (field) => (field && typeof field === "object" && "value" in field ? field.value : field);

// Numbers of elements, by their express number.
const properties = {};
const relations = api.GetLineIDsWithType(model, web.IFCRELDEFINESBYPROPERTIES);
for (let at = 0; at < relations.size(); ++at) {
  const relation = api.GetLine(model, relations.get(at));
  const set = api.GetLine(model, relation.RelatingPropertyDefinition.value);
  for (const related of relation.RelatedObjects) {
    const told = (properties[related.value] ??= {});
    for (const item of set.HasProperties ?? set.Quantities ?? []) {
      const one = api.GetLine(model, item.value);
      told[value(one.Name)] = value(
        one.NominalValue ?? one.LengthValue ?? one.AreaValue ?? one.VolumeValue,
      );
    }
  }
}

const elements = [];
api.StreamAllMeshes(model, (mesh) => {
  let area = 0;
  let volume = 0;
  let colour = null;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let at = 0; at < mesh.geometries.size(); ++at) {
    const placed = mesh.geometries.get(at);
    colour = placed.color;
    const geometry = api.GetGeometry(model, placed.geometryExpressID);
    const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
    const corners = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
    const m = placed.flatTransformation;
    const place = (i) => {
      const [x, y, z] = vertices.slice(6 * i, 6 * i + 3);
      return [0, 1, 2].map((k) => m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k]);
    };
    for (let i = 0; i < corners.length; i += 3) {
      const [p, q, r] = [place(corners[i]), place(corners[i + 1]), place(corners[i + 2])];
      for (const v of [p, q, r])
        for (let k = 0; k < 3; ++k) {
          low[k] = Math.min(low[k], v[k]);
          high[k] = Math.max(high[k], v[k]);
        }
      const u = [0, 1, 2].map((k) => q[k] - p[k]);
      const w = [0, 1, 2].map((k) => r[k] - p[k]);
      const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
      area += Math.hypot(...n) / 2;
      volume += (p[0] * n[0] + p[1] * n[1] + p[2] * n[2]) / 6;
    }
  }
  const line = api.GetLine(model, mesh.expressID);
  elements.push({
    kind: line.constructor.name,
    name: value(line.Name),
    id: value(line.GlobalId),
    colour,
    area,
    volume,
    low,
    high,
    numbers: properties[mesh.expressID] ?? {},
  });
});

const names = (type) => {
  const ids = api.GetLineIDsWithType(model, type);
  return Array.from({ length: ids.size() }, (_, at) => value(api.GetLine(model, ids.get(at)).Name));
};
say(
  JSON.stringify({
    schema: api.GetModelSchema(model),
    projects: names(web.IFCPROJECT),
    sites: count(web.IFCSITE),
    buildings: count(web.IFCBUILDING),
    storeys: names(web.IFCBUILDINGSTOREY),
    materials: names(web.IFCMATERIAL),
    members: count(web.IFCMEMBER),
    swept: count(web.IFCEXTRUDEDAREASOLID),
    profiles: count(web.IFCARBITRARYCLOSEDPROFILEDEF) + count(web.IFCARBITRARYPROFILEDEFWITHVOIDS),
    elements,
  }),
);
