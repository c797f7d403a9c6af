import { useEffect, useRef } from "react";

/** Fields that are written in; boxes to tick and sliders are not. */
const written = "input:not([type=checkbox], [type=radio], [type=range])";

function typing(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    target.closest(`${written}, textarea, select, [contenteditable]`) !== null
  );
}

/** Calls action on a key such as "?" or "ctrl+z", unless someone is typing. */
export function useShortcut(keys: string, action: () => void, alsoWhileTyping = false) {
  const latest = useRef(action);
  latest.current = action;
  useEffect(() => {
    const parts = keys === "+" ? [keys] : keys.split("+");
    const key = parts[parts.length - 1];
    const ctrl = parts.includes("ctrl");
    const shift = parts.includes("shift");
    function onKey(event: KeyboardEvent) {
      if (event.key.toLowerCase() !== key || ctrl !== (event.ctrlKey || event.metaKey)) return;
      if (ctrl && shift !== event.shiftKey) return;
      if (!alsoWhileTyping && typing(event.target)) return;
      event.preventDefault();
      latest.current();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [keys, alsoWhileTyping]);
}
