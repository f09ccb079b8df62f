/** Bundles the server's own code, so that it starts without translating TypeScript at every start. Packages stay outside. */
import { defineConfig } from "vite";

export default defineConfig({
  build: {
    ssr: true,
    rollupOptions: { input: { main: "app/server/main.ts", files: "workers/files.ts", trace: "workers/trace.ts", plan: "workers/plan.ts" } },
    outDir: "build/main",
    emptyOutDir: true,
    target: "node20",
    minify: false,
    copyPublicDir: false,
  },
});
