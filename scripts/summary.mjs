// Counts the results of the Go and browser tests, shows what failed, and ends
// with the plain line "N passed, N failed"; before it what took longest, as many
// as OBTURON_SLOWEST says.
import { existsSync, readFileSync } from "node:fs";

const [dir, checksPassed, checksFailed, goStatus, e2eStatus] = process.argv.slice(2);
let passed = Number(checksPassed);
let failed = Number(checksFailed);
const read = (name) => (existsSync(`${dir}/${name}`) ? readFileSync(`${dir}/${name}`, "utf8") : "");

const output = new Map();
const took = []; // seconds and what took them
let goFailed = 0;
for (const line of read("go.json").split("\n")) {
  if (!line.startsWith("{")) continue;
  const event = JSON.parse(line);
  const key = `${event.Package} ${event.Test ?? ""}`;
  if (event.Action === "output") output.set(key, (output.get(key) ?? "") + event.Output);
  if (event.Elapsed > 0 && !event.Test?.includes("/")) took.push([event.Elapsed, key]);
  const counts = event.Test !== undefined || event.Action === "fail";
  if (event.Action === "pass" && counts) passed++;
  if (event.Action === "fail" && (event.Test !== undefined || !(output.get(key) ?? "").includes("FAIL\t"))) {
    goFailed++;
    console.log(output.get(key) ?? key);
  }
}
if (goStatus !== "0" && goFailed === 0) {
  goFailed = 1;
  for (const [key, text] of output) if (/FAIL|panic|cannot|undefined/.test(text)) console.log(key, text);
  console.log(read("go.err"));
}
failed += goFailed;

let e2eFailed = 0;
function walk(suite) {
  for (const inner of suite.suites ?? []) walk(inner);
  for (const spec of suite.specs ?? []) {
    for (const test of spec.tests) {
      if (test.status === "skipped") continue;
      const milliseconds = test.results.reduce((sum, result) => sum + result.duration, 0);
      took.push([milliseconds / 1000, `${spec.file} ${spec.title} (${test.projectName})`]);
      if (test.status === "unexpected") {
        e2eFailed++;
        console.log(`FAILED: ${spec.file} ${spec.title}`);
        for (const result of test.results) for (const error of result.errors ?? []) console.log(error.message);
      } else {
        passed++;
        if (test.status === "flaky") {
          console.log(`PASSED ONLY WHEN TRIED AGAIN: ${spec.file} ${spec.title}`);
          for (const error of test.results[0].errors ?? []) console.log(error.message.split("\n")[0]);
        }
      }
    }
  }
}
const report = read("e2e.json");
if (report) walk(JSON.parse(report));
if (e2eStatus !== "0" && e2eFailed === 0) {
  e2eFailed = 1;
  console.log(read("e2e.log"));
}
failed += e2eFailed;

took.sort((a, b) => b[0] - a[0]);
for (const [seconds, what] of took.slice(0, Number(process.env.OBTURON_SLOWEST ?? 0))) {
  console.log(`${seconds.toFixed(1)} s  ${what}`);
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
