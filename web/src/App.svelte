<script lang="ts">
  import Tips from "./lib/ui/Tips.svelte";
  import Router from "svelte-spa-router";
  import Frame from "./lib/ui/Frame.svelte";
  import SignIn from "./features/people/SignIn.svelte";
  import BreakDown from "./features/breakdown/BreakDown.svelte";
  import Figures from "./features/breakdown/Figures.svelte";
  import Places from "./features/breakdown/Places.svelte";
  import Sets from "./features/sets/Sets.svelte";
  import ShotPlan from "./features/breakdown/ShotPlan.svelte";
  import Bench from "./features/bench/Bench.svelte";
  import Log from "./features/log/Log.svelte";
  import History from "./features/history/History.svelte";
  import HandOver from "./features/papers/HandOver.svelte";
  import Pocket from "./features/pocket/Pocket.svelte";
  import NotHere from "./lib/ui/NotHere.svelte";
  import { session } from "./lib/session.svelte";

  const routes = {
    "/": BreakDown,
    "/places": Places,
    "/sets/:set?": Sets,
    "/figures": Figures,
    "/history": History,
    "/shots/:shot/plan": ShotPlan,
    "/shots/:shot/bench": Bench,
    "/shots/:shot/log": Log,
    "/hand-over": HandOver,
    "/pocket/:name?": Pocket,
    "*": NotHere,
  };
  let failed = $state(false);

  async function begin() {
    failed = false;
    try {
      await session.read();
    } catch {
      failed = true;
    }
  }
  void begin();
</script>

{#if failed}
  <main class="grid h-full place-content-center gap-3 p-6 text-center">
    <p>The server cannot be reached. Takes that you logged here are kept and will be sent.</p>
    <button class="btn mx-auto" onclick={begin}>Try again</button>
  </main>
{:else if session.known && !session.person}
  <SignIn />
{:else if session.person}
  <Frame><Router {routes} /></Frame>
{/if}
<Tips />
