import { readdirSync, readFileSync } from "node:fs";
import { extractStyle } from "@ant-design/static-style-extract";
import { reactRouter } from "@react-router/dev/vite";
import { ConfigProvider } from "antd";
import { type Declaration, parse, type Rule } from "postcss";
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

/** A colour as a style sheet writes one. */
const COLOUR = /#[0-9a-f]{3,8}\b|rgba?\([^()]*\)/gi;

/** What of a style sheet is another colour by night, as declarations that hold both: the browser takes the one of the page's look. */
function byNight(light: string, dark: string): string {
  const found: string[] = [];
  const others = new Map<string, string>();
  const place = (d: Declaration, n: number) => `${(d.parent as Rule).selector} ${d.prop} ${n}`;
  const each = (css: string, use: (d: Declaration, at: string) => void) => {
    const times = new Map<string, number>();
    parse(css).walkDecls((d) => {
      if (d.parent?.type !== "rule" || d.parent.parent?.type !== "root") return;
      const name = place(d, 0);
      const n = times.get(name) ?? 0;
      times.set(name, n + 1);
      use(d, place(d, n));
    });
  };
  each(dark, (d, at) => others.set(at, d.value));
  each(light, (d, at) => {
    const value = bothOf(d.value, others.get(at));
    if (value !== undefined) found.push(`${(d.parent as Rule).selector}{${d.prop}:${value}${d.important ? "!important" : ""}}`);
  });
  return `@supports (color:light-dark(red,red)){${found.join("")}}`;
}

/** A value with both its colours; undefined where it is the same, or differs by more than colours. */
function bothOf(light: string, dark: string | undefined): string | undefined {
  if (dark === undefined || dark === light || light.replace(COLOUR, "") !== dark.replace(COLOUR, "")) return undefined;
  const by = dark.match(COLOUR) ?? [];
  let n = 0;
  return light.replace(COLOUR, (colour) => {
    const night = by[n++];
    return night === undefined || night === colour ? colour : `light-dark(${colour},${night})`;
  });
}

/** Looks of Ant Design's parts as one style sheet of our theme, so that neither server nor browser works them out at every page. */
const looks: Plugin = {
  name: "looks",
  resolveId: (id) => (id === "virtual:looks.css" ? `\0${id}` : undefined),
  load: (id) => {
    if (id !== "\0virtual:looks.css") return undefined;
    const [light, dark] = ([palettes.light, palettes.dark] as const).map((p) => {
      const theme = themeOf(p, p === palettes.dark);
      return extractStyle({ customTheme: (node) => createElement(ConfigProvider, { theme }, node), includes: partsInUse() });
    }) as [string, string];
    return `${light}${byNight(light, dark)}`;
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
      .filter(
        (id) => /\/store\/|\/node_modules\/ajv\//.test(id) || (/\/services\//.test(id) && !/\/words\.ts$|\/services\/units\.ts$/.test(id)),
      );
    if (strayed.length > 0) this.error(`for the server alone, but in the browser's code: ${strayed.join(", ")}`);
  },
};

export default defineConfig({
  plugins: [reactRouter(), looks, serverStays],
  // Single icons are taken into the pages; all of them would be read at every start.
  ssr: { noExternal: [/^@ant-design\/icons\/es\//] },
  build: { chunkSizeWarningLimit: 1500 },
});
