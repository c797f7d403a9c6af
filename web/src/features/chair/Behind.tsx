import type { Schema } from "@/api/client";
import { stepName } from "@/steps/sequence";
import type { Standing } from "./RunKeeper";

/** What a run came to, once its steps are behind. */
export function Behind({ standing, steps }: { standing: Standing; steps: Schema["Step"][] }) {
  const skipped = steps.filter((_, n) => standing.steps[n]?.skipped);
  return (
    <>
      <h1 className="text-[40px] leading-tight font-bold">
        {standing.finished ? "Finished" : "All steps done"}
      </h1>
      <p className="text-[32px]">{Math.round(standing.seconds / 60)} minutes of work.</p>
      {skipped.length > 0 && <p className="text-[32px]">Skipped: {skipped.map(stepName).join(", ")}.</p>}
      {standing.sequels.length > 0 && (
        <ul className="ml-8 list-disc text-[32px] leading-[1.15]">
          {standing.sequels.map((s, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: slips stay in their order
            <li key={n}>{s.text}</li>
          ))}
        </ul>
      )}
    </>
  );
}
