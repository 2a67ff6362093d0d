import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };
const UNIT_TIMEOUT_MS = 60_000;
const BROWSER_TIMEOUT_MS = 120_000;

export default defineConfig({
  test: {
    reporters: ["default", "./tests/setup/closingLine.ts"],
    projects: [
      {
        resolve: { alias },
        test: {
          name: "unit",
          // As many as the machine that checks every change has cores; by itself one would stay idle.
          maxWorkers: 2,
          sequence: { groupOrder: 0 },
          testTimeout: UNIT_TIMEOUT_MS,
          include: ["src/**/*.test.{ts,tsx}", "tests/architecture/**/*.test.ts", "tests/scripts/**/*.test.ts"],
        },
      },
      // These need a database and the built app, which `npm test` starts; they share both, so they take turns.
      {
        resolve: { alias },
        test: {
          name: "whole",
          testTimeout: BROWSER_TIMEOUT_MS,
          hookTimeout: BROWSER_TIMEOUT_MS,
          fileParallelism: false,
          maxWorkers: 1,
          sequence: { groupOrder: 1 },
          globalSetup: "./tests/setup/sharedBrowser.ts",
          include: ["tests/database/**/*.test.ts", "tests/routes/**/*.test.ts", "tests/browser/**/*.test.ts"],
        },
      },
    ],
  },
});
