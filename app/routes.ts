import { index, type RouteConfig, route } from "@react-router/dev/routes";

export default [
  index("start/home.tsx"),
  route("start", "start/route.tsx"),
  route("sign-in", "signin/route.tsx"),
  route("photos", "photos/upload.ts"),
  route("photos/:hash", "photos/photo.ts"),
  route(":machine", "shell/route.tsx", { id: "shell" }, [
    index("shell/index.tsx"),
    route("today", "today/route.tsx"),
    route("round", "round/route.tsx"),
    route("round/sheet", "round/sheet.tsx"),
    route("round/:roundId", "round/run.tsx"),
    route("gate", "gate/route.tsx"),
    route("log", "log/route.tsx"),
    route("outlook", "outlook/route.tsx"),
    route("coupons", "coupons/route.tsx"),
    route("coupons/:couponId", "coupons/made.tsx"),
    route("coupons/:couponId/sheet", "coupons/sheet.tsx"),
    route("trace", "trace/route.tsx"),
    route("trace/:caseId", "trace/case.tsx"),
    route("mixes", "mixes/route.tsx"),
    route("workshop", "workshop/route.tsx"),
    route("workshop/label", "workshop/label.tsx"),
  ]),
  route(":machine/round/:roundId/answers", "round/answers.ts"),
  route(":machine/coupons/:couponId/file/:format", "coupons/file.ts"),
] satisfies RouteConfig;
