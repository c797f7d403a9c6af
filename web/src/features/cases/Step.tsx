import type { ReactNode } from "react";

/** One step of intake under its heading. */
export function Step({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="space-y-4">
      <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">{title}</legend>
      {children}
    </fieldset>
  );
}
