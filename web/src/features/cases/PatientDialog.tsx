import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { ApiProblem, api, inWords, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";

/** Corrects the birth year of a case's patient; all the patient's drafts follow. */
export function PatientDialog({ dental, onClose }: { dental: Schema["Case"]; onClose: () => void }) {
  const queries = useQueryClient();
  const [year, setYear] = useState(String(dental.birth_year));
  const correct = useMutation({
    mutationFn: async (birthYear: number) =>
      unwrap(
        await api.PUT("/cases/{id}/birth-year", {
          params: { path: { id: dental.id } },
          body: { birth_year: birthYear },
        }),
      ),
    onSuccess: (kept) => {
      queries.setQueryData(keys.case(dental.id), kept);
      queries.invalidateQueries({ queryKey: keys.cases() });
      toast(`${dental.patient} was born in ${kept.birth_year}; the age in the drafts has followed`);
      onClose();
    },
  });
  const wrong = year.trim() !== "" && !/^\d{4}$/.test(year.trim());
  const problem = correct.error instanceof ApiProblem ? correct.error : undefined;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Patient ${dental.patient}`}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!wrong) correct.mutate(Number(year));
        }}
      >
        <TextField
          label="Birth year"
          inputMode="numeric"
          required
          data-first
          value={year}
          hint="Revisions stay as they were fixed. The correction is noted."
          fault={
            wrong
              ? "Give the year of birth, four figures"
              : correct.isError
                ? (problem?.faults[0]?.message ?? inWords(correct.error))
                : undefined
          }
          onChange={(e) => setYear(e.target.value)}
        />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            kind="main"
            type="submit"
            disabled={wrong || correct.isPending || year.trim() === String(dental.birth_year)}
          >
            Correct it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
