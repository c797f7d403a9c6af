import { useEffect, useRef, useState } from "react";

interface Deeds {
  next: () => void;
  back: () => void;
  skip: () => void;
  pause: () => void;
  clock: () => void;
  view: () => void;
  neighbour: () => void;
  pulp: () => void;
  tooDeep: (mm: number) => void;
  reading: (mm: number) => void;
}

const byKey: Record<string, Exclude<keyof Deeds, "tooDeep" | "reading">> = {
  " ": "next",
  ArrowRight: "next",
  PageDown: "next", // what foot switches send that act as a keyboard
  ArrowLeft: "back",
  PageUp: "back",
  s: "skip",
  p: "pause",
  c: "clock",
  v: "view",
  n: "neighbour",
  u: "pulp",
};

const holdMilliseconds = 2_500; // in which a second key completes the first

/**
 * The chair by single keys. Two digits are a reading in tenths of a millimetre; D and a
 * digit say by how many tenths a cut is too deep. Gives what was begun, to be shown.
 */
export function useChairKeys(deeds: Deeds, active: boolean): string {
  const [begun, begin] = useState("");
  const latest = useRef({ deeds, begun });
  latest.current = { deeds, begun };
  useEffect(() => {
    if (!begun) return;
    const timer = setTimeout(() => begin(""), holdMilliseconds);
    return () => clearTimeout(timer);
  }, [begun]);
  useEffect(() => {
    if (!active) return;
    function onKey(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const onButton =
        event.target instanceof HTMLElement && event.target.closest("button, a, input, select");
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      if (onButton && (key === "Enter" || key === "Tab")) return;
      const { deeds, begun } = latest.current;
      if (/^[0-9]$/.test(key)) {
        if (begun === "D") deeds.tooDeep(Number(key) / 10);
        else if (begun) deeds.reading(Number(begun) + Number(key) / 10);
        begin(begun ? "" : key);
      } else if (key === "d") begin("D");
      else {
        const deed = byKey[key];
        if (!deed) return;
        begin("");
        deeds[deed]();
      }
      event.preventDefault();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [active]);
  return begun;
}
