import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";

let known: boolean | undefined;

/** Whether this browser can draw in three dimensions. */
export function hasWebGL(): boolean {
  if (known === undefined) {
    try {
      const canvas = document.createElement("canvas");
      known = (canvas.getContext("webgl2") ?? canvas.getContext("webgl")) !== null;
    } catch {
      known = false;
    }
  }
  return known;
}

/** Stands where a turnable tooth would, where the browser cannot draw it. */
function NoTooth3D() {
  return (
    <p className="m-auto max-w-72 p-4 text-soft" role="status">
      This browser draws nothing in three dimensions (WebGL is off or missing). The other drawings show the
      same tooth.
    </p>
  );
}

/** Keeps what fails in three dimensions to its own pane. */
export function Pane3D({ children }: { children: ReactNode }) {
  if (!hasWebGL()) return <NoTooth3D />;
  return <ErrorBoundary fallback={<NoTooth3D />}>{children}</ErrorBoundary>;
}
