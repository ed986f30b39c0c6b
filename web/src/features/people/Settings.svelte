<!-- How one likes to read, and one's own account. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { session } from "../../lib/session.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import UnitsChoice from "../../lib/ui/UnitsChoice.svelte";
  import { dateIn } from "../../lib/ui/when";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  type Person = Schemas["PersonOut"];
  const DATES: Person["dates"][] = [
    ...(["en-GB", "en-US", "cs", "da", "de", "es", "fr", "it", "ja", "nb", "nl", "pl", "pt", "sv"] as const),
    "iso",
  ];
  const WEEK = [
    ["monday", "Monday"],
    ["saturday", "Saturday"],
    ["sunday", "Sunday"],
  ] as const;
  const PASSWORDS = [
    ["old", "The one that you have now", "current-password"],
    ["new", "The new one, ten characters or more", "new-password"],
  ] as const;
  const naming = new Asking();
  const changing = new Asking();
  const leaving = new Asking();
  let old = $state("");
  let fresh = $state("");
  let said = $state("");
  const now = new Date();
  const id = $props.id();
  const language = (key: Person["dates"]) =>
    key === "iso" ? "Figures" : (new Intl.DisplayNames([key], { type: "language" }).of(key) ?? key);
  const person = $derived(session.person);

  async function rename(event: Event) {
    const name = (event.currentTarget as HTMLInputElement).value;
    await naming.run(() => session.change({ name }));
  }
  async function password(event: SubmitEvent) {
    event.preventDefault();
    said = "";
    const done = await changing.run(() =>
      answered(client.PUT("/api/session/password", { body: { old, new: fresh } })),
    );
    if (!done) return;
    old = fresh = "";
    said = "Your password is changed. Every other device is signed out.";
  }
  async function elsewhere() {
    said = "";
    const done = await leaving.run(() => answered(client.DELETE("/api/session/elsewhere")));
    if (done) said = "Every other device is signed out.";
  }
  const all = (asking: Asking, field: string) =>
    asking.problems
      .filter((one) => one.field === field)
      .map((one) => one.message)
      .join(" ");
</script>

<svelte:head><title>Settings · Jungoptic</title></svelte:head>

{#if person}
  <main class="h-full overflow-y-auto">
    <div class="mx-auto grid max-w-3xl gap-y-4 px-4 py-8">
      <h1 class="text-lg">Settings of {person.name}</h1>
      <div class="row">
        <label for={`${id}-name`}>Name</label>
        <div>
          <input
            id={`${id}-name`}
            class="field max-w-72"
            maxlength="150"
            autocomplete="name"
            aria-invalid={!!naming.said}
            aria-describedby={naming.said ? `${id}-name-wrong` : undefined}
            {@attach typed(() => person.name)}
            onchange={rename}
          />
          {#if naming.said}<p id={`${id}-name-wrong`} role="alert" class="text-sm">{naming.said}</p>{/if}
          <p class="mt-1 text-sm text-muted">
            The others see it on takes and in the history. You sign in as <b>{person.username}</b>.
          </p>
        </div>
      </div>
      <div class="row">
        <span>Theme</span>
        <div>
          <Choice
            label="Theme"
            value={person.theme}
            options={[
              ["stage", "Stage"],
              ["daylight", "Daylight"],
            ]}
            onchange={(theme) => session.prefer({ theme })}
          />
          <p class="mt-1 text-sm text-muted">Stage for a darkened set, Daylight for outdoors.</p>
        </div>
      </div>
      <div class="row">
        <span>Units</span>
        <div><UnitsChoice /></div>
      </div>
      <div class="row">
        <span>School</span>
        <div>
          <Choice
            label="School"
            value={person.school}
            options={vocabulary.schools.map((one) => [one.key as Person["school"], one.name] as const)}
            onchange={(school) => session.prefer({ school })}
          />
          <p class="mt-1 max-w-prose text-sm text-muted">
            The first holds every amount to its own limit; the other lets the hero's own blur hide what it
            hides. On the Bench one key shows what the other says.
          </p>
        </div>
      </div>
      <div class="row">
        <span>Single-letter keys</span>
        <div>
          <Choice
            label="Single-letter keys"
            value={person.single_keys ? "on" : "off"}
            options={[
              ["on", "On"],
              ["off", "Off"],
            ]}
            onchange={(value) => session.prefer({ single_keys: value === "on" })}
          />
        </div>
      </div>
      <div class="row">
        <span>Dates</span>
        <div class="flex flex-wrap items-center gap-3">
          <Select
            class="field !w-80"
            label="Dates in"
            value={person.dates}
            options={DATES.map((key) => [key, `${language(key)}: ${dateIn(key, now)}`] as const)}
            onchange={(dates) => session.prefer({ dates: dates as Person["dates"] })}
          />
          <label class="flex items-center gap-2 text-muted"
            >the week begins on
            <Select
              class="field !w-32"
              label="The week begins on"
              value={person.week_starts}
              options={WEEK}
              onchange={(day) => session.prefer({ week_starts: day as Person["week_starts"] })}
            /></label
          >
        </div>
      </div>
      <form class="row border-t border-line pt-4" onsubmit={password}>
        <span>Password</span>
        <div class="grid max-w-72 gap-2">
          <input type="text" class="hidden" autocomplete="username" value={person.username} readonly />
          {#each PASSWORDS as [field, label, kind] (field)}
            <label class="grid gap-1 text-sm text-muted"
              >{label}
              <input
                class="field"
                type="password"
                autocomplete={kind}
                required
                aria-invalid={!!changing.at(field)}
                aria-describedby={changing.at(field) ? `${id}-${field}-wrong` : undefined}
                bind:value={
                  () => (field === "old" ? old : fresh),
                  (value) => (field === "old" ? (old = value) : (fresh = value))
                }
              />
            </label>
            {#if changing.at(field)}<p id={`${id}-${field}-wrong`} role="alert" class="text-sm">
                {all(changing, field)}
              </p>{/if}
          {/each}
          {#if changing.at("")}<p role="alert" class="text-sm">{changing.at("")}</p>{/if}
          <button class="btn justify-self-start" disabled={changing.busy}>Change it</button>
        </div>
      </form>
      <div class="row border-t border-line pt-4">
        <span>Other devices</span>
        <div>
          <button class="btn !border-line" disabled={leaving.busy} onclick={elsewhere}
            >Sign out elsewhere</button
          >
          <p class="mt-1 max-w-prose text-sm text-muted">
            Everywhere but here. Takes that wait on another device stay there, and are sent when you sign in
            on it again.
          </p>
          {#if leaving.said}<p role="alert">{leaving.said}</p>{/if}
        </div>
      </div>
      <p aria-live="polite" class="min-h-5 font-strong">{said}</p>
    </div>
  </main>
{/if}

<style>
  .row {
    display: grid;
    grid-template-columns: 9.5rem minmax(0, 1fr);
    gap: 0.25rem 1rem;
    align-items: start;
  }
  .row > :first-child {
    padding-top: 4px;
  }
  @media (max-width: 40rem) {
    .row {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
