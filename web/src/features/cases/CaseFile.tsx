import { type ChangeEvent, useState } from "react";
import { ApiProblem, api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { Notice } from "@/ui/Notice";

interface Props {
  onRead: (document: CaseDocument) => void;
}

/** Reads a case from a file. The planner checks it whole before anything is taken over. */
export function CaseFile({ onRead }: Props) {
  const [faults, setFaults] = useState<Schema["Fault"][]>();
  const [name, setName] = useState<string>();

  async function read(event: ChangeEvent<HTMLInputElement>) {
    const file = event.target.files?.[0];
    event.target.value = ""; // the same file can be read again once it is mended
    if (!file) return;
    setName(file.name);
    const refuse = (message: string) => setFaults([{ path: "$", message }]);
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch (error) {
      refuse(`this is not JSON: ${error instanceof Error ? error.message : error}`);
      return;
    }
    try {
      unwrap(await api.POST("/evaluate", { body: document as Schema["CaseDocument"] }));
      setFaults(undefined);
      onRead(document as CaseDocument);
    } catch (error) {
      if (error instanceof ApiProblem) setFaults(error.faults);
      else refuse("the server does not answer: check that it runs, then read the file again");
    }
  }

  return (
    <>
      <label className="cursor-pointer text-accent underline focus-within:outline-2 focus-within:outline-accent">
        Read a case file
        <input type="file" accept="application/json,.json" className="sr-only" onChange={read} />
      </label>
      {faults && (
        <div className="basis-full">
          <Notice tone="warn" title={`${name} was not taken over`}>
            {faults.map((f) => (
              <p key={f.path + f.message}>
                <span className="font-mono">{f.path}</span>: {f.message}
              </p>
            ))}
          </Notice>
        </div>
      )}
    </>
  );
}
