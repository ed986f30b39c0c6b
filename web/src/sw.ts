/// <reference lib="webworker" />
// What serves the application where there is no server: the program itself, as it was built. What it reads
// and writes is kept by the page (lib/offline), by person; nothing of it passes here.
import { addRoute, cleanupOutdatedCaches, matchPrecache, precache } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

const PAGE = "/";
/** A server that has not answered by then is as good as gone: the page of this device is shown. */
const PATIENCE_MS = 3000;
/** Addresses of the server that are no page of the application. */
const NO_PAGE = [/^\/(api|static|health)\//];

async function page({ request }: { request: Request }): Promise<Response> {
  try {
    const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
    if (answer.status < 500) return answer;
  } catch {
    // no connection
  }
  return (await matchPrecache(PAGE)) ?? Response.error();
}

// A browser that can be told so asks the server itself: a dozen pictures a second need not wake this first.
type Routes = { addRoutes?: (rules: { condition: { urlPattern: string }; source: "network" }[]) => void };
self.addEventListener("install", (event) =>
  (event as Routes).addRoutes?.([{ condition: { urlPattern: "/api/*" }, source: "network" }]),
);
precache(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(page, { denylist: NO_PAGE }));
addRoute({ directoryIndex: "" });

// A newer one waits until nobody has the older one open, or somebody says so: parts of a page that are
// fetched later are still there.
self.addEventListener("message", (event) => {
  if ((event.data as { type?: string } | null)?.type === "SKIP_WAITING") void self.skipWaiting();
});
