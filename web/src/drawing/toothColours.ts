import { BufferAttribute, Color } from "three";
import type { ToothMesh } from "./decodeMesh";

/** Colours by label: porcelain, root, cut enamel, dentin, floor, lesion, pulp, bevel, amalgam, composite. */
const tones = {
  light: [
    "#f4f4f0",
    "#dcc79a",
    "#c3d0da",
    "#e2c886",
    "#e9d59c",
    "#6b4a2b",
    "#cf8f8a",
    "#dfe7ec",
    "#8d9297",
    "#ecdfba",
  ],
  dark: [
    "#d3d7d6",
    "#b59f70",
    "#9db0be",
    "#c2a866",
    "#cdb878",
    "#8f6a45",
    "#b9736e",
    "#bccbd6",
    "#70777d",
    "#c9ba8d",
  ],
};

/** Gives each vertex the tone of its label. */
export function colourByLabel(tooth: ToothMesh, theme: "light" | "dark") {
  const palette = tones[theme].map((hex) => new Color(hex));
  const colours = new Float32Array(3 * tooth.labels.length);
  tooth.labels.forEach((label, v) => {
    palette[label]?.toArray(colours, 3 * v);
  });
  tooth.geometry.setAttribute("color", new BufferAttribute(colours, 3));
}

let software: boolean | undefined;

/** Whether the browser draws without a graphics processor, which is slow. */
export function softwareRendering(): boolean {
  if (software === undefined) {
    const gl = document.createElement("canvas").getContext("webgl2");
    const info = gl?.getExtension("WEBGL_debug_renderer_info");
    const renderer = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : "";
    software = gl === null || /swiftshader|llvmpipe|software|basic render/i.test(renderer);
    gl?.getExtension("WEBGL_lose_context")?.loseContext();
  }
  return software;
}
