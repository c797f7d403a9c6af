import clsx from "clsx";
import type { Schema } from "@/api/client";
import { FigureInput } from "@/ui/FigureInput";
import { InstrumentDrawing } from "./InstrumentDrawing";
import type { KitItem } from "./kit";

interface Props {
  instrument: Schema["Instrument"];
  item: KitItem;
  note?: Schema["KitNote"];
  faults: string[];
  may: boolean;
  onChange: (item: KitItem) => void;
}

/** One instrument: drawn, named, counted and measured. */
export function KitRow({ instrument: i, item, note, faults, may, onChange }: Props) {
  const cuts = i.profile.length > 0 || i.blade !== undefined;
  const figure = (
    field: Exclude<keyof KitItem, "instrument">,
    label: string,
    open: string,
    usual?: number,
  ) =>
    may ? (
      <FigureInput
        label={`${i.id}: ${label}`}
        value={item[field]}
        open={open}
        placeholder={usual === undefined ? "" : String(Number(usual.toFixed(2)))}
        whole={!field.endsWith("_mm")}
        faulty={faults.length > 0}
        onChange={(v) => onChange({ ...item, [field]: v })}
      />
    ) : (
      <span className="font-mono">{item[field] ?? (usual === undefined ? "" : usual.toFixed(2))}</span>
    );
  const cell = "py-1 pr-3 align-middle";
  return (
    <tr className={clsx("border-b border-line", note?.out && "bg-warn-ground")}>
      <th scope="row" className={clsx(cell, "text-left font-normal")}>
        <b>{i.id}</b>
        {i.name !== i.id && <span className="block text-soft">{i.name}</span>}
        {note && <span className={clsx("block", note.out && "font-bold")}>{note.text}</span>}
        {faults.map((f) => (
          <span key={f} role="alert" className="block text-warn">
            {f}
          </span>
        ))}
      </th>
      <td className={cell}>
        <InstrumentDrawing instrument={i} />
      </td>
      <td className={clsx(cell, "text-soft")}>{i.use}</td>
      <td className={cell}>{figure("pieces", "pieces", "not counted: it is there")}</td>
      <td className={cell}>{figure("uses_each", "uses of each", "not counted")}</td>
      <td className={cell}>{figure("uses_left", "uses left", "all, of a new piece", item.uses_each)}</td>
      <td className={cell}>{cuts && figure("width_mm", "width", "as its number says", i.width)}</td>
      <td className={cell}>{cuts && figure("length_mm", "length", "as its number says", i.length)}</td>
    </tr>
  );
}
