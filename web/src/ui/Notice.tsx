import clsx from "clsx";
import type { ReactNode } from "react";

interface Props {
  tone?: "plain" | "warn";
  title?: string;
  /** What can be done about it; stands beside the text where there is room. */
  actions?: ReactNode;
  children?: ReactNode;
}

/** A message that stays until its reason goes. */
export function Notice({ tone = "plain", title, actions, children }: Props) {
  return (
    <div
      role={tone === "warn" ? "alert" : "status"}
      className={clsx(
        "flex flex-wrap items-center gap-x-6 gap-y-2 rounded border px-4",
        actions ? "py-2" : "py-3",
        tone === "warn" ? "border-warn bg-warn-ground" : "border-line bg-panel",
      )}
    >
      <div className="min-w-60 flex-1">
        {title && <p className="font-bold">{title}</p>}
        {children && <div className={title ? "mt-1" : undefined}>{children}</div>}
      </div>
      {actions && <div className="flex flex-wrap items-center gap-2">{actions}</div>}
    </div>
  );
}
