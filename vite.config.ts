import { extractStyle } from "@ant-design/static-style-extract";
import { reactRouter } from "@react-router/dev/vite";
import { ConfigProvider } from "antd";
import { type Declaration, parse, type Rule } from "postcss";
import { createElement } from "react";
import { defineConfig, type Plugin } from "vite";
import { palettes } from "./app/ui/palette";
import { themeOf, VARIABLES } from "./app/ui/theme";

/** Parts of Ant Design that other parts hold, which nobody imports by name. */
const HELD: Readonly<Record<string, readonly string[]>> = {
  AutoComplete: ["Select", "Input"],
  Dropdown: ["Menu", "Button"],
  Modal: ["Button"],
  Popconfirm: ["Popover", "Button"],
  Result: ["Typography"],
  Select: ["Empty"],
  Table: ["Pagination", "Spin", "Empty"],
  Upload: ["Progress", "Button"],
};

/** Parts that the server draws on most pages: their looks come with the page, in one sheet, before anything is drawn. */
const EVERYWHERE = ["Button", "Alert", "Card", "Collapse", "Descriptions", "Popover", "Form", "Input", "Select", "Radio", "Checkbox"];

/** Parts a file of the application imports, with what they hold. */
function partsIn(source: string): string[] {
  const names = [...source.matchAll(/import \{([^}]*)\} from "antd"/g)].flatMap(([, list]) => (list ?? "").split(","));
  const parts = names.map((name) => name.trim()).filter((name) => name !== "" && !name.startsWith("type ") && name !== "ConfigProvider");
  return [...new Set(parts.flatMap((part) => [part, ...(HELD[part] ?? [])]))].filter((part) => !EVERYWHERE.includes(part));
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
  return found.join("");
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

/** The rules of a style sheet, one by one. */
const rulesOf = (css: string): string[] => parse(css).nodes.map((node) => node.toString());

/** Rules by day, and what is another colour by night. */
type DayAndNight = readonly [day: readonly string[], night: readonly string[]];

function rulesFor(parts: readonly string[]): DayAndNight {
  const [day, night] = [palettes.light, palettes.dark].map((p) => {
    const theme = themeOf(p, p === palettes.dark);
    return extractStyle({ customTheme: (node) => createElement(ConfigProvider, { theme }, node), includes: [...parts] });
  }) as [string, string];
  return [rulesOf(day), rulesOf(byNight(day, night))];
}

/** What the looks of every part begin with: links, icons, the variables of the theme. */
const common = ["Divider", "Card", "Alert"].map((part) => rulesFor([part]));
const sharedOf = (i: 0 | 1): readonly string[] => common[0]?.[i].filter((rule) => common.every((rules) => rules[i].includes(rule))) ?? [];
const shared: DayAndNight = [sharedOf(0), sharedOf(1)];

/** What a browser that knows colours by look is told besides. */
const byLook = (night: readonly string[]): string => (night.length > 0 ? `@supports (color:light-dark(red,red)){${night.join("")}}` : "");

/**
 * A sheet in its layer. Variables stand in none: the parts set them once more by day as they wake up, before our sheets and in no layer, and what
 * stands in a layer would give way to that.
 */
function inLayer(layer: string, [day, night]: DayAndNight): string {
  const isVariable = (rule: string) => rule.startsWith(`.${VARIABLES}`);
  const other = (rules: readonly string[]) => rules.filter((rule) => !isVariable(rule));
  const variables = (rules: readonly string[]) => rules.filter(isVariable);
  return `@layer ${layer}{${other(day).join("")}${byLook(other(night))}}${variables(day).join("")}${byLook(variables(night))}`;
}

/**
 * Looks of Ant Design's parts as style sheets of our theme, so that neither server nor browser works them out at every page: one with
 * what most pages show, and one for each other part, which comes with the code that shows it. They stand in layers: whatever comes later, our rules hold.
 */
const looks: Plugin = {
  name: "looks",
  resolveId: (id) => (id.startsWith("virtual:looks") ? `\0${id}` : undefined),
  load: (id) => {
    const part = /^\0virtual:looks(?:\/(\w+))?\.css$/.exec(id);
    if (!part) return undefined;
    const [, name] = part;
    const [day, night] = rulesFor(name === undefined ? EVERYWHERE : [name]);
    const own: DayAndNight = [day.filter((rule) => !shared[0].includes(rule)), night.filter((rule) => !shared[1].includes(rule))];
    return `@layer reset,base,looks;${name === undefined ? inLayer("reset", shared) : ""}${inLayer("looks", own)}`;
  },
  transform: (code, id) =>
    /\/app\/[^?]*\.tsx$/.test(id) && code.includes('from "antd"')
      ? {
          code: `${partsIn(code)
            .map((part) => `import "virtual:looks/${part}.css";`)
            .join("")}${code}`,
          map: null,
        }
      : undefined,
};

/** No card here has tabs: with them it would bring menus, drop-downs and placeholders to every page. */
const cardsWithoutTabs: Plugin = {
  name: "cards-without-tabs",
  enforce: "pre",
  resolveId: (id, importer) =>
    /^\.\.\/(tabs|skeleton)$/.test(id) && importer && /\/antd\/es\/card\/Card\.js$/.test(importer) ? "\0no-part" : undefined,
  load: (id) =>
    id === "\0no-part"
      ? 'export default function NoPart() { throw new Error("A card with tabs or placeholders: see vite.config.ts."); }'
      : undefined,
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
  plugins: [looks, cardsWithoutTabs, reactRouter(), serverStays],
  // Single icons are taken into the pages; all of them would be read at every start.
  ssr: { noExternal: [/^@ant-design\/icons\/es\//] },
  build: { chunkSizeWarningLimit: 1500 },
});
