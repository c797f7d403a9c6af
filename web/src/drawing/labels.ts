import type { Schema } from "@/api/client";

/** Where a tag's label stands, in screen pixels of the pane; its leader meets it at x. */
export interface LabelBox {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Shown under the value. */
  name?: string;
}

/** How a view lies in its pane: screen pixels a millimetre, and the millimetres at its corner. */
export interface Placement {
  scale: number;
  left: number;
  top: number;
}

const plainSize = { width: 72, height: 22 }; // pixels
const namedHeight = 38;
const letterWidth = 7; // pixels a letter of a name, on the safe side
const gap = 3;
const edge = 4;

function widthOf(tag: Schema["Tag"], named: boolean): number {
  if (!named) return plainSize.width;
  return Math.max(plainSize.width + (tag.unit === "deg" ? 0 : 16), 16 + letterWidth * tag.label.length);
}

const columns = (tags: Schema["Tag"][]) => ({
  left: tags.filter((t) => !t.label_right),
  right: tags.filter((t) => t.label_right),
});

const widest = (tags: Schema["Tag"][], named: boolean) =>
  tags.reduce((most, t) => Math.max(most, widthOf(t, named)), 0);

/**
 * Fits a view into its pane so that the columns of labels beside it, which keep
 * their size on screen, stand whole.
 */
export function placeView(
  view: Schema["View"],
  size: { width: number; height: number },
  named: boolean,
): Placement {
  const [minX = 0, minY = 0, maxX = 1, maxY = 1] = view.bounds;
  const { left, right } = columns(view.tags);
  // The drawing itself ends where the leaders meet the labels.
  const from = left[0]?.label_at[0] ?? minX;
  const to = right[0]?.label_at[0] ?? maxX;
  const roomLeft = left.length > 0 ? widest(left, named) + edge : 0;
  const roomRight = right.length > 0 ? widest(right, named) + edge : 0;
  const free = size.width - roomLeft - roomRight;
  const scale = Math.max(Math.min(free / (to - from), size.height / (maxY - minY)), 1);
  const middle = roomLeft + free / 2;
  return {
    scale,
    left: (from + to) / 2 - middle / scale,
    top: -(minY + maxY) / 2 - size.height / scale / 2,
  };
}

/** Stands each tag's label beside the view, none over another and all within the pane. */
export function placeLabels(
  view: Schema["View"],
  { scale, left, top }: Placement,
  height: number,
  named: boolean,
): LabelBox[] {
  const boxes = view.tags.map((t) => ({
    x: ((t.label_at[0] ?? 0) - left) * scale,
    y: (-(t.label_at[1] ?? 0) - top) * scale,
    width: widthOf(t, named),
    height: named ? namedHeight : plainSize.height,
    name: named ? t.label : undefined,
  }));
  for (const side of [true, false]) {
    const column = boxes.filter((_, n) => view.tags[n]?.label_right === side);
    spread(column, height);
  }
  return boxes;
}

/** Moves labels of one column apart, in their order, as little as the pane allows. */
function spread(column: LabelBox[], paneHeight: number) {
  const sorted = column.sort((a, b) => a.y - b.y);
  let next = edge;
  for (const box of sorted) {
    box.y = Math.max(box.y, next + box.height / 2);
    next = box.y + box.height / 2 + gap;
  }
  next = paneHeight - edge;
  for (const box of sorted.reverse()) {
    box.y = Math.min(box.y, next - box.height / 2);
    next = box.y - box.height / 2 - gap;
  }
}
