import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };

export default defineConfig({
  test: {
    projects: [
      { resolve: { alias }, test: { name: "unit", testTimeout: 60_000, include: ["src/**/*.test.{ts,tsx}", "tests/architecture/**/*.test.ts"] } },
    ],
  },
});
