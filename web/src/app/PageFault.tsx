import { Link } from "react-router";

/** What stands in place of a page that is missing or broke. */
export function PageFault({ missing = false }: { missing?: boolean }) {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-xl font-bold">{missing ? "There is no such page" : "This page stopped working"}</h1>
      <p className="mt-2 text-soft">
        {missing
          ? "The address may have been mistyped."
          : "What you fixed as a revision is safe; the draft is as it was last saved. Load the page again."}
      </p>
      <Link className="mt-4 inline-block text-accent underline" to="/cases">
        To the day sheet
      </Link>
    </main>
  );
}
