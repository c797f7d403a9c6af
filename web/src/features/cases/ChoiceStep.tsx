import type { UseFormReturn } from "react-hook-form";
import type { CaseDocument, Schema } from "@/api/client";
import { SelectField } from "@/ui/Field";
import { useProposal, useSchools } from "./cases";
import type { Answers } from "./intake";
import { Step } from "./Step";
import { materials } from "./words";

interface Props {
  form: UseFormReturn<Answers>;
  answers: Answers;
  /** The case as far as it is known; nothing before tooth and age are. */
  document?: CaseDocument;
  /** Whether the patient's age is known. */
  aged: boolean;
}

/** Material and school as the core proposes them, with its reason; the dentist decides. */
export function ChoiceStep({ form, answers, document, aged }: Props) {
  const schools = useSchools();
  const proposal = useProposal(document, aged).data;
  const school = answers.school || proposal?.school;
  const named = (id: string | undefined) => schools.data?.find((s) => s.id === id);
  const asProposed = (name: string | undefined) => (name ? `As proposed: ${name}` : "As proposed");
  const barred =
    answers.material && proposal?.advice.materials.find((m) => m.material === answers.material)?.barred;
  return (
    <Step title="4 Material and school">
      <SelectField
        label="Material"
        options={[
          [
            "",
            answers.material
              ? "As proposed"
              : asProposed(proposal && materials[proposal.material].toLowerCase()),
          ],
          ...Object.entries(materials),
        ]}
        hint={
          barred ? `Note: ${barred}. Check local law.` : answers.material ? undefined : reasonOf(proposal)
        }
        {...form.register("material")}
      />
      <SelectField
        label="School"
        options={[
          ["", answers.school ? "As proposed" : asProposed(named(proposal?.school)?.title.toLowerCase())],
          ...(schools.data ?? []).map((s): [string, string] => [s.id, s.title]),
        ]}
        hint={named(school)?.summary}
        {...form.register("school")}
      />
    </Step>
  );
}

/** Why the core proposes what it does, in a line. */
function reasonOf(proposal: Schema["Proposal"] | undefined): string {
  if (!proposal) return "The tooth makes the proposal; you decide";
  const { reason, assumed_age_years: assumed } = proposal;
  return assumed ? `${reason} Taken for a patient of ${assumed}: the birth year may change it.` : reason;
}
