import type { ThemeConfig } from "antd";

/** Machine-tool enamel: the colours of theme.css for Ant Design's parts, so that nothing looks like its default. */
const ink = "#16211c";
const line = "#bcc7bf";
const hot = "#e2371c";

export const theme: ThemeConfig = {
  cssVar: { key: "clenor" },
  hashed: false,
  token: {
    colorPrimary: ink,
    colorInfo: ink,
    colorLink: ink,
    colorError: "#9e2412",
    colorWarning: "#8a5a00",
    colorSuccess: "#17705f",
    colorText: ink,
    colorTextSecondary: "#4b5a52",
    colorTextPlaceholder: "#66756c",
    colorBorder: line,
    colorBorderSecondary: "#d3dbd5",
    colorBgBase: "#fafcfa",
    colorBgLayout: "#e6ebe5",
    colorFillAlter: "#eef2ee",
    borderRadius: 4,
    controlHeight: 44,
    controlHeightSM: 34,
    fontFamily: "'Archivo Variable', system-ui, sans-serif",
    fontSize: 15,
    controlOutline: "rgba(22,33,28,0.18)",
    boxShadow: "none",
    boxShadowSecondary: "0 6px 24px rgba(22,33,28,0.16)",
    motion: false,
  },
  components: {
    Button: {
      primaryShadow: "none",
      defaultShadow: "none",
      dangerShadow: "none",
      fontWeight: 600,
      colorPrimary: hot,
      defaultBorderColor: ink,
    },
    Input: { activeShadow: "0 0 0 2px rgba(22,33,28,0.25)", paddingInline: 14 },
    Select: { optionSelectedBg: "#dde4dd", optionActiveBg: "#eef2ee" },
    Segmented: { itemSelectedBg: ink, itemSelectedColor: "#fafcfa", trackBg: "#dde4dd", trackPadding: 3 },
    Table: { headerBg: "transparent", headerSplitColor: "transparent", rowHoverBg: "#eef2ee", borderColor: line },
    Modal: { titleFontSize: 22 },
    Drawer: { footerPaddingBlock: 12 },
  },
};
