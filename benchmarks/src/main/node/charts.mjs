// Cuts a mesh into charts and packs them with the reference library for charts (xatlas, compiled to
// WebAssembly: the npm package watlas). Usage: node charts.mjs PACKAGE IN OUT SIZE PADDING
//
// IN holds, little-endian, the numbers of vertices and of triangles, then 3 floats a vertex and 3
// ints a triangle. OUT gets the number of corners in texture space, 2 floats each in shares of the
// picture's larger side, and 3 ints a triangle into them. Says seconds, charts, width and height.
import { readFileSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';

const [library, input, output, size, padding] = process.argv.slice(2);
const watlas = await import(pathToFileURL(library).href);
await watlas.Initialize();
const bytes = readFileSync(input);
const data = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
const [vertices, triangles] = new Uint32Array(data, 0, 2);
const positions = new Float32Array(data, 8, 3 * vertices);
const indices = new Uint32Array(data, 8 + 12 * vertices, 3 * triangles);
const atlas = new watlas.Atlas();
const begun = performance.now();
atlas.addMesh({
  vertexPositionData: positions,
  vertexCount: vertices,
  vertexPositionStride: 12,
  indexData: indices,
  indexCount: indices.length,
});
atlas.generate({}, { resolution: Number(size), padding: Number(padding) });
const seconds = (performance.now() - begun) / 1000;
const mesh = atlas.getMesh(0);
const corners = new Uint32Array(mesh.indexCount);
mesh.getIndexArray(corners);
const side = Math.max(atlas.width, atlas.height);
const out = new ArrayBuffer(4 + 8 * mesh.vertexCount + 4 * corners.length);
new Uint32Array(out, 0, 1)[0] = mesh.vertexCount;
const uv = new Float32Array(out, 4, 2 * mesh.vertexCount);
for (let v = 0; v < mesh.vertexCount; v++) {
  const at = mesh.getVertex(v).uv;
  uv[2 * v] = at[0] / side;
  uv[2 * v + 1] = at[1] / side;
}
new Uint32Array(out, 4 + 8 * mesh.vertexCount).set(corners);
writeFileSync(output, new Uint8Array(out));
console.log(seconds, atlas.chartCount, atlas.width, atlas.height);
process.exit(0);
