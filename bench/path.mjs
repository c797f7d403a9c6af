// The cut that every kernel makes: a pear of 0.8 mm swung through a block of
// 8 x 5 x 3 mm on 150 mm of path in 287 motions, its axis swaying. The same as
// benchPath in core/solid/sweep_bench_test.go, in the block's own frame.
export const block = [8, 5, 3];
export const pear = { tip: 0.4, neck: 0.3, head: 1.5 };

export function poses(motions = 287, length = 150) {
  const list = [];
  let x = -2.5;
  let sense = 1;
  for (let n = 0; n <= motions; n++) {
    const a = n / 9;
    const axis = [0.08 * Math.sin(a), 0.08 * Math.cos(a), 1];
    const size = Math.hypot(...axis);
    list.push({
      tip: [x, -1.2 + (2.4 * n) / motions, 0.9 - (0.8 * n) / motions],
      axis: axis.map((v) => v / size),
    });
    x += (sense * length) / motions;
    if (Math.abs(x) > 2.5) sense = -sense;
  }
  return list;
}
