<!-- What an address leads to that was made for one person: an account, a production, a new password. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";

  let { token, onin }: { token: string; onin: (to: string) => void } = $props();

  const asking = new Asking();
  const looking = new Asking();
  let found = $state.raw<Schemas["InvitationOut"] | null>(null);
  let username = $state("");
  let name = $state("");
  let password = $state("");
  const id = $props.id();
  const anew = $derived(found?.kind === "password");

  void looking.run(async () => {
    found = await answered(client.POST("/api/invitation", { body: { token } }));
    name = found.name;
  });

  async function account(event: SubmitEvent) {
    event.preventDefault();
    const done = await asking.run(() =>
      session.comeIn({ token, username: anew ? (found?.username ?? "") : username, name, password }),
    );
    if (done) onin(found?.kind === "first" ? "/begin" : "/");
  }
  async function join() {
    const done = await asking.run(() => answered(client.POST("/api/invitation/join", { body: { token } })));
    if (!done) return;
    await place.readProductions();
    place.open(done.production);
    onin("/");
  }
</script>

{#snippet wrong(field: string)}
  {#if asking.at(field)}<p id={`${id}-${field}`} class="mt-1 text-shows" role="alert">
      {asking.problems
        .filter((one) => one.field === field)
        .map((one) => one.message)
        .join(" ")}
    </p>{/if}
{/snippet}

<svelte:head><title>Come in · Jungoptic</title></svelte:head>

<main class="grid h-full place-items-center overflow-y-auto p-6">
  <div class="w-full max-w-88">
    <h1 class="text-lg">Jungoptic</h1>
    {#if looking.said}
      <p class="mt-3" role="alert">{looking.said}</p>
      <button class="btn mt-4" onclick={() => onin("/")}>{session.person ? "Go on" : "Sign in"}</button>
    {:else if found}
      <p class="mt-1 mb-6 text-muted">
        {#if found.kind === "first"}
          This makes the first account here. You invite the others from inside.
        {:else if anew}
          A new password for <b class="text-ink">{found.username}</b>. Everything else stays as it is.
        {:else}
          {found.by || "Somebody"} invites you to <b class="text-ink">{found.production}</b>, as {found.role}.
        {/if}
      </p>
      {#if found.kind === "join" && session.person}
        <button class="btn btn-solid w-full" disabled={asking.busy} onclick={join}
          >Come in as {session.person.name}</button
        >
        {@render wrong("token")}
        <button class="link mt-4 text-muted" onclick={() => session.signOut()}
          >I am somebody else: sign {session.person.name} out</button
        >
      {:else}
        <form onsubmit={account}>
          {#if !anew}
            <label class="mb-1 block" for={`${id}-user`}>Name to sign in with</label>
            <input
              id={`${id}-user`}
              class="field"
              autocomplete="username"
              autocapitalize="none"
              required
              maxlength="150"
              aria-invalid={!!asking.at("username")}
              aria-describedby={asking.at("username") ? `${id}-username` : undefined}
              bind:value={username}
            />
            {@render wrong("username")}
            <label class="mt-4 mb-1 block" for={`${id}-name`}>Name that the others see</label>
            <input
              id={`${id}-name`}
              class="field"
              autocomplete="name"
              placeholder={username}
              maxlength="150"
              bind:value={name}
            />
          {/if}
          <label class="mt-4 mb-1 block" for={`${id}-password-field`}>Password, ten characters or more</label>
          <input
            id={`${id}-password-field`}
            class="field"
            type="password"
            autocomplete="new-password"
            required
            aria-invalid={!!asking.at("password")}
            aria-describedby={asking.at("password") ? `${id}-password` : undefined}
            bind:value={password}
          />
          {@render wrong("password")}
          {@render wrong("token")}{@render wrong("")}
          <button class="btn btn-solid mt-6 w-full" disabled={asking.busy}
            >{anew ? "Use this password" : "Make the account"}</button
          >
        </form>
        {#if found.kind === "join"}
          <p class="mt-4 text-muted">
            You have an account here? <button class="link" onclick={() => (session.invited = token)}
              >Sign in with it</button
            >
          </p>
        {/if}
      {/if}
    {:else}<p class="mt-3 text-muted">Looking at the address…</p>{/if}
  </div>
</main>
