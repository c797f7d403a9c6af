import { useState } from "react";
import { type CaseDocument, inWords, type Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Assumed } from "@/ui/Heading";
import type { Load, useStrain } from "./forces";
import { SideBySide } from "./SideBySide";
import { TensionLegend } from "./TensionLegend";

const sectionStates = { sound: "sound", cut: "as cut", filled: "bonded" } as const;

interface Props {
  document: CaseDocument;
  schools: string[];
  load: Load;
  at: number;
  /** The sheet's section has lingual at its right. */
  turned: boolean;
  strain: ReturnType<typeof useStrain>;
  /** In what state the section is loaded. */
  state: Schema["SectionState"];
  onState: (state: Schema["SectionState"]) => void;
}

/** In what state the section is drawn, what its lines mean and what it shows. */
export function SectionPart({ document, schools, load, at, turned, strain, state, onState }: Props) {
  const [beside, setBeside] = useState(false);
  return (
    <div aria-busy={strain.isFetching}>
      <fieldset className="mb-1 flex flex-wrap items-center gap-3">
        <legend className="sr-only">The section is drawn</legend>
        {(Object.keys(sectionStates) as Schema["SectionState"][]).map((s) => (
          <label key={s} className="flex items-center gap-1">
            <input
              type="radio"
              name="section-state"
              className="accent-accent"
              checked={s === state}
              onChange={() => onState(s)}
            />
            {sectionStates[s]}
          </label>
        ))}
        <Button onClick={() => setBeside(true)}>Side by side</Button>
      </fieldset>
      {strain.error && <p className="text-warn">{inWords(strain.error)}</p>}
      {strain.data && (
        <>
          <TensionLegend levels={strain.data.levels.map((l) => l.mpa)} />
          <p className="mt-1">{strain.data.text}</p>
          <Assumed all={strain.data.assumptions} />
        </>
      )}
      {beside && (
        <SideBySide
          document={document}
          schools={schools}
          load={load}
          at={at}
          turned={turned}
          onClose={() => setBeside(false)}
        />
      )}
    </div>
  );
}
