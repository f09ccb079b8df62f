import type { Config } from "@react-router/dev/config";

// All routes are known from the first page on: a device that loses the network still finds its way.
export default { ssr: true, appDirectory: "app", routeDiscovery: { mode: "initial" } } satisfies Config;
