import { BufferAttribute, BufferGeometry } from "three";
import type { Schema } from "@/api/client";

/** Labels of the triangles; see docs/mesh-format.md. */
export const labelNames = [
  "outer enamel",
  "root surface",
  "enamel wall",
  "dentin wall",
  "floor",
  "lesion left",
  "pulp",
  "bevel",
];

export interface ToothMesh {
  geometry: BufferGeometry;
  mirrored: boolean;
  /** Label of each vertex, for colouring. */
  labels: Uint8Array;
}

/** Unpacks the screen mesh: quantised vertices, a label a triangle, delta-coded indices. */
export function decodeMesh(data: Schema["MeshData"]): ToothMesh {
  const bytes = Uint8Array.from(atob(data.data), (c) => c.charCodeAt(0));
  const view = new DataView(bytes.buffer);
  const positions = new Float32Array(3 * data.vertices);
  const normals = new Float32Array(3 * data.vertices);
  let at = 0;
  for (let v = 0; v < data.vertices; v++) {
    for (let k = 0; k < 3; k++) positions[3 * v + k] = view.getInt16(at + 2 * k, true) / 1000;
    for (let k = 0; k < 3; k++) normals[3 * v + k] = view.getInt8(at + 6 + k) / 127;
    at += 9;
  }
  const triangleLabels = bytes.subarray(at, at + data.triangles);
  at += data.triangles;
  const indices = new Uint32Array(3 * data.triangles);
  const labels = new Uint8Array(data.vertices);
  let index = 0;
  for (let n = 0; n < indices.length; n++) {
    let zigzag = 0;
    let shift = 0;
    let byte: number;
    do {
      byte = bytes[at++] ?? 0;
      zigzag |= (byte & 0x7f) << shift;
      shift += 7;
    } while (byte & 0x80);
    index += (zigzag >>> 1) ^ -(zigzag & 1);
    indices[n] = index;
    labels[index] = triangleLabels[Math.floor(n / 3)] ?? 0;
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(positions, 3));
  geometry.setAttribute("normal", new BufferAttribute(normals, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  return { geometry, mirrored: data.mirrored, labels };
}
