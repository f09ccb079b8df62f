import { defineConfig } from "vitest/config";

export default defineConfig({
  test: { include: ["{core,catalog,store,app,scripts}/**/*.test.{ts,tsx}"], testTimeout: 30_000 },
});
