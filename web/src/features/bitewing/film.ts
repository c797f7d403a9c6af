import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** A picture to measure on; without a scale until it has been calibrated. */
export interface Film {
  url: string;
  width: number;
  height: number;
  pixelsPerMM?: number;
  source: "simulated" | "own";
}

export interface Point {
  x: number;
  y: number;
}

export const distance = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);

/** A film of the bench: what its lesion is follows from the seed. */
export function useBenchFilm(tooth: string, site: string, age: number | undefined, seed: number) {
  return useQuery({
    queryKey: keys.film(tooth, site, age, seed),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async (): Promise<Film> => {
      const film = unwrap(
        await api.GET("/teeth/{text}/bitewing", {
          params: { path: { text: tooth }, query: { site, age, seed } },
        }),
      );
      return {
        url: `data:image/png;base64,${film.image}`,
        width: film.width,
        height: film.height,
        pixelsPerMM: film.pixels_per_mm,
        source: "simulated",
      };
    },
  });
}

/** What a measured depth means on this tooth. */
export function useFilmReading(tooth: string, site: string, age: number | undefined, mm: number | undefined) {
  return useQuery({
    queryKey: keys.filmDepth(tooth, site, age, mm),
    enabled: mm !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: async () =>
      unwrap(
        await api.GET("/teeth/{text}/film-depth", {
          params: { path: { text: tooth }, query: { site, age, mm: mm ?? 0 } },
        }),
      ),
  });
}

/** Reads a picture of the user's own; it never leaves the browser. */
export async function ownFilm(file: File): Promise<Film> {
  if (file.type !== "image/png" && file.type !== "image/jpeg")
    throw new Error("Only PNG and JPEG pictures can be shown: export the bitewing in one of these.");
  const url = URL.createObjectURL(file);
  const picture = new Image();
  picture.src = url;
  try {
    await picture.decode();
  } catch {
    URL.revokeObjectURL(url);
    throw new Error("This picture cannot be read: it may be damaged.");
  }
  return { url, width: picture.naturalWidth, height: picture.naturalHeight, source: "own" };
}
