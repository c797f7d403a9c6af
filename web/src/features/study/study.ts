import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** Which tooth is looked at: its number, the age, and what was measured on it. */
export interface Study {
  tooth: string;
  age: number;
  height?: number;
  mesiodistal?: number;
  buccolingual?: number;
  enamel?: number;
}

export const ownSizes = [
  ["height", "Crown height"],
  ["mesiodistal", "Mesiodistal"],
  ["buccolingual", "Buccolingual"],
  ["enamel", "Enamel at the contact"],
] as const;

export type Axis = "mesiodistal" | "buccolingual" | "level";

const query = ({ tooth: _, ...rest }: Study) => rest;
const keptMilliseconds = 60_000; // a tooth's meshes are a megabyte

export function useStudiedTooth(study: Study) {
  return useQuery({
    queryKey: keys.study(study),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/study/{tooth}", {
          params: { path: { tooth: study.tooth }, query: query(study) },
          signal,
        }),
      ),
  });
}

export function useNeighbours(study: Study, wanted: boolean) {
  return useQuery({
    queryKey: keys.study(study, "neighbours"),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/study/{tooth}/neighbours", {
          params: { path: { tooth: study.tooth }, query: query(study) },
          signal,
        }),
      ),
  });
}

export function useSection(study: Study, axis: Axis, at: number, neighbours: boolean) {
  return useQuery({
    queryKey: keys.study(study, "section", axis, at, neighbours),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/study/{tooth}/section", {
          params: { path: { tooth: study.tooth }, query: { ...query(study), axis, at, neighbours } },
          signal,
        }),
      ),
  });
}

/** What lies under a touched point, in the tooth's own frame. */
export function useTouch(study: Study, point: number[] | undefined) {
  return useQuery({
    queryKey: keys.study(study, "touch", point),
    enabled: point !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: async ({ signal }) => {
      const [x = 0, y = 0, z = 0] = point ?? [];
      return unwrap(
        await api.GET("/study/{tooth}/touch", {
          params: { path: { tooth: study.tooth }, query: { ...query(study), x, y, z } },
          signal,
        }),
      );
    },
  });
}

export type Studied = Schema["StudiedTooth"];
