import { toast } from "sonner";
import { ApiProblem, inWords, type Schema } from "@/api/client";
import { useEdited } from "@/app/useEdited";
import { useLeaving } from "@/app/useLeaving";
import { useMay } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { KeepBar } from "@/ui/KeepBar";
import { Notice } from "@/ui/Notice";
import { ProductRow } from "./ProductRow";
import { type Product, useProducts, useSaveProducts } from "./products";

/** What the practice fills with: its products with the figures of their sheets, its lamps as measured. */
export function MaterialsPage() {
  const products = useProducts();
  if (products.error) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <Notice
          tone="warn"
          title="The materials cannot be read"
          actions={<Button onClick={() => products.refetch()}>Try again</Button>}
        >
          {inWords(products.error)}
        </Notice>
      </main>
    );
  }
  if (!products.data) return <p className="p-10 text-soft">Reading the materials…</p>;
  return <Materials kept={products.data} />;
}

function Materials({ kept }: { kept: Schema["PracticeProducts"] }) {
  const edited = useEdited(kept, (d) => d.products);
  const { value: all, set: setAll, changed } = edited;
  const save = useSaveProducts();
  const may = useMay("change_rules");
  useLeaving(changed, "The changed materials are not kept. Leave all the same?");
  const problem = save.error instanceof ApiProblem ? save.error : undefined;
  const faultsOf = (n: number) =>
    (problem?.faults ?? []).filter((f) => f.path?.startsWith(`$.products[${n}]`)).map((f) => f.message);
  const set = (n: number, product: Product | undefined) =>
    setAll(product ? all.with(n, product) : all.toSpliced(n, 1));

  return (
    <main className="h-full overflow-auto p-6">
      <KeepBar
        title="Materials"
        about="The first of a kind is the one that fillings are planned with. Take the figures from your product's own sheet; an empty field stands for the usual one."
        what="the materials"
        edited={edited}
        ready={may}
        saving={save.isPending}
        error={save.error}
        faultsStand="the products"
        onKeep={() =>
          save.mutate(
            { version: edited.from.version, products: all },
            {
              onSuccess: () => {
                edited.discard();
                toast("The materials are kept. Fillings are planned with them from now on.");
              },
            },
          )
        }
      />
      {kept.kinds.map((kind) => {
        const own = all.flatMap((product, n) => (product.kind === kind.kind ? [{ product, n }] : []));
        return (
          <section key={kind.kind} aria-label={kind.name} className="mt-5">
            <div className="flex items-baseline gap-3">
              <h2 className="font-bold">{kind.name}</h2>
              {own.length === 0 && (
                <span className="text-soft">Planned with a usual one: {kind.usual?.toLowerCase()}.</span>
              )}
              {may && (
                <Button
                  aria-label={`Add: ${kind.name}`}
                  onClick={() => setAll([...all, { kind: kind.kind, name: "" }])}
                >
                  Add
                </Button>
              )}
            </div>
            {own.map(({ product, n }, place) => (
              <ProductRow
                key={n}
                kind={kind}
                product={product}
                taken={place === 0}
                note={changed ? undefined : kept.notes.find((note) => note.product === n)?.text}
                faults={faultsOf(n)}
                may={may}
                onChange={(to) => set(n, to)}
              />
            ))}
          </section>
        );
      })}
    </main>
  );
}
