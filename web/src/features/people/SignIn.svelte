<script lang="ts">
  import { Offline, Refused } from "../../lib/api/client";
  import { people } from "../../lib/offline/store";
  import { session } from "../../lib/session.svelte";

  let username = $state("");
  let password = $state("");
  let problem = $state("");
  let busy = $state(false);
  let left = $state<[string, number][]>([]);
  void people().then((found) => (left = [...found]));

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    problem = "";
    try {
      await session.signIn(username, password);
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      problem = error.message;
    } finally {
      busy = false;
    }
  }
</script>

<main class="grid h-full place-items-center p-6">
  <form class="w-full max-w-80" onsubmit={submit}>
    <h1 class="text-lg">Jungoptic</h1>
    <p class="mt-1 mb-6 text-muted">
      What each plate must be shot at so that it marries, and what will show if it is not.
    </p>
    <label class="mb-1 block" for="username">Name</label>
    <input id="username" class="field mb-4" autocomplete="username" required bind:value={username} />
    <label class="mb-1 block" for="password">Password</label>
    <input
      id="password"
      class="field"
      type="password"
      autocomplete="current-password"
      required
      bind:value={password}
      aria-invalid={!!problem}
      aria-describedby={problem ? "sign-in-problem" : undefined}
    />
    {#if problem}<p id="sign-in-problem" class="mt-2 text-shows" role="alert">{problem}</p>{/if}
    <button class="btn btn-solid mt-6 w-full" disabled={busy}>Sign in</button>
    {#each left as [name, count] (name)}
      <p class="mt-3 text-muted">
        {count === 1 ? "One entry" : `${count} entries`} of {name}
        {count === 1 ? "waits" : "wait"} here, and {count === 1 ? "is" : "are"} sent when {name} signs in.
      </p>
    {/each}
  </form>
</main>
