import { type ReactNode, useRef } from "react";
import { ApiProblem, inWords } from "@/api/client";
import type { useEdited } from "@/app/useEdited";
import { Button } from "./Button";
import { Notice } from "./Notice";

type Edited = Pick<ReturnType<typeof useEdited>, "changed" | "overtaken" | "discard" | "insist">;

interface Props {
  title: string;
  /** What the page is, in a sentence or two. */
  about: string;
  /** What is kept: "the kit". */
  what: string;
  /** What is changed on the page, from useEdited. */
  edited: Edited;
  /** May be kept now. */
  ready: boolean;
  saving: boolean;
  /** Why it was not kept; null or left out where it was. */
  error?: Error | null;
  /** Where the faults stand, beside what they are about; left out where none has such a place. */
  faultsStand?: string;
  /** More that can be done, before the two buttons. */
  children?: ReactNode;
  onKeep: () => void;
}

/** Stands over a page of the practice's own: what was changed is kept or discarded. */
export function KeepBar({
  title,
  about,
  what,
  edited,
  ready,
  saving,
  error,
  faultsStand,
  children,
  onKeep,
}: Props) {
  const problem = error instanceof ApiProblem ? error : undefined;
  const overtaken = edited.overtaken && !saving;
  const top = useRef<HTMLHeadingElement>(null);
  return (
    <div className="sticky -top-6 z-10 -mt-6 flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-paper py-3">
      <h1 ref={top} tabIndex={-1} className="text-xl font-bold outline-none">
        {title}
      </h1>
      <span className="max-w-xl text-soft">{about}</span>
      <div className="ml-auto flex gap-2">
        {children}
        <Button
          disabled={!edited.changed}
          onClick={() => {
            top.current?.focus(); // the button goes out of use
            edited.discard();
          }}
        >
          Discard changes
        </Button>
        <Button kind="main" disabled={!edited.changed || !ready || saving || overtaken} onClick={onKeep}>
          Keep {what}
        </Button>
      </div>
      {overtaken && (
        <div className="basis-full">
          <Notice
            tone="warn"
            title="Kept elsewhere meanwhile"
            actions={<Button onClick={edited.insist}>Use my changes</Button>}
          >
            Somebody else has kept a newer version. Discard your changes to see it, or use yours in its place.
          </Notice>
        </div>
      )}
      {error && !overtaken && (
        <div className="basis-full">
          <Notice tone="warn" title={problem?.problem.title ?? "The server does not answer"}>
            {problem?.faults.length && faultsStand
              ? `What to change stands at ${faultsStand}.`
              : inWords(error)}
          </Notice>
        </div>
      )}
    </div>
  );
}
