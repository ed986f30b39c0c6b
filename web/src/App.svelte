<script lang="ts">
  import Router from "svelte-spa-router";
  import Frame from "./lib/ui/Frame.svelte";
  import SignIn from "./routes/SignIn.svelte";
  import BreakDown from "./routes/BreakDown.svelte";
  import Figures from "./routes/Figures.svelte";
  import Places from "./routes/Places.svelte";
  import Sets from "./routes/Sets.svelte";
  import ShotPlan from "./routes/ShotPlan.svelte";
  import Bench from "./routes/Bench.svelte";
  import Log from "./routes/Log.svelte";
  import History from "./routes/History.svelte";
  import HandOver from "./routes/HandOver.svelte";
  import Pocket from "./routes/Pocket.svelte";
  import NotHere from "./routes/NotHere.svelte";
  import { session } from "./lib/state/session.svelte";

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
