import { useRef } from "react";
import { toast } from "sonner";
import type { Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import type { KitItem } from "./kit";

interface Props {
  items: KitItem[];
  may: boolean;
  onRead: (items: KitItem[]) => void;
}

/** The kit as a file, obturon.kit/1: written, and read into the table. */
export function KitFile({ items, may, onRead }: Props) {
  const input = useRef<HTMLInputElement>(null);

  function write() {
    const kit: Schema["Kit"] = { schema: "obturon.kit/1", items };
    const url = URL.createObjectURL(
      new Blob([`${JSON.stringify(kit, null, 2)}\n`], { type: "application/json" }),
    );
    const link = document.createElement("a");
    link.href = url;
    link.download = "kit.json";
    link.click();
    URL.revokeObjectURL(url);
  }

  async function read(file: File) {
    try {
      const kit = JSON.parse(await file.text()) as Partial<Schema["Kit"]>;
      if (kit.schema !== "obturon.kit/1" || !Array.isArray(kit.items)) throw new Error();
      onRead(kit.items); // what is wrong in it, the server says when it is kept
    } catch {
      toast.error("This is no kit file: it must hold a document obturon.kit/1.");
    }
  }

  return (
    <>
      <Button onClick={write}>Save as a file</Button>
      {may && <Button onClick={() => input.current?.click()}>Read a file</Button>}
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        aria-label="Kit file"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) void read(file);
        }}
      />
    </>
  );
}
