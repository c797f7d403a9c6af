import { ApiProblem, api, unwrap } from "@/api/client";
import type { paths } from "@/api/schema";

type File = paths["/cases/{id}/files/{file}"]["get"]["parameters"]["path"]["file"];

const shown = /\.(pdf|svg|png)$/; // in the browser; everything else is saved
const keptMilliseconds = 60_000; // until a shown file has surely been read

/** Fetches a file of exactly the draft or revision that is shown, and opens or saves it. */
export async function openFile(id: string, file: string, of: { revision?: number; draft?: number }) {
  const answer = await api.GET("/cases/{id}/files/{file}", {
    params: { path: { id, file: file as File }, query: of },
    parseAs: "blob",
  });
  if (!answer.response.ok) throw new ApiProblem(await problemOf(answer.error));
  const url = URL.createObjectURL(unwrap(answer) as unknown as Blob);
  if (shown.test(file)) window.open(url, "_blank");
  else {
    const link = document.createElement("a");
    link.href = url;
    link.download = nameOf(answer.response) ?? file;
    link.click();
  }
  setTimeout(() => URL.revokeObjectURL(url), keptMilliseconds);
}

function nameOf(response: Response): string | undefined {
  return /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1];
}

async function problemOf(error: unknown): Promise<ApiProblem["problem"]> {
  if (typeof error === "object" && error !== null && "title" in error) return error as ApiProblem["problem"];
  return { status: 0, title: "The file could not be made" };
}
