import { defineConfig } from "@playwright/test";

const port = process.env.OBTURON_E2E_PORT ?? "8177";

function browser(...graphics: string[]) {
  return {
    executablePath: "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      ...graphics,
    ],
  };
}

const flat = browser("--disable-gpu", "--disable-3d-apis");

export default defineConfig({
  testDir: ".",
  outputDir: "./test-results",
  // A limit is for what hangs, not for what is slow: beside all other tests a cavity may take
  // minutes to be cut.
  timeout: 600_000,
  expect: { timeout: 150_000 },
  retries: 1, // a starved machine; what passes only then is listed with the result
  workers: 1, // the machine has two cores, and the server wants one
  reporter: "list",
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
  },
  // Drawing in three dimensions without a graphics processor costs more than all else:
  // only tests that look at it have it.
  projects: [
    {
      // House rules judge every open case: before the other tests add theirs.
      name: "schools",
      testMatch: "schools.spec.ts",
      use: { launchOptions: flat },
    },
    {
      name: "flat",
      testIgnore: "schools.spec.ts",
      grepInvert: /@3d/,
      use: { launchOptions: flat },
    },
    {
      name: "solid",
      grep: /@3d/,
      use: {
        launchOptions: browser("--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"),
      },
    },
  ],
  webServer: {
    command: "exec ../scripts/tethered.sh ./server.sh",
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 120_000,
    gracefulShutdown: { signal: "SIGINT", timeout: 15_000 },
    env: { OBTURON_ADDR: `127.0.0.1:${port}` },
  },
});
