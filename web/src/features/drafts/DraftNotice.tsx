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
      <div className="px-3 py-2">
        <Notice
          tone="warn"
          title="Your change is not saved"
          actions={
            <>
              <Button onClick={() => keeper.retry()}>Save again</Button>
              {gone && (
                <Link className="text-accent underline" to="/cases">
                  To the day sheet
                </Link>
              )}
            </>
          }
        >
          {inWords(state.problem)} It is kept in this browser.
        </Notice>
      </div>
    );
  }
  if (state.kind !== "conflict") return null;
  return (
    <div className="px-3 py-2">
      <Notice
        tone="warn"
        title="The draft was changed elsewhere"
        actions={<Button onClick={() => setChoosing(true)}>Choose which to keep</Button>}
      >
        Another window, or someone else, has saved it meanwhile. Both are kept: yours in this browser.
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
