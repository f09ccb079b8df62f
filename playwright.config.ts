import { existsSync, readFileSync } from "node:fs";
import { defineConfig } from "@playwright/test";

const chromiums = JSON.parse(readFileSync("e2e/chromium.json", "utf8")) as string[];

export default defineConfig({
  testDir: "e2e",
  outputDir: "test-results/browser",
  globalSetup: "./e2e/prepare.ts",
  workers: 3,
  timeout: 300_000,
  expect: { timeout: 20_000 },
  reporter: "list",
  use: {
    viewport: { width: 1280, height: 800 },
    // A thing that never comes is said soon.
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: chromiums.find(existsSync) ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
