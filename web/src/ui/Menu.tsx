import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export function Menu({ label, children }: { label: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="rounded border border-line bg-sheet px-3 py-1.5 hover:border-accent">
        {label} <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <MenuPanel>{children}</MenuPanel>
    </DropdownMenu.Root>
  );
}

/** What a menu opens. */
export function MenuPanel({ children }: { children: ReactNode }) {
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="end"
        sideOffset={4}
        className="z-20 min-w-48 rounded border border-line bg-sheet p-1 shadow-lg"
      >
        {children}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  );
}

export function MenuItem({ onSelect, children }: { onSelect: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="cursor-pointer rounded px-3 py-1.5 outline-none data-[highlighted]:bg-accent-ground"
    >
      {children}
    </DropdownMenu.Item>
  );
}
