import { useState } from "react";
import { type CaseDocument, inWords, type Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Heading } from "@/ui/Heading";
import { ConstantsDialog } from "./ConstantsDialog";
import { DeflectionTable } from "./DeflectionTable";
import { FineRun } from "./FineRun";
import { LoadFields } from "./LoadFields";
import { OwnPull } from "./OwnPull";
import { PullItem } from "./PullItem";
import { SectionPart } from "./SectionPart";
import { type Forces, pullKey } from "./useForces";

interface Props {
  dental: Schema["Case"];
  document: CaseDocument;
  forces: Forces;
  /** The sheet's section has lingual at its right. */
  turned: boolean;
  readOnly: boolean;
  onFlush: () => Promise<unknown>;
  onChange: (dimension: string, value: number) => void;
}

/** What holds each filling, what a change would buy, and what the cavity costs in stiffness. */
export function ForcesPanel({ dental, document, forces, turned, readOnly, onFlush, onChange }: Props) {
  const { hold, deflection, strain } = forces;
  const [constants, setConstants] = useState(false);
  const fillings = hold.data?.fillings ?? [];
  const changes = hold.data?.changes ?? [];
  const deflects = (deflection.data?.cusps.length ?? 0) > 0;
  return (
    <aside
      aria-label="Forces"
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
      aria-busy={hold.isFetching || deflection.isFetching}
    >
      <Heading ground="geometry of the cut tooth, mm">Will it hold?</Heading>
      {hold.isPending && <p className="text-soft">Pulling at the filling…</p>}
      {hold.error && <p className="text-warn">{inWords(hold.error)}</p>}
      {fillings.map((filling, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: fillings stand in the order of the plan
        <section key={n} className="mb-3">
          {fillings.length > 1 && (
            <h3 className="text-soft">
              Filling {n + 1}
              {filling.of && `, ${filling.of}`}
            </h3>
          )}
          {filling.bonded && <p className="text-xs text-soft">Without its bond:</p>}
          <ul className="space-y-1">
            {filling.pulls.map((p, k) => (
              <PullItem
                key={pullKey(n, k)}
                pull={p}
                lit={forces.pull === pullKey(n, k)}
                onSelect={() => forces.setPull(pullKey(n, k))}
              />
            ))}
          </ul>
          <p className="mt-1 text-xs text-soft">{filling.text}</p>
          {filling.bond && (
            <>
              <Heading ground="an index">Its bond</Heading>
              <p>{filling.bond.text}</p>
            </>
          )}
        </section>
      ))}
      {fillings.length > 0 && <OwnPull forces={forces} />}
      {hold.data && <p className="mt-1 text-xs text-soft">{hold.data.assumption}</p>}
      {changes.length > 0 && (
        <>
          <Heading ground="geometry, cut again with it">One change would buy</Heading>
          <ul className="space-y-1">
            {changes.map((c) => (
              <li
                key={c.text}
                className="flex items-start gap-2 rounded border border-line bg-sheet px-2 py-1.5"
              >
                <span className="flex-1">{c.text}</span>
                {!readOnly && (
                  <Button aria-label={`Set: ${c.label}`} onClick={() => onChange(c.dimension, c.to)}>
                    Set
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <Heading ground="physics, as assumed below">Will it give way?</Heading>
      {(deflection.error || deflects || forces.asked || deflection.data?.place === "contacts") && (
        <LoadFields
          load={forces.load}
          deflection={deflection.data}
          marked={(document.occlusal_contacts?.length ?? 0) > 0}
          onLoad={forces.setLoad}
        />
      )}
      {deflection.isPending && <p className="text-soft">Loading the tooth…</p>}
      {deflection.error && <p className="text-warn">{inWords(deflection.error)}</p>}
      {deflection.data && (
        <DeflectionTable deflection={deflection.data} stale={deflection.isPlaceholderData} />
      )}
      {deflects && (
        <>
          <Button className="mt-2" onClick={() => setConstants(true)}>
            Constants and their sources
          </Button>
          {constants && <ConstantsDialog onClose={() => setConstants(false)} />}
          {!dental.archived && (
            <FineRun caseId={dental.id} load={forces.load} readOnly={readOnly} onFlush={onFlush} />
          )}
        </>
      )}
      {forces.at !== undefined && deflects && (
        <>
          <Heading ground="physics of a slice">Across the section</Heading>
          <SectionPart
            document={document}
            schools={dental.tooth.schools}
            load={forces.load}
            at={forces.at}
            turned={turned}
            strain={strain}
            state={forces.state}
            onState={forces.setState}
          />
        </>
      )}
    </aside>
  );
}
