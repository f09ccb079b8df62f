import { readdirSync, readFileSync } from "node:fs";
import { extractStyle } from "@ant-design/static-style-extract";
import { reactRouter } from "@react-router/dev/vite";
import { ConfigProvider } from "antd";
import { createElement } from "react";
import { defineConfig, type Plugin } from "vite";
import { palettes } from "./app/ui/palette";
import { themeOf } from "./app/ui/theme";

/** Parts of Ant Design that the application imports; what stands in them by itself is named here. */
function partsInUse(): string[] {
  const sources = readdirSync("app", { recursive: true, encoding: "utf8" }).filter((file) => file.endsWith(".tsx"));
  const imports = sources.flatMap((file) => [...readFileSync(`app/${file}`, "utf8").matchAll(/import \{([^}]*)\} from "antd"/g)]);
  const names = imports.flatMap(([, list]) => (list ?? "").split(",").map((name) => name.trim()));
  return [...new Set(["Menu", ...names.filter((name) => name !== "" && !name.startsWith("type ") && name !== "ConfigProvider")])];
}

/** Looks of Ant Design's parts as one style sheet of our theme, so that neither server nor browser works them out at every page. */
const looks: Plugin = {
  name: "looks",
  resolveId: (id) => (id === "virtual:looks.css" ? `\0${id}` : undefined),
  load: (id) => {
    if (id !== "\0virtual:looks.css") return undefined;
    const theme = themeOf(palettes.light);
    return extractStyle({ customTheme: (node) => createElement(ConfigProvider, { theme }, node), includes: partsInUse() });
  },
};

/** Fails the build when a module of the server reaches the browser: of services only their words may, which are figures and texts alone. */
const serverStays: Plugin = {
  name: "server-stays",
  applyToEnvironment: (environment) => environment.name === "client",
  generateBundle(_options, bundle) {
    const strayed = Object.values(bundle)
      .flatMap((chunk) => (chunk.type === "chunk" ? Object.entries(chunk.modules) : []))
      .filter(([, module]) => module.renderedLength > 0)
      .map(([id]) => id)
      .filter((id) => /\/store\/|\/node_modules\/ajv\//.test(id) || (/\/services\//.test(id) && !/\/words\.ts$/.test(id)));
    if (strayed.length > 0) this.error(`for the server alone, but in the browser's code: ${strayed.join(", ")}`);
  },
};

export default defineConfig({
  plugins: [reactRouter(), looks, serverStays],
  // Single icons are taken into the pages; all of them would be read at every start.
  ssr: { noExternal: [/^@ant-design\/icons\/es\//] },
  build: { chunkSizeWarningLimit: 1500 },
});
