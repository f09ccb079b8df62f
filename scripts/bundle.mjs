/**
 * The last step of the build: server and pages with all their packages in a few files, so that a start reads those instead of some two
 * thousand; and the pages' files compressed. Packages with binaries of their own stay outside. Plain Node, because the build runs before anything else does.
 */
import { readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { build } from "esbuild";

await build({
  entryPoints: {
    main: "build/main/main.js",
    files: "build/main/files.js",
    trace: "build/main/trace.js",
    plan: "build/main/plan.js",
    pages: "build/server/index.js",
  },
  outdir: "build/run",
  outExtension: { ".js": ".mjs" },
  bundle: true,
  // What both need, React Router above all, must be there once.
  splitting: true,
  format: "esm",
  platform: "node",
  target: "node20",
  mainFields: ["module", "main"],
  // The solver finds its module beside its own file.
  external: ["libsql", "sharp", "highs"],
  define: { "process.env.NODE_ENV": '"production"' },
  minifySyntax: true,
  logLevel: "warning",
  banner: {
    js: [
      'import { createRequire as bundledRequire } from "node:module";',
      'import { fileURLToPath as bundledPath } from "node:url";',
      'import { dirname as bundledFolder } from "node:path";',
      "const require = bundledRequire(import.meta.url);",
      "const __filename = bundledPath(import.meta.url);",
      "const __dirname = bundledFolder(__filename);",
    ].join("\n"),
  },
});

// Files of the pages, compressed once instead of at every request. Styles of the server's own build are those of the pages again.
const assets = "build/client/assets";
for (const name of readdirSync(assets)) {
  const file = `${assets}/${name}`;
  if (/^server-build-.*\.css$|\.(br|gz)$/.test(name)) rmSync(file);
  else if (/\.(js|css|svg)$/.test(name)) {
    const bytes = readFileSync(file);
    writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
    writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }));
  }
}
