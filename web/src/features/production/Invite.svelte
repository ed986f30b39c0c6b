<!--
  An invitation made: its address and code are shown once, here. What opens them never leaves this page but as
  the address itself.
-->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import type { WayBack } from "../../lib/edit/back.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { ROLES } from "./roles";

  let {
    id,
    version,
    back,
    whom: waiting,
    onmade,
  }: {
    id: number;
    version: () => number;
    back: WayBack;
    /** Somebody who came in with a file: the account goes to them. */
    whom: Schemas["MemberOut"] | null;
    onmade: () => Promise<void>;
  } = $props();

  type Role = Schemas["MemberOut"]["role"];
  let role = $derived<Role>(waiting?.role ?? "crew");
  let days = $state("7");
  let name = $derived(waiting?.name ?? "");
  let made = $state<{ name: string; role: Role; address: string; code: string } | null>(null);
  let copied = $state(false);

  /** 256 bits, in letters that an address carries as they are. */
  function token(): string {
    const bytes = crypto.getRandomValues(new Uint8Array(32));
    return btoa(String.fromCharCode(...bytes))
      .replaceAll("+", "-")
      .replaceAll("/", "_")
      .replaceAll("=", "");
  }
  async function invite(event: SubmitEvent) {
    event.preventDefault();
    const secret = token();
    const whom = name.trim();
    const done = await back.do(`Invite ${whom || `a ${role}`}`, (key) =>
      answered(
        client.POST("/api/productions/{production_id}/invitations", {
          params: { path: { production_id: id } },
          headers: { "Idempotency-Key": key },
          body: {
            version: version(),
            token: secret,
            role,
            name: whom,
            days: Number(days),
            member: waiting?.id ?? null,
          },
        }),
      ),
    );
    if (!done) return;
    const address = `${window.location.origin}/#/join/${secret}`;
    made = { name: whom, role, address, code: "" };
    copied = false;
    name = "";
    await onmade();
    const code = await back.asking.run(() => answered(client.POST("/api/qr", { body: { text: address } })));
    if (code && made?.address === address) made = { ...made, code: code.svg };
  }
  async function copy() {
    if (!made) return;
    await navigator.clipboard?.writeText(made.address).then(
      () => (copied = true),
      () => undefined, // it can be copied by hand
    );
  }
  const DAYS = [
    ["1", "a day"],
    ["7", "a week"],
    ["30", "a month"],
  ] as const;
</script>

<form class="mt-3 flex flex-wrap items-center gap-2" onsubmit={invite}>
  <input
    class="field !w-48"
    aria-label="Whom you invite"
    placeholder="Name, if you like"
    maxlength="80"
    bind:value={name}
  />
  <Select
    class="field !w-36"
    label="As what"
    value={role}
    options={ROLES.map(([key, title]) => [key, `as ${title.toLowerCase()}`] as const)}
    onchange={(key) => (role = key as Role)}
  />
  <span class="text-muted">for</span>
  <Choice
    label="How long it stands"
    value={days as "7"}
    options={DAYS}
    onchange={(value) => (days = value)}
  />
  <button class="btn btn-solid" disabled={back.asking.busy}>Invite</button>
</form>
{#if waiting}<p class="mt-2 text-muted">
    Whoever uses it is {waiting.name} here: what {waiting.name} did in the film is theirs.
  </p>{/if}
{#if made}
  <section class="mt-3 flex flex-wrap gap-4 border border-ink bg-raised p-3" aria-label="The invitation">
    <div class="size-44 shrink-0 bg-white [&>svg]:size-full" role="img" aria-label="Code of the address">
      <!-- eslint-disable-next-line svelte/no-at-html-tags -- drawn by our own server from the address -->
      {@html made.code}
    </div>
    <div class="min-w-60 flex-1">
      <p>
        <b>{made.name || "Somebody"}</b> comes in as {made.role} with this, once. It is shown only here.
      </p>
      <input
        class="field num mt-2"
        aria-label="Address of the invitation"
        readonly
        value={made.address}
        onfocus={(event) => event.currentTarget.select()}
      />
      <div class="mt-2 flex gap-2">
        <button type="button" class="btn" onclick={copy}>{copied ? "Copied" : "Copy it"}</button>
        <button type="button" class="btn !border-line" onclick={() => (made = null)}>Done</button>
      </div>
    </div>
  </section>
{/if}
