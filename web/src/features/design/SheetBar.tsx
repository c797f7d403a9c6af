import clsx from "clsx";
import { Link, useNavigate } from "react-router";
import type { Schema } from "@/api/client";
import { useConnection } from "@/api/connection";
import { exportedFiles } from "@/api/exportedFiles";
import type { DraftKeeper, DraftState } from "@/features/drafts/DraftKeeper";
import { useDraftState } from "@/features/drafts/keepers";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import type { useHistory } from "./history";
import { TitleBlock } from "./TitleBlock";

interface Props {
  dental: Schema["Case"];
  plan?: Schema["Plan"];
  revision?: Schema["Revision"];
  /** Keeps the draft, where it can be changed. */
  keeper?: DraftKeeper;
  history: Pick<ReturnType<typeof useHistory>, "undo" | "redo" | "canUndo" | "canRedo">;
  fixing?: "runs" | "waits";
  /** The newest document has a plan. */
  buildable: boolean;
  onFix: () => void;
  /** Opens a file of the case. */
  onOpen: (file: string) => void;
}

/** The sheet's title block with what can be done to the whole case. */
export function SheetBar(props: Props) {
  const { dental, plan, revision, keeper, history, fixing, buildable, onFix, onOpen } = props;
  const navigate = useNavigate();
  const readOnly = keeper === undefined;
  return (
    <div className="flex min-h-11 shrink-0 items-center gap-3 border-b border-line px-4 max-lg:flex-wrap max-lg:py-2">
      <TitleBlock dental={dental} plan={plan} revision={revision} />
      <div className="ml-auto flex shrink-0 items-center gap-2 whitespace-nowrap max-lg:shrink max-lg:flex-wrap">
        {keeper ? (
          <SaveState keeper={keeper} />
        ) : (
          <span className="text-xs text-soft">{standing(props)}</span>
        )}
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
        {keeper && (
          <FixButton
            keeper={keeper}
            fixing={fixing}
            possible={buildable && plan !== undefined && plan.refused === undefined}
            onFix={onFix}
          />
        )}
      </div>
    </div>
  );
}

interface FixProps extends Pick<Props, "fixing" | "onFix"> {
  keeper: DraftKeeper;
  possible: boolean;
}

function FixButton({ keeper, fixing, possible, onFix }: FixProps) {
  const state = useDraftState(keeper);
  const waits = fixing === "waits" || (fixing !== undefined && state.kind === "unanswered");
  return (
    <Button
      kind="main"
      onClick={onFix}
      disabled={fixing !== undefined || !possible || state.kind === "conflict"}
    >
      {waits ? "Fix waits for the server…" : "Fix as revision"}
    </Button>
  );
}

/** Why a sheet cannot be changed. */
function standing({ dental, revision }: Props): string {
  if (revision) return "";
  return dental.archived ? "Archived: bring it back to change it" : `Started by ${dental.by}: to look at`;
}

const inShort: Record<DraftState["kind"], string> = {
  saved: "Draft saved",
  saving: "Saving…",
  unanswered: "Not saved: no answer; kept here",
  refused: "Not saved",
  conflict: "Not saved: changed elsewhere",
};

/** What has become of the newest change, in a word. */
function SaveState({ keeper }: { keeper: DraftKeeper }) {
  const state = useDraftState(keeper);
  const { signedOut, busy } = useConnection();
  const wanting = state.kind === "saving" && signedOut;
  const text = wanting ? "Not saved: sign in again" : inShort[state.kind];
  return (
    <span
      className={clsx("text-xs", text.startsWith("Not") ? "text-warn" : "text-soft")}
      role="status"
      title={keeper.unkept ? "This browser keeps nothing: leave the page open." : undefined}
    >
      {busy > 0 && "Server busy, waiting… "}
      {text}
    </span>
  );
}
