import clsx from "clsx";
import type { ReactNode } from "react";
import type { Schema } from "@/api/client";
import { toggleTagNames, useTagNames } from "@/drawing/tagNames";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import { bareView } from "@/features/forces/bareView";
import { ForcesOverlay, shownTilt } from "@/features/forces/ForcesOverlay";
import type { Forces } from "@/features/forces/useForces";
import { cellPlaces, type sheetCells } from "./sheetCells";

interface Props {
  cells: ReturnType<typeof sheetCells>;
  /** What is shown of forces, where that is asked about. */
  forces?: Forces;
  /** The section that a load is drawn in. */
  loaded?: Schema["View"];
  checks: Schema["Check"][];
  dimensions: Schema["Dimension"][];
  highlighted?: string;
  pointed?: number[];
  readOnly: boolean;
  /** An older answer is shown while the newer one is computed. */
  faded: boolean;
  settled: boolean;
  onHover: (check: string | undefined) => void;
  onSelect: (check: string) => void;
  onChange: (dimension: string, value: number | undefined) => void;
  onLetGo: () => void;
  /** The tooth in three dimensions. */
  children: ReactNode;
}

/** The drawings of the sheet, beside the tooth that turns. */
export function SheetDrawings({
  cells,
  forces,
  loaded,
  checks,
  dimensions,
  highlighted,
  pointed,
  readOnly,
  faded,
  settled,
  onHover,
  onSelect,
  onChange,
  onLetGo,
  children,
}: Props) {
  const named = useTagNames();
  return (
    <div
      className={clsx(
        "grid min-w-0 flex-1 grid-cols-2 grid-rows-[55%_45%] bg-sheet max-lg:flex-none max-lg:grid-cols-1 max-lg:auto-rows-[22rem] max-lg:grid-rows-none",
        faded && "opacity-95",
      )}
      onPointerUp={onLetGo}
      data-testid="sheet"
      data-settled={settled}
    >
      {cells.map(({ view, place, caption }) => (
        <div key={place} className={clsx("flex min-h-0 border-line", cellPlaces[place])}>
          <div className="grid min-h-0 min-w-0 flex-1">
            <ViewDrawing
              view={
                forces
                  ? bareView(
                      view,
                      view === loaded || (forces.tilt !== undefined && shownTilt(view) !== undefined),
                    )
                  : view
              }
              overlay={
                forces
                  ? (px) => <ForcesOverlay forces={forces} view={view} loaded={view === loaded} px={px} />
                  : undefined
              }
              caption={caption}
              checks={checks}
              dimensions={dimensions}
              hovered={highlighted}
              named={named}
              place={pointed}
              aside={place === "plan" && <NamesToggle shown={named} />}
              readOnly={readOnly}
              onHover={onHover}
              onSelect={onSelect}
              onChange={onChange}
            />
          </div>
        </div>
      ))}
      <figure className="order-2 flex min-h-0 min-w-0 flex-col border-b border-line">{children}</figure>
    </div>
  );
}

/** Shows or hides the names of all tags. */
function NamesToggle({ shown }: { shown: boolean }) {
  return (
    <button
      type="button"
      aria-pressed={shown}
      title="Names on the tags (N)"
      className={clsx(
        "rounded px-1.5",
        shown ? "bg-accent-ground font-bold text-ink" : "text-accent underline",
      )}
      onClick={toggleTagNames}
    >
      Names
    </button>
  );
}
