import { ApiProblem } from "@/api/client";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";

interface FaultProps {
  error: Error;
  /** The figures that are to blame, where it is them. */
  figures: { id: string; label: string }[];
  /** Sets a figure back to the proposal. */
  onBack?: (id: string) => void;
  onUndo?: () => void;
  retry: () => void;
}

/** What kept a plan from being worked out; the last drawing stays under it. */
export function EvaluationFault({ error, figures, onBack, onUndo, retry }: FaultProps) {
  const problem = error instanceof ApiProblem ? error : undefined;
  if (figures.length > 0 && problem) {
    return (
      <div className="px-3 py-2">
        <Notice
          tone="warn"
          title={`This cannot be built: ${figures.map((f) => f.label).join(", ")}`}
          actions={
            <>
              {onUndo && <Button onClick={onUndo}>Undo</Button>}
              {onBack &&
                figures.map((f) => (
                  <Button key={f.id} onClick={() => onBack(f.id)}>
                    {f.label} back to the proposal
                  </Button>
                ))}
            </>
          }
        >
          {[...new Set(problem.faults.map((f) => sentence(f.message)))].join(" ")} The drawing shows what
          could be.
        </Notice>
      </div>
    );
  }
  return (
    <div className="px-3 py-2">
      <Notice
        tone="warn"
        title={problem?.problem.title ?? "The server does not answer"}
        actions={<Button onClick={retry}>Try again</Button>}
      >
        {problem ? (
          <>
            <p>{problem.problem.detail}</p>
            {problem.faults.map((f) => (
              <p key={f.path + f.message}>
                {f.path}: {f.message}
              </p>
            ))}
          </>
        ) : (
          <p>The drawing shows the last answer. Your changes are kept in this browser.</p>
        )}
      </Notice>
    </div>
  );
}

const sentence = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
