import { useState } from "react";
import { Link } from "react-router";
import { inWords } from "@/api/client";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { ConflictDialog } from "./ConflictDialog";
import type { DraftKeeper } from "./DraftKeeper";
import { useDraftState } from "./keepers";

interface Props {
  keeper: DraftKeeper;
  /** Their draft was taken over. */
  onTheirs: () => void;
}

/** Why the newest change is not on the server, where something has to be done about it. */
export function DraftNotice({ keeper, onTheirs }: Props) {
  const state = useDraftState(keeper);
  const [choosing, setChoosing] = useState(false);
  if (state.kind === "refused") {
    const gone = state.problem.problem.status === 404;
    return (
      <div className="p-3">
        <Notice tone="warn" title="Your change is not saved">
          <p>{inWords(state.problem)} It is kept in this browser.</p>
          <div className="mt-2 flex gap-4">
            <Button onClick={() => keeper.retry()}>Save again</Button>
            {gone && (
              <Link className="py-1.5 text-accent underline" to="/cases">
                To the day sheet
              </Link>
            )}
          </div>
        </Notice>
      </div>
    );
  }
  if (state.kind !== "conflict") return null;
  return (
    <div className="p-3">
      <Notice tone="warn" title="The draft was changed elsewhere">
        <p>Another window, or someone else, has saved it meanwhile. Both are kept: yours in this browser.</p>
        <Button className="mt-2" onClick={() => setChoosing(true)}>
          Choose which to keep
        </Button>
      </Notice>
      {choosing && (
        <ConflictDialog
          mine={keeper.document}
          theirs={state.theirs.document}
          at={state.theirs.updated_at}
          onClose={() => setChoosing(false)}
          onDecide={(mine) => {
            setChoosing(false);
            keeper.decide(mine);
            if (!mine) onTheirs();
          }}
        />
      )}
    </div>
  );
}
