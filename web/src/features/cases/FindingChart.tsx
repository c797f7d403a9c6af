import clsx from "clsx";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Schema } from "@/api/client";
import { layerPath } from "@/drawing/geometry";
import { layerLook, TissuePatterns } from "@/drawing/tissues";

interface Props {
  chart: Schema["ChartView"];
  /** Pixels of the drawing. */
  size: number;
  /** Sites that hold a finding. */
  placed: string[];
  contacts: Contact[];
  /** Whether a tap marks a contact instead of a finding. */
  marking: boolean;
  onSite: (site: Schema["Site"], kind: Schema["FindingKind"]) => void;
  onContact: (at: Contact) => void;
}

type Contact = { mesial_mm: number; facial_mm: number };

/** The tooth's own drawing: tap a pit, a fissure or a surface to place a finding. */
export function FindingChart({ chart, size, placed, contacts, marking, onSite, onContact }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const [minX = 0, minY = 0, maxX = 1, maxY = 1] = chart.view.bounds;
  const scale = Math.min(size / (maxX - minX), size / (maxY - minY));
  const width = size / scale;
  const left = (minX + maxX - width) / 2;
  const top = -(minY + maxY + width) / 2;
  const px = 1 / scale;
  // The plan is turned as the mouth is seen; contacts count mesially and facially.
  const mesial = Math.sign(chart.view.u[0] ?? 1);
  const facial = Math.sign(chart.view.v[1] ?? 1);

  function mark(event: PointerEvent<SVGSVGElement>) {
    const box = drawing.current?.getBoundingClientRect();
    if (!marking || !box) return;
    const x = left + (event.clientX - box.left) / scale;
    const y = -(top + (event.clientY - box.top) / scale);
    onContact({ mesial_mm: tenth(x * mesial), facial_mm: tenth(y * facial) });
  }

  return (
    // biome-ignore lint/a11y/useSemanticElements: the drawing holds its places as a group
    <svg
      ref={drawing}
      width={size}
      height={size}
      viewBox={`${left} ${top} ${width} ${width}`}
      role="group"
      aria-label={`Places on the tooth, ${chart.view.title.toLowerCase()}`}
      className={clsx("shrink-0", marking && "cursor-crosshair")}
      onPointerUp={mark}
    >
      <TissuePatterns scale={scale} />
      {chart.view.layers.map((layer) => {
        const look = layerLook[layer.kind];
        return (
          <path
            key={layer.kind}
            d={layerPath(layer.lines)}
            fill={look?.fill ?? "none"}
            fillRule="evenodd"
            stroke={look?.stroke}
            strokeWidth={(look?.width ?? 1) * px}
          />
        );
      })}
      <g fontSize={13 * px} fill="var(--soft)">
        <text x={left + 4 * px} y={top + width - 6 * px}>
          {chart.view.left}
        </text>
        <text x={left + width - 4 * px} y={top + width - 6 * px} textAnchor="end">
          {chart.view.right}
        </text>
        <text x={left + width / 2} y={top + 13 * px} textAnchor="middle">
          {chart.view.id === "plan" ? chart.view.up : chart.view.title}
        </text>
      </g>
      {contacts.map((c) => (
        <circle
          key={`${c.mesial_mm} ${c.facial_mm}`}
          cx={c.mesial_mm * mesial}
          cy={-c.facial_mm * facial}
          r={5 * px}
          fill="none"
          stroke="var(--warn)"
          strokeWidth={2 * px}
        />
      ))}
      {marking && (
        <ContactCross
          mesial={mesial}
          facial={facial}
          px={px}
          reach={[(maxX - minX) / 2, (maxY - minY) / 2]}
          onContact={onContact}
        />
      )}
      {chart.sites.map((s) => {
        const on = placed.includes(s.site);
        const choose = () => s.kinds[0] && onSite(s.site, s.kinds[0]);
        return (
          // biome-ignore lint/a11y/useSemanticElements: a button cannot be SVG
          <g
            key={s.site}
            role="button"
            tabIndex={marking ? -1 : 0}
            aria-pressed={on}
            aria-label={`${s.label} on the drawing`}
            transform={`translate(${s.x} ${-s.y}) scale(${px})`}
            className={marking ? "pointer-events-none" : "cursor-pointer"}
            onClick={choose}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                choose();
                e.preventDefault();
              }
            }}
          >
            <title>{s.label}</title>
            <circle r={13} fill="transparent" />
            <circle
              r={7}
              fill={on ? "var(--lesion)" : "var(--sheet)"}
              stroke={on ? "var(--ink)" : "var(--accent)"}
              strokeWidth={2}
            />
          </g>
        );
      })}
    </svg>
  );
}

const tenth = (v: number) => Math.round(v * 10) / 10;

interface CrossProps {
  /** Signs of the drawing's axes: whether mesial lies to the right, facial at the top. */
  mesial: number;
  facial: number;
  px: number;
  /** mm that the cross can be moved, across and up. */
  reach: [number, number];
  onContact: (at: Contact) => void;
}

/** Marks contacts by keyboard: arrows move the cross, Enter marks where it stands. */
function ContactCross({ mesial, facial, px, reach, onContact }: CrossProps) {
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const [said, setSaid] = useState("");
  const contact = { mesial_mm: tenth(at[0] * mesial), facial_mm: tenth(at[1] * facial) };

  function onKey(e: KeyboardEvent) {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (way) {
      const step = e.shiftKey ? 1 : 0.2; // mm
      const to = at.map((v, k) => {
        const far = reach[k] ?? 0;
        return Math.min(Math.max(v + step * (way[k] ?? 0), -far), far);
      }) as [number, number];
      setAt(to);
      setSaid(inWords({ mesial_mm: tenth(to[0] * mesial), facial_mm: tenth(to[1] * facial) }));
    } else if (e.key === "Enter" || e.key === " ") {
      onContact(contact);
      setSaid(`Marked ${inWords(contact)}`);
    } else return;
    e.preventDefault();
  }

  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a button cannot be SVG */}
      <g
        role="button"
        tabIndex={0}
        aria-label={`Cross for contacts, ${inWords(contact)}: arrows move it, Enter marks`}
        transform={`translate(${at[0]} ${-at[1]}) scale(${px})`}
        className="pointer-events-none"
        onKeyDown={onKey}
      >
        <path d="M-9 0H9M0 -9V9" stroke="var(--warn)" strokeWidth={2} />
      </g>
      <foreignObject width={px} height={px} className="overflow-hidden">
        <span role="status" className="sr-only">
          {said}
        </span>
      </foreignObject>
    </>
  );
}

/** Where a contact lies from the middle of the table. */
function inWords({ mesial_mm: m, facial_mm: f }: Contact): string {
  const along = `${Math.abs(m).toFixed(1)} mm ${m < 0 ? "distal" : "mesial"}`;
  return `${along}, ${Math.abs(f).toFixed(1)} mm ${f < 0 ? "lingual" : "facial"}`;
}
