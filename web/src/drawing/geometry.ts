import type { Schema } from "@/api/client";

export type Pair = [number, number];

export function pair(values: number[]): Pair {
  return [values[0] ?? 0, values[1] ?? 0];
}

/** A line's points: x and y in turn, mm. */
export interface Polyline {
  closed: boolean;
  points: number[];
}

/** Adds up the steps that a line comes in. */
export function polyline({ steps, closed }: Schema["Line"]): Polyline {
  const points = new Array<number>(steps.length);
  const at: Pair = [0, 0];
  for (let n = 0; n < steps.length; n++) {
    const k = n % 2 === 0 ? 0 : 1;
    at[k] += steps[n] ?? 0;
    points[n] = at[k] / 1000;
  }
  return { points, closed };
}

/** SVG path of a layer's lines. */
export function layerPath(lines: Schema["Line"][]): string {
  return polylinePath(lines.map(polyline));
}

/** SVG path of lines; y grows upwards in the drawing, down on screen. */
export function polylinePath(lines: Polyline[]): string {
  const parts: string[] = [];
  for (const { points, closed } of lines) {
    for (let n = 0; n < points.length; n += 2) {
      parts.push(`${n === 0 ? "M" : "L"}${points[n]} ${-(points[n + 1] ?? 0)}`);
    }
    if (closed) parts.push("Z");
  }
  return parts.join("");
}

/** Drops a point of the tooth frame onto a view's plane. */
export function project(view: Schema["View"], point: number[]): Pair {
  const along = (axis: number[]) =>
    axis.reduce((sum, a, k) => sum + a * ((point[k] ?? 0) - (view.origin[k] ?? 0)), 0);
  return [along(view.u), along(view.v)];
}

const nudge = 1e-6; // halves round up, whichever number the value came through

/** A value with its unit, as a dentist reads it. */
export function formatValue(exact: number, unit: string): string {
  const least = unit === "deg" ? 0.05 : 0.005; // under which no sign is shown
  const value = Math.abs(exact) < least ? 0 : exact + nudge;
  switch (unit) {
    case "deg":
      return `${value.toFixed(1)}°`;
    case "mm3":
      return `${value.toFixed(2)} mm³`;
    case "ratio":
      return value.toFixed(2);
    default:
      return `${value.toFixed(2)} mm`;
  }
}

/** A target as it is meant: an end that is left out is open. */
export function formatTarget({ min, max }: Schema["Range"], unit: string): string {
  if (min === undefined) return max === undefined ? "any" : `at most ${formatValue(max, unit)}`;
  if (max === undefined) return `at least ${formatValue(min, unit)}`;
  const short = unit === "deg" ? min.toFixed(0) : min.toFixed(2);
  return `${short} to ${formatValue(max, unit)}`;
}
