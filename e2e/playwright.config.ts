import { defineConfig } from "@playwright/test";

const port = process.env.OBTURON_E2E_PORT ?? "8177";

export default defineConfig({
  testDir: ".",
  outputDir: "./test-results",
  timeout: 90_000,
  expect: { timeout: 20_000 },
  workers: 1, // the machine has two cores, and the server wants one
  reporter: "list",
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--use-gl=angle",
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: {
    command: "./server.sh",
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 120_000,
    gracefulShutdown: { signal: "SIGINT", timeout: 15_000 },
    env: { OBTURON_ADDR: `127.0.0.1:${port}` },
  },
});
