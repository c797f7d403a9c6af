import { useState } from "react";
import { Navigate, useNavigate, useParams, useSearchParams } from "react-router";
import { ApiProblem } from "@/api/client";
import { ArchChart, type Dentition } from "@/drawing/ArchChart";
import { useArches } from "@/drawing/arches";
import { useToothReading } from "@/features/cases/cases";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { QuadrantSymbol } from "@/ui/QuadrantSymbol";
import { StudyBench } from "./StudyBench";
import { ownSizes, type Study, useStudiedTooth } from "./study";

const adult = 34; // years, where no age is given
const child = 6;

/** Any tooth, to know before it is cut: turnable, sectioned, felt. */
export function StudyPage() {
  const { tooth = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const arches = useArches();
  const study = readStudy(tooth, search);
  const studied = useStudiedTooth(study);
  const [dentition, setDentition] = useState<Dentition>(Number(tooth[0]) > 4 ? "primary" : "permanent");

  if (!/^[1-8][1-8]$/.test(tooth)) return <Navigate to="/study/46" replace />;

  function choose(iso: string) {
    // Own sizes belong to one tooth; the age stays while the dentition does.
    const samePatient = Number(iso[0]) > 4 === Number(tooth[0]) > 4;
    navigate(`/study/${iso}${samePatient && search.has("age") ? `?age=${search.get("age")}` : ""}`);
  }
  function set(name: string, value: string) {
    setSearch(
      (now) => {
        if (value === "") now.delete(name);
        else now.set(name, value);
        return now;
      },
      { replace: true },
    );
  }
  const fault = studied.error instanceof ApiProblem ? studied.error : undefined;

  return (
    <main className="grid h-full grid-cols-[300px_minmax(0,1fr)] overflow-hidden max-lg:h-auto max-lg:grid-cols-1">
      <aside
        aria-label="Which tooth"
        className="flex min-h-0 flex-col gap-3 overflow-auto border-r border-line bg-panel p-3 max-lg:grid max-lg:grid-cols-[minmax(0,1fr)_320px] max-lg:content-start max-lg:border-b max-lg:border-r-0"
      >
        <GoTo onGo={choose} />
        <fieldset className="flex gap-4">
          <legend className="sr-only">Dentition</legend>
          {(["permanent", "primary"] as const).map((d) => (
            <label key={d} className="flex items-center gap-1.5">
              <input
                type="radio"
                name="dentition"
                className="accent-accent"
                checked={dentition === d}
                onChange={() => setDentition(d)}
              />
              {d === "permanent" ? "Permanent" : "Primary"}
            </label>
          ))}
        </fieldset>
        <div className="max-lg:col-start-2 max-lg:row-span-5 max-lg:row-start-1">
          {arches.data && (
            <ArchChart teeth={arches.data} dentition={dentition} selected={tooth} onSelect={choose} />
          )}
        </div>
        <TextField
          label="Age"
          type="number"
          min={0}
          max={120}
          value={study.age}
          hint="The pulp draws back with the years"
          onChange={(e) => set("age", e.target.value)}
        />
        <details open={ownSizes.some(([name]) => search.has(name))}>
          <summary className="cursor-pointer font-bold">This patient's own sizes</summary>
          <p className="my-1 text-xs text-soft">
            Measured in the mouth or on a radiograph; they replace the averages.
          </p>
          <div className="grid grid-cols-2 gap-2">
            {ownSizes.map(([name, label]) => (
              <TextField
                key={name}
                label={`${label}, mm`}
                type="number"
                step={0.1}
                placeholder={name === "enamel" ? "average" : studied.data?.average[name].toFixed(1)}
                value={search.get(name) ?? ""}
                onChange={(e) => set(name, e.target.value)}
              />
            ))}
          </div>
        </details>
        {fault && (
          <Notice tone="warn" title={fault.problem.title}>
            {fault.faults.map((f) => (
              <p key={f.message}>{f.message}</p>
            ))}
          </Notice>
        )}
      </aside>
      {studied.data ? (
        <StudyBench
          key={studied.data.tooth.iso}
          study={{ ...study, tooth: studied.data.tooth.iso }}
          studied={studied.data}
          title={<Title studied={studied.data} />}
        />
      ) : (
        <div className="p-10">
          {studied.isError && !fault ? (
            <Notice tone="warn" title="The server does not answer">
              Check that it runs, then choose the tooth again.
            </Notice>
          ) : (
            <p className="text-soft">Shaping the tooth…</p>
          )}
        </div>
      )}
    </main>
  );
}

function Title({
  studied,
}: {
  studied: { tooth: { name: string; iso: string; universal: string; letters: string } };
}) {
  const { name, iso, universal, letters } = studied.tooth;
  return (
    <h1 className="text-base">
      <b className="inline-block first-letter:uppercase">{name}</b>{" "}
      <span className="text-soft">
        ISO <b className="font-mono text-ink">{iso}</b> · Universal{" "}
        <b className="font-mono text-ink">{universal}</b> · <QuadrantSymbol letters={letters} />
      </span>
    </h1>
  );
}

/** Typing a tooth in any notation goes there. */
function GoTo({ onGo }: { onGo: (iso: string) => void }) {
  const [text, setText] = useState("");
  const reading = useToothReading(text);
  const unread =
    text !== "" && reading.error instanceof ApiProblem ? reading.error.faults[0]?.message : undefined;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (reading.data && text !== "") {
          onGo(reading.data.iso);
          setText("");
        }
      }}
    >
      <TextField
        label="Tooth"
        placeholder="46, 30 or LR6, then Enter"
        value={text}
        autoComplete="off"
        fault={unread}
        hint={text !== "" ? reading.data?.name : undefined}
        onChange={(e) => setText(e.target.value)}
      />
    </form>
  );
}

function readStudy(tooth: string, search: URLSearchParams): Study {
  const number = (name: string) => {
    const value = Number(search.get(name) ?? "");
    return Number.isFinite(value) && value > 0 ? value : undefined;
  };
  const study: Study = { tooth, age: number("age") ?? (Number(tooth[0]) > 4 ? child : adult) };
  for (const [name] of ownSizes) {
    const value = number(name);
    if (value !== undefined) study[name] = value;
  }
  return study;
}
