import clsx from "clsx";
import { Link } from "react-router";
import type { CaseDocument, Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Assumed } from "./Assumed";
import { Reason } from "./Reason";

interface Props {
  plan: Schema["Plan"];
  document: CaseDocument;
  readOnly: boolean;
  onChange: (document: CaseDocument) => void;
}

/** Where nothing is cut: what is advised, what else is open, and what each means for the tooth. */
export function CareWays({ plan, document, readOnly, onChange }: Props) {
  const { advice } = plan;
  const ways = advice.ways ?? [];
  const followed = ways.some((w) => w.treatment === advice.followed) ? advice.followed : advice.treatment;
  const title = ways.find((w) => w.treatment === followed)?.label;
  const choose = (choice: CaseDocument["choice"]) =>
    onChange({ ...document, choice: { ...document.choice, ...choice } });
  return (
    <section className="mx-auto w-full max-w-4xl space-y-4 overflow-auto p-6" aria-label="Ways">
      <div>
        <h2 className="text-lg font-bold">
          {title && !ways.find((w) => w.treatment === followed)?.cuts ? title : "No plan is made"}
        </h2>
        <p role="status" className="mt-1">
          {plan.refused}
        </p>
      </div>
      <Assumed advice={advice} document={document} readOnly={readOnly} onEnter={onChange} open />
      <ul className="grid gap-3 sm:grid-cols-2">
        {ways.map((w) => (
          <li
            key={w.treatment}
            data-way={w.treatment}
            className={clsx(
              "flex flex-col gap-1.5 rounded border p-3",
              w.treatment === followed ? "border-accent bg-accent-ground" : "border-line bg-sheet",
            )}
          >
            <div className="flex items-baseline gap-2">
              <b className="flex-1">{w.label}</b>
              {w.treatment === advice.treatment && <span className="text-xs text-soft">advised</span>}
              {w.treatment === followed && w.treatment !== advice.treatment && (
                <span className="text-xs text-soft">chosen</span>
              )}
            </div>
            <p>{w.does}</p>
            <ul className="text-xs text-soft">
              {w.for.map((text) => (
                <li key={text}>+ {text}</li>
              ))}
              {w.against.map((text) => (
                <li key={text}>− {text}</li>
              ))}
              {w.recall && <li>Look again {w.recall}.</li>}
            </ul>
            {!readOnly && w.treatment !== followed && (
              <Button
                className="mt-auto self-start"
                onClick={() =>
                  choose({ treatment: w.treatment === advice.treatment ? undefined : w.treatment })
                }
              >
                {w.cuts ? `Plan it: ${w.label.toLowerCase()}` : `Choose: ${w.label.toLowerCase()}`}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Reason
        value={document.choice?.reason ?? ""}
        readOnly={readOnly}
        onChange={(reason) => choose({ reason: reason || undefined })}
      />
      {plan.cautions.length > 0 && (
        <ul className="list-disc space-y-1 pl-4 text-soft">
          {plan.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      )}
      <Link className="inline-block text-accent underline" to="/cases">
        To the day sheet
      </Link>
    </section>
  );
}
