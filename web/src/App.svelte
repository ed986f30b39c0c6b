<script lang="ts">
  import Router, { replace, router } from "svelte-spa-router";
  import Join from "./features/people/Join.svelte";
  import SignIn from "./features/people/SignIn.svelte";
  import { Offline } from "./lib/api/client";
  import { session } from "./lib/session.svelte";
  import Boundary from "./lib/ui/Boundary.svelte";
  import Frame from "./lib/ui/Frame.svelte";
  import Tips from "./lib/ui/Tips.svelte";
  import { fetchTheRest, routes } from "./routes";

  let failed = $state(false);
  let fault = $state("");

  async function begin() {
    failed = false;
    try {
      await session.read();
    } catch {
      failed = true;
    }
  }
  void begin();
  /** That there is no connection is said at the top already. */
  function failedUnheard(event: PromiseRejectionEvent) {
    if (event.reason instanceof Offline) event.preventDefault();
    else fault = String((event.reason as Error)?.message ?? event.reason);
  }

  /** What an address made for one person carries, behind `#/join/`. */
  const token = $derived(/^\/join\/(.+)$/.exec(router.location)?.[1] ?? "");
  const signsInFirst = $derived(token !== "" && session.invited === token && !session.person);
</script>

<svelte:window onunhandledrejection={failedUnheard} />

{#if failed}
  <main class="grid h-full place-content-center gap-3 p-6 text-center">
    <p>The server cannot be reached. Takes that you logged here are kept and will be sent.</p>
    <button class="btn mx-auto" onclick={begin}>Try again</button>
  </main>
{:else if session.known && token && !signsInFirst}
  {#key token}<Join {token} onin={(to) => void replace(to)} />{/key}
{:else if session.known && !session.person}
  <SignIn />
{:else if session.person}
  <Frame>
    {#if fault}
      <div class="border-b border-ink bg-raised px-3.5 py-2" role="alert">
        Something here went wrong ({fault}). What you wrote is kept.
        <button class="link" onclick={() => window.location.reload()}>Read the page anew</button>
        <button class="link ml-1" onclick={() => (fault = "")}>Leave it</button>
      </div>
    {/if}
    <Boundary what="This page">
      <Router {routes} onRouteLoaded={fetchTheRest} />
    </Boundary>
  </Frame>
{/if}
<Tips />
