// The pages, each fetched when it is needed; once the first one stands, the others too, so that a hall
// without connection keeps nobody from the Log.
import type { Component } from "svelte";
import { wrap } from "svelte-spa-router/wrap";
import NotHere from "./lib/ui/NotHere.svelte";
import Unloaded from "./lib/ui/Unloaded.svelte";

type Page = { default: Component<never> };

const PAGES: Record<string, () => Promise<unknown>> = {
  "/": () => import("./features/breakdown/BreakDown.svelte"),
  "/places": () => import("./features/breakdown/Places.svelte"),
  "/sets/:set?": () => import("./features/sets/Sets.svelte"),
  "/figures": () => import("./features/breakdown/Figures.svelte"),
  "/history": () => import("./features/history/History.svelte"),
  "/shots/:shot/plan": () => import("./features/breakdown/ShotPlan.svelte"),
  "/shots/:shot/bench": () => import("./features/bench/Bench.svelte"),
  "/shots/:shot/photograph": () => import("./features/bench/Photograph.svelte"),
  "/shots/:shot/log": () => import("./features/log/Log.svelte"),
  "/shots/:shot/rushes/:recording?": () => import("./features/rushes/Rushes.svelte"),
  "/layers/:layer/line-up": () => import("./features/line-up/LineUp.svelte"),
  "/log": () => import("./features/log/LogOfOpen.svelte"),
  "/cards": () => import("./features/cards/Cards.svelte"),
  "/cards/:card": () => import("./features/cards/CardPage.svelte"),
  "/waiting": () => import("./features/log/WaitingPage.svelte"),
  "/today": () => import("./features/days/Today.svelte"),
  "/days": () => import("./features/days/Days.svelte"),
  "/days/:day": () => import("./features/days/DayPage.svelte"),
  "/frames": () => import("./features/frames/Frames.svelte"),
  "/frames/:sheet": () => import("./features/frames/DeskPage.svelte"),
  "/kit": () => import("./features/kit/KitPage.svelte"),
  "/kit/measure": () => import("./features/measure/Measuring.svelte"),
  "/kit/measure/:measurement": () => import("./features/measure/MeasurementPage.svelte"),
  "/kit/can": () => import("./features/kit/KitCan.svelte"),
  "/begin": () => import("./features/production/Begin.svelte"),
  "/production/:tab?": () => import("./features/production/Production.svelte"),
  "/telephone": () => import("./features/people/Telephone.svelte"),
  "/kept": () => import("./features/people/Kept.svelte"),
  "/settings": () => import("./features/people/Settings.svelte"),
  "/hand-over": () => import("./features/papers/HandOver.svelte"),
  "/pocket/:name?": () => import("./features/pocket/Pocket.svelte"),
};

const fetched = (load: () => Promise<unknown>) => async () => {
  try {
    return (await load()) as Page;
  } catch {
    return { default: Unloaded } as Page;
  }
};

export const routes = {
  ...Object.fromEntries(
    Object.entries(PAGES).map(([path, load]) => [path, wrap({ asyncComponent: fetched(load) as never })]),
  ),
  "*": NotHere,
};

const LATEST_MS = 1000; // a page that is never at rest has the other pages all the same

let begun = false;
/** Fetch every page while nothing else is asked for; the document says when that is done. */
export function fetchTheRest() {
  if (begun) return;
  begun = true;
  const rest = Object.values(PAGES);
  const idle = (work: () => void) =>
    window.requestIdleCallback
      ? window.requestIdleCallback(work, { timeout: LATEST_MS })
      : window.setTimeout(work, 200);
  const next = () => {
    const load = rest.shift();
    if (load)
      void load()
        .catch(() => undefined)
        .then(() => idle(next));
    else document.documentElement.dataset.pages = "all";
  };
  idle(next);
}
