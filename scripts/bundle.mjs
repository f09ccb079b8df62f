/**
 * The last step of the build: server and pages with all their packages in a few files, so that a start reads those instead of some two
 * thousand; and the pages' files compressed. Packages with binaries of their own stay outside. Plain Node, because the build runs before anything else does.
 */
import { readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";
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

// Files of the pages, compressed once instead of at every request, as small as they go. Styles of the server's own build are those of the pages again.
const assets = "build/client/assets";
const [br, gz] = [promisify(brotliCompress), promisify(gzip)];
async function compressed(file) {
  const bytes = readFileSync(file);
  const { BROTLI_PARAM_QUALITY, BROTLI_PARAM_SIZE_HINT, BROTLI_PARAM_MODE, BROTLI_MODE_TEXT } = constants;
  const params = { [BROTLI_PARAM_QUALITY]: 11, [BROTLI_PARAM_SIZE_HINT]: bytes.length, [BROTLI_PARAM_MODE]: BROTLI_MODE_TEXT };
  writeFileSync(`${file}.gz`, await gz(bytes, { level: 9 }));
  writeFileSync(`${file}.br`, await br(bytes, { params }));
}
const names = readdirSync(assets);
for (const name of names) if (/^server-build-.*\.css$|\.(br|gz)$/.test(name)) rmSync(`${assets}/${name}`);
await Promise.all(
  names.filter((n) => /\.(js|css|svg)$/.test(n) && !/^server-build-.*\.css$/.test(n)).map((n) => compressed(`${assets}/${n}`)),
);
