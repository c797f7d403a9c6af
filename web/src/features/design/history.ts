import { useReducer } from "react";

interface History<T> {
  past: T[];
  present: T;
  future: T[];
  /** Edits with the same grip, such as one drag, are undone in one step. */
  grip?: string;
}

type Move<T> =
  | { kind: "set"; value: T; grip?: string }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "letGo" };

const kept = 200;

function step<T>(h: History<T>, move: Move<T>): History<T> {
  switch (move.kind) {
    case "set":
      if (move.grip !== undefined && move.grip === h.grip) return { ...h, present: move.value };
      return { past: [...h.past, h.present].slice(-kept), present: move.value, future: [], grip: move.grip };
    case "undo": {
      const last = h.past[h.past.length - 1];
      if (last === undefined) return h;
      return { past: h.past.slice(0, -1), present: last, future: [h.present, ...h.future] };
    }
    case "redo": {
      const [next, ...rest] = h.future;
      if (next === undefined) return h;
      return { past: [...h.past, h.present], present: next, future: rest };
    }
    case "letGo":
      return { ...h, grip: undefined };
  }
}

/** A value with undo and redo. */
export function useHistory<T>(initial: T) {
  const [history, move] = useReducer(step<T>, { past: [], present: initial, future: [] });
  return {
    value: history.present,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    set: (value: T, grip?: string) => move({ kind: "set", value, grip }),
    undo: () => move({ kind: "undo" }),
    redo: () => move({ kind: "redo" }),
    letGo: () => move({ kind: "letGo" }),
  };
}
