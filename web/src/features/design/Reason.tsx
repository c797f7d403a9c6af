import { useEffect, useState } from "react";

/** The dentist's own reason, kept with the plan. */
export function Reason({
  value,
  readOnly,
  onChange,
}: {
  value: string;
  readOnly: boolean;
  onChange: (text: string) => void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  if (readOnly && !value) return null;
  return (
    <label className="mt-1 block">
      <span className="text-xs text-soft">Your reason, kept with the plan</span>
      <input
        className="w-full rounded border border-line bg-sheet px-2 py-1 disabled:opacity-100"
        value={text}
        readOnly={readOnly}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== value && onChange(text.trim())}
      />
    </label>
  );
}
