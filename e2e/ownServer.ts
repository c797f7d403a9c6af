import { type ChildProcess, spawn } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { openCase } from "./steps";

/** A server of the test's own, that can be stopped and started again, with a case of the demonstration open. */
export async function ownServer(
  page: Page,
  [patient, tooth]: [string, string],
  use: (restart: { stop(): Promise<void>; start(): Promise<void> }) => Promise<void>,
) {
  const data = mkdtempSync(join(tmpdir(), "obturon-e2e-own-"));
  chmodSync(data, 0o755);
  const address = "127.0.0.1:8179";
  let server: ChildProcess | undefined;
  const restart = {
    async start() {
      server = spawn("../scripts/tethered.sh", ["../bin/obturon", "demo"], {
        env: {
          ...process.env,
          OBTURON_ADDR: address,
          OBTURON_DATA_DIR: data,
          OBTURON_MODEL_AHEAD: "false",
          OBTURON_PROVE_AT_NIGHT: "false",
        },
        cwd: import.meta.dirname,
      });
      const answers = () =>
        page.request.get(`http://${address}/api/health`).then(
          (r) => r.status(),
          () => 0,
        );
      await expect.poll(answers).toBe(200);
    },
    async stop() {
      const ending = server;
      server = undefined;
      await new Promise<void>((done) => {
        if (!ending) return done();
        ending.on("exit", () => done());
        ending.kill("SIGINT");
      });
    },
  };
  await restart.start();
  try {
    await page.goto(`http://${address}/sign-in`);
    await page.getByRole("button", { name: "Dentist on duty" }).click();
    await openCase(page, patient, tooth);
    await use(restart);
  } finally {
    await restart.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
