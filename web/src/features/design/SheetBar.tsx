import clsx from "clsx";
import { Link, useNavigate } from "react-router";
import type { Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import type { useHistory } from "./history";
import { TitleBlock } from "./TitleBlock";
import type { useAutosave } from "./useAutosave";

interface Props {
  dental: Schema["Case"];
  plan?: Schema["Plan"];
  revision?: Schema["Revision"];
  saving: ReturnType<typeof useAutosave>["state"];
  history: Pick<ReturnType<typeof useHistory>, "undo" | "redo" | "canUndo" | "canRedo">;
  fixing: boolean;
  onFix: () => void;
  /** Opens a file of the case. */
  onOpen: (file: string) => void;
}

/** The files that a sheet can be exported as, with their names. */
export const exportedFiles: [string, string][] = [
  ["card.pdf", "Card, A4 (PDF)"],
  ["card-letter.pdf", "Card, Letter (PDF)"],
  ["drawing.svg", "Drawing (SVG)"],
  ["drawing.png", "Drawing (PNG)"],
  ["plan.json", "Plan (JSON)"],
  ["case.json", "Case (JSON)"],
  ["prepared.stl", "Prepared tooth (STL)"],
  ["intact.stl", "Intact tooth (STL)"],
  ["cavity.stl", "Cavity (STL)"],
  ["prepared.obj", "Prepared tooth (OBJ)"],
  ["prepared.ply", "Prepared tooth (PLY)"],
];

/** The sheet's title block with what can be done to the whole case. */
export function SheetBar({ dental, plan, revision, saving, history, fixing, onFix, onOpen }: Props) {
  const navigate = useNavigate();
  const readOnly = revision !== undefined;
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 border-b border-line px-4">
      <TitleBlock dental={dental} plan={plan} revision={revision} />
      <div className="ml-auto flex shrink-0 items-center gap-2 whitespace-nowrap">
        <span className={clsx("text-xs", saving === "failed" ? "text-warn" : "text-soft")} role="status">
          {!readOnly &&
            {
              saved: "Draft saved",
              saving: "Saving…",
              failed: "Not saved: no answer",
            }[saving]}
        </span>
        {!readOnly && (
          <>
            <Button onClick={history.undo} disabled={!history.canUndo}>
              Undo
            </Button>
            <Button onClick={history.redo} disabled={!history.canRedo}>
              Redo
            </Button>
          </>
        )}
        <Link className="px-1 text-accent underline" to={`/cases/${dental.id}/compare`}>
          Compare schools
        </Link>
        <Menu label="Print and export">
          {exportedFiles.map(([file, name]) => (
            <MenuItem key={file} onSelect={() => onOpen(file)}>
              {name}
            </MenuItem>
          ))}
        </Menu>
        {dental.revisions.length > 0 && (
          <Menu label={revision ? `Revision ${revision.number}` : "Draft"}>
            <MenuItem onSelect={() => navigate(`/cases/${dental.id}`)}>Draft</MenuItem>
            {[...dental.revisions].reverse().map((r) => (
              <MenuItem key={r.number} onSelect={() => navigate(`/cases/${dental.id}/revisions/${r.number}`)}>
                Revision {r.number}, {r.by}
              </MenuItem>
            ))}
          </Menu>
        )}
        {!readOnly && (
          <Button kind="main" onClick={onFix} disabled={fixing || !plan || plan.refused !== undefined}>
            Fix as revision
          </Button>
        )}
      </div>
    </div>
  );
}
