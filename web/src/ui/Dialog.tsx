import clsx from "clsx";
import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { useFocusReturn } from "./useFocusReturn";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** For pictures: takes most of the window. */
  wide?: boolean;
  children: ReactNode;
}

export function Dialog({ open, onOpenChange, title, wide, children }: Props) {
  const giveBack = useFocusReturn(open);
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Radix.Content
          aria-describedby={undefined}
          // React's own autoFocus would come before the place to return to is noted.
          onOpenAutoFocus={(event) => {
            const first = (event.currentTarget as HTMLElement).querySelector<HTMLElement>("[data-first]");
            if (!first) return;
            event.preventDefault();
            first.focus();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            giveBack();
          }}
          className={clsx(
            "fixed left-1/2 top-1/2 z-40 max-h-[96vh] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-lg border border-line bg-sheet p-6 shadow-xl",
            wide ? "w-[52rem]" : "w-[32rem]",
          )}
        >
          <Radix.Title className="mb-4 text-lg font-bold">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
