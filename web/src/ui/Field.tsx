import type { InputHTMLAttributes, ReactNode, SelectHTMLAttributes } from "react";

const control =
  "w-full rounded border border-line bg-sheet px-2.5 py-1.5 aria-invalid:border-warn aria-invalid:bg-warn-ground";

interface FieldProps {
  label: string;
  hint?: ReactNode;
  fault?: string;
}

function Framed({ label, hint, fault, children }: FieldProps & { children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is the child
    <label className="block">
      <span className="mb-1 block font-bold">{label}</span>
      {children}
      {fault ? (
        <span role="alert" className="mt-1 block text-warn">
          {fault}
        </span>
      ) : (
        hint && <span className="mt-1 block text-soft">{hint}</span>
      )}
    </label>
  );
}

export function TextField({
  label,
  hint,
  fault,
  ...rest
}: FieldProps & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <Framed label={label} hint={hint} fault={fault}>
      <input className={control} aria-invalid={fault ? true : undefined} {...rest} />
    </Framed>
  );
}

export function SelectField({
  label,
  hint,
  fault,
  options,
  ...rest
}: FieldProps & SelectHTMLAttributes<HTMLSelectElement> & { options: [string, string][] }) {
  return (
    <Framed label={label} hint={hint} fault={fault}>
      <select className={control} aria-invalid={fault ? true : undefined} {...rest}>
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </Framed>
  );
}
