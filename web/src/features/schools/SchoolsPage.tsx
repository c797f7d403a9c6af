import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { ApiProblem, type Schema } from "@/api/client";
import { useSchools } from "@/features/cases/cases";
import { useMay } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useArchivedRules, useCopySchool } from "./schools";

/** The schools, and the practice's own rules after them. */
export function SchoolsPage() {
  const schools = useSchools();
  const archived = useArchivedRules();
  const mayChange = useMay("change_rules");
  const [base, setBase] = useState<Schema["School"]>();
  return (
    <main className="mx-auto h-full max-w-5xl overflow-auto p-6">
      <h1 className="text-xl font-bold">Schools</h1>
      <p className="mt-1 mb-4 text-soft">
        What a preparation is judged by. A school stays as it is
        {mayChange && "; copy one to make house rules of your own"}.
      </p>
      {schools.isError && (
        <Notice tone="warn" title="The schools could not be read">
          <Button className="mt-2" onClick={() => schools.refetch()}>
            Try again
          </Button>
        </Notice>
      )}
      <ul className="divide-y divide-line border-y border-line">
        {schools.data?.map((s) => (
          <li key={s.id} className="flex items-center gap-4 py-3">
            <div className="min-w-0 flex-1">
              <Link className="font-bold text-accent underline" to={`/schools/${s.id}/figures`}>
                {s.name}
              </Link>{" "}
              <span className="text-soft">{s.title}</span>
              {s.house && <span className="ml-2 font-mono text-xs text-soft">version {s.version}</span>}
              <p className="text-soft">{s.summary}</p>
            </div>
            {s.house && mayChange && (
              <Link className="text-accent underline" to={`/schools/${s.id}`}>
                Change {s.name}
              </Link>
            )}
            {mayChange && (
              <Button onClick={() => setBase(s)} aria-label={`Copy ${s.name}`}>
                Copy
              </Button>
            )}
          </li>
        ))}
      </ul>
      {archived.data && archived.data.length > 0 && (
        <p className="mt-4 text-soft">
          Archived:{" "}
          {archived.data.map((s) => (
            <Link key={s.id} className="mr-3 text-accent underline" to={`/schools/${s.id}`}>
              {s.name}
            </Link>
          ))}
        </p>
      )}
      {base && <CopyDialog base={base} onClose={() => setBase(undefined)} />}
    </main>
  );
}

function CopyDialog({ base, onClose }: { base: Schema["School"]; onClose: () => void }) {
  const navigate = useNavigate();
  const copy = useCopySchool();
  const [name, setName] = useState("");
  const problem = copy.error instanceof ApiProblem ? copy.error : undefined;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`House rules after ${base.name}`}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          copy.mutate({ base: base.id, name }, { onSuccess: (made) => navigate(`/schools/${made.id}`) });
        }}
      >
        <TextField
          label="Name of the rules"
          placeholder="Halvarra bench"
          value={name}
          maxLength={60}
          required
          data-first
          fault={
            problem?.faults[0]?.message ??
            problem?.problem.detail ??
            (copy.isError ? "The server does not answer. Check that it runs." : undefined)
          }
          onChange={(e) => setName(e.target.value)}
        />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" type="submit" disabled={copy.isPending || name.trim() === ""}>
            Make the copy
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
