// Prints the kernel's figures beside their targets, and peers where they are
// installed, all measured in this run: make bench.
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const here = import.meta.dirname;
const root = join(here, "..");

/** Runs Go benchmarks; the answer holds, by name, the median of each figure over the counts. */
function go(packages, pattern, times, counts = 3) {
  const out = execFileSync(
    "go",
    ["test", ...packages, "-run", "^$", "-bench", pattern, "-benchtime", times, "-count", String(counts)],
    { cwd: root, encoding: "utf8", maxBuffer: 1 << 24 },
  );
  const found = {};
  for (const line of out.split("\n")) {
    const [name, , ...rest] = line.trim().split(/\s+/);
    if (!name?.startsWith("Benchmark")) continue;
    const key = name.slice("Benchmark".length).replace(/-\d+$/, "");
    for (let k = 0; k + 1 < rest.length; k += 2) {
      ((found[key] ??= {})[rest[k + 1]] ??= []).push(Number(rest[k]));
    }
  }
  const median = (list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)];
  return Object.fromEntries(
    Object.entries(found).map(([k, units]) => [
      k,
      Object.fromEntries(Object.entries(units).map(([u, list]) => [u, median(list)])),
    ]),
  );
}

function manifold() {
  if (!existsSync(join(here, "node_modules/manifold-3d"))) return undefined;
  const run = spawnSync("node", ["manifold.mjs"], { cwd: here, encoding: "utf8" });
  return run.status === 0 ? JSON.parse(run.stdout) : undefined;
}

function openvdb() {
  if (!existsSync("/usr/include/openvdb/openvdb.h")) return undefined;
  const binary = join(mkdtempSync(join(tmpdir(), "bench-")), "openvdb");
  const flags = ["-O2", "-std=c++17", "-w", "openvdb.cpp", "-o", binary, "-lopenvdb", "-ltbb", "-lImath-3_1"];
  if (spawnSync("g++", flags, { cwd: here }).status !== 0) return undefined;
  return Object.fromEntries(
    ["0.1", "0.05"].map((h) => [h, JSON.parse(execFileSync(binary, [h], { encoding: "utf8" }))]),
  );
}

const solid = go(["./core/solid"], "Carve|Nudge|Sequence|WholeMesh|Surface|Removed", "10x");
const tooth = go(["./core/anatomy"], "FirstView|Arches|Outlines|Memory", "3x", 1);
const rehearsed = go(["./core/rehearsal"], ".", "5x", 1);
const hands = go(["./core/tolerance"], ".", "20x", 1);
const elastic = go(["./core/elastic", "./core/resist"], ".", "1x");
const jobs = go(["./internal/store"], "Claim", "50x");
const rest = go(["./core/measure", "./internal/plan", "./internal/export"], ".", "20x", 1);

/** What 300 untouched plans of usual cases miss by their own schools' rules, a plan. */
function usual() {
  const run = spawnSync(
    "go",
    ["test", "./internal/plan", "-run", "UsualProposals", "-count", "1", "-timeout", "60m", "-v"],
    { cwd: root, encoding: "utf8", env: { ...process.env, OBTURON_USUAL: "300", OBTURON_SEED: "1" } },
  );
  const found = run.stdout.match(/plans: ([\d.]+) missed .*?, ([\d.]+) near .* (\d+) critical/);
  return found ? { missed: Number(found[1]), near: Number(found[2]), critical: Number(found[3]) } : {};
}
const proposed = usual();

const ms = (b) => (b ? b["ns/op"] / 1e6 : Number.NaN);
const meshScale = 660_000 / (solid.WholeMesh?.triangles ?? 1);
const rows = [
  ["150 mm path, pear 0.8, 287 motions: cut at 0.1 mm", ms(solid.CarvePear01), "ms"],
  ["  the same at 0.05 mm", ms(solid.CarvePear005), "ms", 40],
  ["450 mm with three burs, 861 motions, 0.05 mm: cut", ms(solid.SequenceCarve), "ms", 150],
  ["  and the whole mesh", ms(solid.SequenceMesh), "ms", 400],
  ["move of 0.5 mm, cut and changed surface, 0.1 mm", ms(solid.Nudge01), "ms", 2],
  ["  the same at 0.05 mm", ms(solid.Nudge005), "ms", 5],
  ["whole mesh, scaled to 660,000 triangles", ms(solid.WholeMesh) * meshScale, "ms", 200],
  ["memory of a lower molar at 0.05 mm", tooth.ToothMemory?.MB, "MB", 80],
  ["surface error on the sequence, 99th percentile", solid.SurfaceError?.["µm-p99"], "µm", 8],
  ["  at the most", solid.SurfaceError?.["µm-max"], "µm", 20],
  ["  folded edges", solid.SurfaceError?.folded, "", 0],
  ["all gauges of a box, with mesh and margin", ms(rest.AllBoxGauges), "ms", 100],
  ["the checks of hold, on an MOD", ms(rest.HoldChecks), "ms", 30],
  ["48,600 unknowns made ready and solved", ms(elastic.SlottedBlock), "ms", 2000],
  ["  the same in ccx", ms(elastic.Calculix), "ms"],
  ["sound, cut and filled molar under load, 0.4 mm", ms(elastic.Part), "ms", 2000],
  ["first view of a tooth, cold: 11", ms(tooth["FirstView/11"]), "ms", 500],
  ["  16", ms(tooth["FirstView/16"]), "ms", 500],
  ["  46", ms(tooth["FirstView/46"]), "ms", 500],
  ["  85", ms(tooth["FirstView/85"]), "ms", 500],
  ["outlines of the permanent teeth, cold", ms(tooth.OutlinesForTheChooser), "ms", 2000],
  ["all four arches, cold", ms(tooth.Arches), "ms"],
  ["solving an MOD's proposal behind its first drawing", ms(rest["Solve/MOD"]), "ms", 3000],
  ["  a DO's", ms(rest["Solve/DO"]), "ms", 3000],
  ["300 untouched plans of usual cases: missed, each", proposed.missed, "", 0.15],
  ["  near, each", proposed.near, "", 0.8],
  ["  critical misses", proposed.critical, "", 0],
  ["where a 330 may stand in a Class I of a lower molar", ms(rehearsed["ClassI/Where/330"]), "ms", 5],
  ["  a 57", ms(rehearsed["ClassI/Where/57"]), "ms", 15],
  ["deriving and rehearsing its steps", ms(rehearsed["ClassI/Derived"]), "ms", 2000],
  ["  rehearsing the same steps again", ms(rehearsed["ClassI/Repeated"]), "ms"],
  ["  the solids after each", ms(rehearsed["ClassI/Carved"]), "ms", 80],
  ["200 cuts of a premolar's Class I by a hand that errs", (ms(hands.Once) * 200) / 1000, "s", 60],
  ["filling a composite box, CPU", rest["Filling/Box"]?.["cpu-ms"], "ms", 400],
  ["  a wide composite MOD", rest["Filling/WideMOD"]?.["cpu-ms"], "ms", 400],
  ["  an amalgam MOD", rest["Filling/AmalgamMOD"]?.["cpu-ms"], "ms", 400],
  ["  a neck", rest["Filling/Neck"]?.["cpu-ms"], "ms", 400],
  ["  an incisal angle", rest["Filling/Angle"]?.["cpu-ms"], "ms", 400],
  ["taking a part of long work and giving it back, of 2,200", ms(jobs.Claim), "ms", 20],
  ["dragging a Class I, whole evaluation (median)", rest.EvaluateDrag?.["ms-median"], "ms", 250],
  ["dragging an MOD, whole evaluation (median)", rest.EvaluateDragMOD?.["ms-median"], "ms", 250],
];
console.log(`${"".padEnd(54)}${"measured".padStart(12)}${"target".padStart(12)}`);
for (const [what, value, unit, target] of rows) {
  const figure = value === undefined || Number.isNaN(value) ? "-" : `${value.toFixed(value < 10 ? 2 : 0)} ${unit}`;
  const goal = target === undefined ? "" : `${target} ${unit}`;
  const reached = target === undefined || value === undefined ? "" : value <= target ? "  reached" : "  missed";
  console.log(what.padEnd(54) + figure.padStart(12) + goal.padStart(12) + reached);
}

const ours = { whole: ms(solid.CarvePear01), fine: ms(solid.CarvePear005), nudge: ms(solid.Nudge01) };
console.log(`\nThe same cut by peers (removed here: ${solid.RemovedByPath?.mm3?.toFixed(2)} mm3)`);
const vdb = openvdb();
for (const [h, time] of vdb ? [["0.1", ours.whole], ["0.05", ours.fine]] : []) {
  const peer = vdb[h];
  console.log(
    `  OpenVDB level-set difference at ${h} mm: ${peer.cut_ms.toFixed(0)} ms, ${(peer.cut_ms / time).toFixed(1)} times ours (goal 10); removed ${peer.removed_mm3.toFixed(2)} mm3`,
  );
}
if (!vdb) console.log("  OpenVDB: not installed (libopenvdb-dev, libboost-dev, libtbb-dev, g++)");
const exact = manifold();
if (exact) {
  console.log(
    `  manifold-3d, one thread: cut ${exact.cut_ms.toFixed(0)} ms, ${(exact.cut_ms / ours.whole).toFixed(0)} times ours (goal 40); move ${exact.nudge_ms.toFixed(1)} ms, ${(exact.nudge_ms / ours.nudge).toFixed(1)} times ours; removed ${exact.removed_mm3.toFixed(2)} mm3`,
  );
} else console.log("  manifold-3d: not installed (npm install in bench/)");
