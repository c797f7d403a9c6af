import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export function Menu({ label, children }: { label: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="rounded border border-line bg-sheet px-3 py-1.5 hover:border-accent">
        {label} <span aria-hidden>▾</span>
      </DropdownMenu.Trigger>
      <MenuPanel>{children}</MenuPanel>
    </DropdownMenu.Root>
  );
}

/** What a menu opens, in place: outside the page's landmarks it would belong to nothing. */
export function MenuPanel({ children }: { children: ReactNode }) {
  return (
    <DropdownMenu.Content
      align="end"
      sideOffset={4}
      className="z-20 min-w-48 rounded border border-line bg-sheet p-1 text-left shadow-lg"
    >
      {children}
    </DropdownMenu.Content>
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
