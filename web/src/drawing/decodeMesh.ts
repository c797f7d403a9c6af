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
  "amalgam",
  "composite",
];

export interface ToothMesh {
  /** In the tooth frame. */
  geometry: BufferGeometry;
  /**
   * Scale of x from the tooth frame into the space that is drawn: -1 where that frame is
   * left-handed, so that the tooth is seen as it stands in the mouth.
   */
  mesially: number;
  /** Label of each vertex, for colouring. */
  labels: Uint8Array;
}

const octahedralSteps = 63;

/** Unpacks the screen mesh; its layout is described in docs/mesh-format.md. */
export function decodeMesh(data: Schema["MeshData"]): ToothMesh {
  const read = reader(Uint8Array.from(atob(data.data), (c) => c.charCodeAt(0)));
  const positions = new Float32Array(3 * data.vertices);
  const normals = new Float32Array(3 * data.vertices);
  for (let k = 0; k < 3; k++) {
    let value = 0;
    for (let v = 0; v < data.vertices; v++) {
      value += read.signed();
      positions[3 * v + k] = value * data.step;
    }
  }
  for (let k = 0; k < 2; k++) {
    let value = 0;
    for (let v = 0; v < data.vertices; v++) {
      value += read.signed();
      normals[3 * v + k] = value / octahedralSteps;
    }
  }
  for (let v = 0; v < data.vertices; v++) unfold(normals, 3 * v);
  const triangleLabels = read.bytes(data.triangles);
  const indices = readTriangles(read, data.triangles);
  const labels = new Uint8Array(data.vertices);
  indices.forEach((index, n) => {
    labels[index] = triangleLabels[Math.floor(n / 3)] ?? 0;
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(positions, 3));
  geometry.setAttribute("normal", new BufferAttribute(normals, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  return { geometry, mesially: data.hand === "left" ? -1 : 1, labels };
}

/** Turns the first two figures of a normal, folded onto an octahedron, into a direction. */
function unfold(normals: Float32Array, at: number) {
  let x = normals[at] ?? 0;
  let y = normals[at + 1] ?? 0;
  const z = 1 - Math.abs(x) - Math.abs(y);
  if (z < 0) [x, y] = [(1 - Math.abs(y)) * (x < 0 ? -1 : 1), (1 - Math.abs(x)) * (y < 0 ? -1 : 1)];
  const length = Math.hypot(x, y, z) || 1;
  normals[at] = x / length;
  normals[at + 1] = y / length;
  normals[at + 2] = z / length;
}

const [edgesKept, cornersKept, none] = [15, 14, 15];

/** Reads triangles that mostly lean on an edge of one of the last. */
function readTriangles(read: Reader, count: number): Uint32Array {
  const indices = new Uint32Array(3 * count);
  const edges: [number, number][] = [];
  const corners: number[] = [];
  let used = 0;
  const corner = (code: number) => {
    const kind = code & 15;
    const v = kind === 0 ? used++ : kind === none ? used - read.unsigned() : (corners[kind - 1] ?? 0);
    corners.unshift(v);
    if (corners.length > cornersKept) corners.pop();
    return v;
  };
  for (let n = 0; n < count; n++) {
    const code = read.byte();
    const edge = edges[code >> 4];
    const [a, b] = edge ?? [corner(code), corner(read.byte())];
    const c = edge ? corner(code) : corner(read.byte());
    indices.set([a, b, c], 3 * n);
    edges.unshift([a, c], [c, b], [b, a]);
    edges.splice(edgesKept);
  }
  return indices;
}

type Reader = ReturnType<typeof reader>;

/** Reads varints and bytes one after the other. */
function reader(bytes: Uint8Array) {
  let at = 0;
  const unsigned = () => {
    let value = 0;
    let shift = 0;
    let byte: number;
    do {
      byte = bytes[at++] ?? 0;
      value |= (byte & 0x7f) << shift;
      shift += 7;
    } while (byte & 0x80);
    return value;
  };
  return {
    unsigned,
    signed: () => {
      const zigzag = unsigned();
      return (zigzag >>> 1) ^ -(zigzag & 1);
    },
    byte: () => bytes[at++] ?? 0,
    bytes: (count: number) => {
      at += count;
      return bytes.subarray(at - count, at);
    },
  };
}
