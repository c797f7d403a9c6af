import clsx from "clsx";
import type { ButtonHTMLAttributes } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: "plain" | "main";
}

export function Button({ kind = "plain", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={clsx(
        "rounded border px-3 py-1.5 disabled:opacity-50",
        kind === "main"
          ? "border-accent bg-accent text-paper hover:opacity-90"
          : "border-line bg-sheet hover:border-accent",
        className,
      )}
      {...rest}
    />
  );
}
