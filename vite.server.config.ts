/** Bundles the server's own code, so that it starts without translating TypeScript at every start. Packages stay outside. */
import { defineConfig } from "vite";

export default defineConfig({
  build: { ssr: "app/server/main.ts", outDir: "build/main", emptyOutDir: true, target: "node20", minify: false, copyPublicDir: false },
});
