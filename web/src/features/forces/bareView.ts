import type { Schema } from "@/api/client";

type View = Schema["View"];

const headroom = 1.9; // mm over a section for its load or a pull
const kept = { plain: new WeakMap<View, View>(), roomy: new WeakMap<View, View>() };

/** A view without its tags, with room over it for arrows where it bears some; the same one each time. */
export function bareView(view: View, roomy: boolean): View {
  const cache = roomy ? kept.roomy : kept.plain;
  let bare = cache.get(view);
  if (!bare) {
    const bounds = [...view.bounds];
    if (roomy) bounds[3] = (bounds[3] ?? 0) + headroom;
    bare = { ...view, tags: [], bounds };
    cache.set(view, bare);
  }
  return bare;
}
