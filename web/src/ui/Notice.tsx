import clsx from "clsx";
import type { ReactNode } from "react";

interface Props {
  tone?: "plain" | "warn";
  title?: string;
  children?: ReactNode;
}

/** A message that stays until its reason goes. */
export function Notice({ tone = "plain", title, children }: Props) {
  return (
    <div
      role={tone === "warn" ? "alert" : "status"}
      className={clsx(
        "rounded border px-4 py-3",
        tone === "warn" ? "border-warn bg-warn-ground" : "border-line bg-panel",
      )}
    >
      {title && <p className="font-bold">{title}</p>}
      {children && <div className={title ? "mt-1" : undefined}>{children}</div>}
    </div>
  );
}
