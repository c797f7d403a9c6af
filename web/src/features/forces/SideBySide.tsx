import { useState } from "react";
import { type CaseDocument, inWords, type Schema } from "@/api/client";
import { useSchools } from "@/features/cases/cases";
import { Dialog } from "@/ui/Dialog";
import { type Load, useSections } from "./forces";
import { SectionPicture } from "./SectionPicture";
import { TensionLegend } from "./TensionLegend";

interface Props {
  document: CaseDocument;
  /** Those by which the tooth can be planned. */
  schools: string[];
  load: Load;
  at: number;
  /** The sheet's section has lingual at its right. */
  turned: boolean;
  onClose: () => void;
}

/** The same section under the same load: before, after, filled, with rounder or sharper line angles, by another school. */
export function SideBySide({ document, schools, load, at, turned, onClose }: Props) {
  const named = useSchools();
  const others = schools.filter((s) => s !== document.choice?.school);
  const [school, setSchool] = useState(others[0]);
  const sections = useSections(document, load, at, school);
  const cut = sections.data?.find((s) => s.way === "cut")?.strain;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="The section under load" wide>
      <div aria-busy={sections.isFetching} className="grid grid-cols-3 gap-x-4 gap-y-3 max-sm:grid-cols-1">
        {sections.isPending && <p className="text-soft">Cutting and loading five sections…</p>}
        {sections.error && <p className="text-warn">{inWords(sections.error)}</p>}
        {sections.data?.map(({ title, way, strain }) => (
          <Picture
            key={way}
            title={title}
            strain={strain}
            bare={way === "sound"}
            turned={turned}
            stale={sections.isPlaceholderData}
          >
            {way === "school" && others.length > 1 && (
              <select
                className="rounded border border-line bg-sheet px-1 text-xs"
                aria-label="The other school"
                value={school}
                onChange={(e) => setSchool(e.target.value)}
              >
                {others.map((s) => (
                  <option key={s} value={s}>
                    {named.data?.find((n) => n.id === s)?.name ?? s}
                  </option>
                ))}
              </select>
            )}
          </Picture>
        ))}
        {cut && (
          <div className="space-y-2 self-center text-xs text-soft">
            <TensionLegend levels={cut.levels.map((l) => l.mpa)} />
            {cut.assumptions.map((a) => (
              <p key={a}>{a}</p>
            ))}
            {cut.radius_text && <p>{cut.radius_text}</p>}
          </div>
        )}
      </div>
    </Dialog>
  );
}

interface PictureProps {
  title: string;
  strain: Schema["Strain"];
  /** Nothing is cut in it. */
  bare: boolean;
  turned: boolean;
  stale: boolean;
  children?: React.ReactNode;
}

function Picture({ title, strain, bare, turned, stale, children }: PictureProps) {
  return (
    <figure aria-label={title} className={stale ? "min-w-0 opacity-50" : "min-w-0"}>
      <figcaption className="flex items-baseline justify-between gap-2">
        <b>{title}</b>
        {children}
      </figcaption>
      {strain.loads.length === 0 ? (
        <p>{strain.text}</p>
      ) : (
        <>
          <SectionPicture
            strain={strain}
            turned={turned}
            label={`${title}: the section with its lines of tension`}
          />
          <p className="text-soft">
            {strain.opening < 0 ? "closes" : "opens"} by{" "}
            <b className="font-mono text-ink">{Math.abs(strain.opening).toFixed(2)}</b> µm
            {strain.corners.length > 0 && !bare && (
              <>
                , corners{" "}
                <b className="font-mono text-ink">{strain.corners.map((c) => c.toFixed(0)).join(", ")}</b> MPa
              </>
            )}
          </p>
        </>
      )}
    </figure>
  );
}
