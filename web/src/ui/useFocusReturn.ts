import { useRef } from "react";

/**
 * Remembers where the focus was when something opened, and puts it back there: a dialog
 * without a trigger of its own does not know.
 */
export function useFocusReturn(open: boolean) {
  const from = useRef<Element>(null);
  const was = useRef(false);
  if (open && !was.current) from.current = document.activeElement;
  was.current = open;
  return () => {
    if (from.current instanceof HTMLElement || from.current instanceof SVGElement) from.current.focus();
  };
}
