import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,catalog,store,app,scripts}/**/*.test.{ts,tsx}"], // Generous: a busy machine must not fail a test that says nothing about time.
    testTimeout: 240_000,
  },
});
