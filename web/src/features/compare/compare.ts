import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** The same case as several schools propose it, in the order asked for. */
export function useComparison(document: CaseDocument, schools: string[]) {
  return useQuery({
    queryKey: keys.comparison(document, schools),
    enabled: schools.length >= 2,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/compare", {
          params: { query: { schools } },
          body: document,
          signal,
        }),
      ),
  });
}

/** One measured figure under every school; nothing where a school has none. */
export interface Row {
  key: string;
  label: string;
  unit: string;
  checks: (Schema["Check"] | undefined)[];
  /** Between the least and the greatest value. */
  spread: number;
}

const leastDifference: Record<string, number> = { mm: 0.05, deg: 1, mm3: 0.05, ratio: 0.05 };

/** The figures on which the schools differ, the largest differences of each unit first. */
export function differences(plans: Schema["Plan"][]): Row[] {
  const rows = new Map<string, Row>();
  plans.forEach((plan, n) => {
    for (const check of plan.checks) {
      const key = `${check.id} ${check.side ?? ""}`;
      const row = rows.get(key) ?? {
        key,
        label: check.label,
        unit: check.unit,
        checks: plans.map(() => undefined),
        spread: 0,
      };
      row.checks[n] = check;
      rows.set(key, row);
    }
  });
  const kept: Row[] = [];
  for (const row of rows.values()) {
    const values = row.checks.flatMap((c) => (typeof c?.value === "number" ? [c.value] : []));
    if (values.length === 0) continue;
    row.spread =
      values.length < plans.length ? Number.POSITIVE_INFINITY : Math.max(...values) - Math.min(...values);
    if (row.spread >= (leastDifference[row.unit] ?? 0.05)) kept.push(row);
  }
  return kept;
}
