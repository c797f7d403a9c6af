import { type ComponentProps, lazy, Suspense } from "react";
import { Pane3D } from "./webgl";

const View = lazy(async () => ({ default: (await import("./ToothView3D")).ToothView3D }));

/** The cut tooth, turnable: loaded when it is first shown, or why it cannot be. */
export function Tooth3D(props: ComponentProps<typeof View>) {
  return (
    <Pane3D>
      <Suspense fallback={<p className="p-4 text-soft">Loading the turnable tooth…</p>}>
        <View {...props} />
      </Suspense>
    </Pane3D>
  );
}
