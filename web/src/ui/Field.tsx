import { type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes, useId } from "react";

const control =
  "w-full rounded border border-line bg-sheet px-2.5 py-1.5 aria-invalid:border-warn aria-invalid:bg-warn-ground";

interface FieldProps {
  label: string;
  hint?: ReactNode;
  fault?: string;
}

/** Ties a control to its label and to its hint or fault. */
function useWiring(fault: string | undefined, hint: ReactNode) {
  const id = useId();
  return {
    id,
    "aria-invalid": fault ? true : undefined,
    "aria-describedby": fault || hint ? `${id}-note` : undefined,
  };
}

function Framed({ id, label, hint, fault, children }: FieldProps & { id: string; children: ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-bold">
        {label}
      </label>
      {children}
      {fault ? (
        <p id={`${id}-note`} role="alert" className="mt-1 text-warn">
          {fault}
        </p>
      ) : (
        hint && (
          <p id={`${id}-note`} className="mt-1 text-soft">
            {hint}
          </p>
        )
      )}
    </div>
  );
}

export function TextField({
  label,
  hint,
  fault,
  ...rest
}: FieldProps & InputHTMLAttributes<HTMLInputElement>) {
  const wiring = useWiring(fault, hint);
  return (
    <Framed id={wiring.id} label={label} hint={hint} fault={fault}>
      <input className={control} {...wiring} {...rest} />
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
  const wiring = useWiring(fault, hint);
  return (
    <Framed id={wiring.id} label={label} hint={hint} fault={fault}>
      <select className={control} {...wiring} {...rest}>
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </Framed>
  );
}
