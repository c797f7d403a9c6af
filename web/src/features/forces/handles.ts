/** The pointer in a drawing's millimetres, y upwards; nothing while no button is held. */
export function pointedIn(group: SVGGElement | null, event: React.PointerEvent) {
  const matrix = group?.getScreenCTM();
  if (!matrix || event.buttons === 0) return undefined;
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
  return { x: at.x, y: -at.y };
}

/** An angle from -180 to 180 degrees. */
export const wrapped = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180;

/** Steps a slider by its arrow keys. */
export function byKey(event: React.KeyboardEvent, step: number, by: (step: number) => void) {
  const to = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  by(to);
}
