import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    // Every test makes its own data in a folder of its own; what modules keep is kept by store.
    isolate: false,
    // As many as there are processors: one fewer, the default, is a single one on two.
    maxWorkers: availableParallelism(),
    include: ["{core,catalog,store,devices,services,app,scripts,judge}/**/*.test.{ts,tsx}"],
    // Generous: a busy machine must not fail a test that says nothing about time.
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
});
