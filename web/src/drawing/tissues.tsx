/** Fill and line of each layer; tissues differ by texture as well as tone. */
export const layerLook: Record<string, { fill?: string; stroke: string; width: number; dash?: string }> = {
  crown: { fill: "url(#enamel)", stroke: "var(--ink)", width: 1.4 },
  root: { fill: "url(#root-surface)", stroke: "var(--ink)", width: 1.4 },
  crest: { stroke: "var(--soft)", width: 1.2 },
  relief: { stroke: "var(--relief)", width: 0.7 },
  groove: { stroke: "var(--soft)", width: 1.1 },
  neighbour: { stroke: "var(--soft)", width: 1 },
  bite: { stroke: "var(--warn)", width: 1.6 },
  cervical_line: { stroke: "var(--dentin-edge)", width: 1.6 },
  gingiva: { stroke: "var(--pulp-edge)", width: 1.3, dash: "7 3" },
  contact: { stroke: "var(--soft)", width: 1, dash: "2 2" },
  uncut: { stroke: "var(--soft)", width: 0.9, dash: "4 3" },
  enamel: { fill: "url(#enamel)", stroke: "var(--ink)", width: 1.4 },
  dentin: { fill: "var(--dentin)", stroke: "var(--dentin-edge)", width: 0.9 },
  pulp: { fill: "var(--pulp)", stroke: "var(--pulp-edge)", width: 0.9 },
  lesion: { fill: "url(#lesion)", stroke: "var(--lesion)", width: 1, dash: "3 2" },
  kept: { fill: "url(#kept)", stroke: "var(--lesion)", width: 1.2 },
  filling: { fill: "url(#filling)", stroke: "var(--soft)", width: 1, dash: "6 2 1 2" },
  cavity: { fill: "var(--cut)", stroke: "var(--ink)", width: 1.6 },
  bevel: { fill: "var(--bevel)", stroke: "var(--ink)", width: 0.6 },
  seal: { stroke: "var(--accent)", width: 2.4, dash: "1 4" },
  floor: { fill: "var(--dentin)", stroke: "var(--ink)", width: 0.8 },
  drawn: { stroke: "var(--accent)", width: 1.4, dash: "5 3" },
  shank: { stroke: "var(--ink)", width: 1 },
  odd_increment: { fill: "url(#odd-increment)", stroke: "var(--accent)", width: 1.2 },
  even_increment: { fill: "url(#even-increment)", stroke: "var(--accent)", width: 1.2 },
  amalgam: { fill: "url(#amalgam)", stroke: "var(--ink)", width: 1.2 },
  protection: { fill: "url(#protection)", stroke: "var(--warn)", width: 1.2 },
  band: { stroke: "var(--warn)", width: 2.4 },
  wedge: { fill: "url(#wedge)", stroke: "var(--dentin-edge)", width: 1.2 },
  bur: { fill: "var(--bur)", stroke: "var(--ink)", width: 1.2 },
};

/** Textures in screen pixels; scale is pixels a millimetre. */
export function TissuePatterns({ scale }: { scale: number }) {
  const dots = 7 / scale;
  const hatch = 5 / scale;
  return (
    <defs>
      <pattern id="enamel" width={dots} height={dots} patternUnits="userSpaceOnUse">
        <rect width={dots} height={dots} fill="var(--enamel)" />
        <circle cx={dots / 2} cy={dots / 2} r={0.6 / scale} fill="var(--enamel-dot)" />
      </pattern>
      <pattern id="root-surface" width={dots} height={dots} patternUnits="userSpaceOnUse">
        <rect width={dots} height={dots} fill="var(--root)" />
        <path d={`M${dots / 2} 0V${dots / 2}`} stroke="var(--root-dash)" strokeWidth={1 / scale} />
      </pattern>
      <Hatch id="lesion" angle={45} apart={hatch} stroke="var(--lesion)" width={1.2 / scale} tint={0.16} />
      <Hatch id="kept" angle={-45} apart={hatch / 2} stroke="var(--lesion)" width={1 / scale} tint={0.3} />
      <Hatch
        id="odd-increment"
        angle={30}
        apart={hatch}
        stroke="var(--accent)"
        width={0.7 / scale}
        tint={0.22}
      />
      <Hatch
        id="even-increment"
        angle={-60}
        apart={2 * hatch}
        stroke="var(--accent)"
        width={0.7 / scale}
        tint={0.08}
      />
      <Hatch id="amalgam" angle={45} apart={hatch} stroke="var(--soft)" width={0.8 / scale} tint={0.2} />
      <Hatch
        id="protection"
        angle={90}
        apart={hatch / 2}
        stroke="var(--warn)"
        width={0.7 / scale}
        tint={0.18}
      />
      <Hatch id="wedge" angle={0} apart={hatch} stroke="var(--dentin-edge)" width={0.8 / scale} tint={0.25} />
      <Hatch id="filling" angle={-45} apart={hatch} stroke="var(--soft)" width={0.8 / scale} />
    </defs>
  );
}

interface HatchProps {
  id: string;
  angle: number;
  apart: number;
  stroke: string;
  width: number;
  /** Share of the stroke's colour between the strokes. */
  tint?: number;
}

function Hatch({ id, angle, apart, stroke, width, tint }: HatchProps) {
  return (
    <pattern
      id={id}
      width={apart}
      height={apart}
      patternUnits="userSpaceOnUse"
      patternTransform={`rotate(${angle})`}
    >
      {tint && <rect width={apart} height={apart} fill={stroke} opacity={tint} />}
      <path d={`M0 0V${apart}`} stroke={stroke} strokeWidth={width} />
    </pattern>
  );
}
