<!-- What the kit can do: camera by lens, and what one thing more would open up. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import KitOpened from "./KitOpened.svelte";

  type Can = Schemas["AbilitiesOut"];
  const HEADING = [
    "sticky top-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-1",
    "border-y border-line bg-ground px-3.5 py-1.5",
  ];
  const asking = new Asking();
  let can = $state.raw<Can | null>(null);
  let asked = $state({ scale: 12, f_number: 8, iso: 800, card_gb: 128 });
  /** Which recording of each camera is looked at, by camera. */
  let chosen = $state<Record<number, string>>({});
  const FIELDS = [
    ["scale", "A model at 1:", ""],
    ["f_number", "the hero at f/", ""],
    ["iso", "ISO", ""],
    ["card_gb", "a card of", "GB"],
  ] as const;

  async function look() {
    if (!place.production) return;
    can = await answered(
      client.GET("/api/productions/{production_id}/kit-abilities", {
        params: { path: { production_id: place.production }, query: { ...asked, units: session.units } },
      }),
    );
  }
  function read() {
    return asking.read(async () => {
      await place.choose();
      await look();
    });
  }
  void read();
  whenOthersWrite(look, (told) => told.shot === null);
  const units = $derived(session.units);
  const open = $derived(place.production);
  let seen = `${place.production} ${session.units}`;
  $effect(() => {
    const now = `${open} ${units}`;
    if (now !== seen) {
      seen = now;
      void read();
    }
  });

  async function ask(name: keyof typeof asked, event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const value = Number(input.value.trim().replace(",", "."));
    if (input.value.trim() && Number.isFinite(value)) asked[name] = value;
    else input.value = String(asked[name]);
    await asking.run(look);
  }
  const modeOf = (camera: Can["cameras"][number]) =>
    camera.modes.find((mode) => String(mode.mode_id) === chosen[camera.camera_id]) ?? camera.modes[0];
</script>

<svelte:head><title>What the kit can do · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col">
  <div
    class="flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-1"
  >
    <a class="link" href="#/kit">The kit</a>
    <h1 class="font-strong">What it can do</h1>
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1 sm:ml-auto">
      {#each FIELDS as [name, before, after] (name)}
        <label class="flex items-center gap-1 whitespace-nowrap text-muted"
          >{before}
          <input
            class="field num !h-6.5 !w-16 !px-1.5 text-ink pointer-coarse:!h-11"
            inputmode="decimal"
            value={asked[name]}
            aria-invalid={!!asking.at(name)}
            onchange={(event) => ask(name, event)}
          />
          {after}</label
        >
      {/each}
    </div>
  </div>
  {#if asking.said}<p role="alert" class="border-b border-line px-3.5 py-2">
      {asking.said} <button class="link" onclick={read}>Try again</button>
    </p>{/if}
  <div class="min-h-0 flex-1 overflow-y-auto pb-10">
    {#if can}
      <p class="max-w-prose px-3.5 py-3 text-muted">
        What falls or splashes at 1:{asked.scale} wants <b class="num text-ink">{can.rate}</b> frames/s; a
        model as blurred as the full-size thing at f/{asked.f_number} wants
        <b class="num text-ink">{can.stop}</b>.
        {#if can.light}
          In one colour the lamps throw up to <b class="num text-ink">{can.light}</b> on a metre.
        {/if}
      </p>
      {#each can.cameras as camera (camera.camera_id)}
        {@const mode = modeOf(camera)}
        <section aria-label={camera.name}>
          <div class={HEADING}>
            <h2 class="min-w-0 truncate" {@attach tip(() => camera.name)}>{camera.name}</h2>
            {#if mode && camera.modes.length > 1}
              <Choice
                label={`Recording of ${camera.name}`}
                value={String(mode.mode_id)}
                options={camera.modes.map((one) => [String(one.mode_id), one.name] as const)}
                onchange={(id) => (chosen[camera.camera_id] = id)}
              />
            {:else if mode}<span class="num text-muted">{mode.name}</span>{/if}
            {#if mode}
              <span class="text-muted"
                >up to <b class="num text-ink">{mode.rate}</b> frames/s: what falls is in real time down to
                <b class="num text-ink">{mode.smallest_scale}</b></span
              >
              <span class="text-muted"
                >{#if mode.hours}<b class="num text-ink">{mode.hours}</b> h on the card{:else}<a
                    class="link"
                    href="#/kit">say its data rate</a
                  > to know the hours on a card{/if}</span
              >
            {/if}
          </div>
          {#if mode?.lenses.length}
            <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
            <div
              class="overflow-x-auto px-3.5"
              tabindex="0"
              role="region"
              aria-label={`Lenses of ${camera.name}`}
            >
              <table class="w-full max-w-5xl">
                <thead class="text-left text-sm text-muted">
                  <tr>
                    <th class="py-1 pr-3 font-normal">Lens</th>
                    <th class="px-2 text-right font-normal whitespace-nowrap">View across</th>
                    <th
                      class="px-2 text-right font-normal whitespace-nowrap"
                      {@attach tip(() => "Width that fills the frame, focused as near as it goes")}
                      >Narrowest frame</th
                    >
                    <th
                      class="px-2 text-right font-normal whitespace-nowrap"
                      {@attach tip(() => "What one delivered pixel is there")}>Finest detail</th
                    >
                    <th
                      class="px-2 text-right font-normal whitespace-nowrap"
                      {@attach tip(
                        () => "The smallest model that its smallest stop blurs no more than the hero",
                      )}>Blurred alike to</th
                    >
                    <th
                      class="pl-2 text-right font-normal whitespace-nowrap"
                      {@attach tip(
                        () => "At that stop, 180° and the rate that the model wants, focused near",
                      )}>Light it wants</th
                    >
                  </tr>
                </thead>
                <tbody>
                  {#each mode.lenses as lens (lens.lens_id)}
                    <tr class="border-t border-line">
                      <td class="max-w-64 truncate py-1 pr-3" {@attach tip(() => lens.name)}>{lens.name}</td>
                      <td class="num px-2 text-right whitespace-nowrap">{lens.view}</td>
                      <td class="num px-2 text-right whitespace-nowrap">{lens.narrowest}</td>
                      <td class="num px-2 text-right whitespace-nowrap">{lens.finest}</td>
                      <td class={["num px-2 text-right whitespace-nowrap", lens.reaches && "font-strong"]}
                        >{lens.reaches_scale}</td
                      >
                      <td class="num pl-2 text-right whitespace-nowrap">{lens.light}</td>
                    </tr>
                  {/each}
                </tbody>
              </table>
            </div>
          {:else}
            <p class="px-3.5 py-2 text-muted">
              {mode ? "No lens goes on it." : "It has no recording yet."}
              <a class="link" href="#/kit">Say so in the kit</a>.
            </p>
          {/if}
        </section>
      {:else}
        <div class="mx-auto mt-10 grid max-w-md justify-items-center gap-3 px-4 text-center">
          <p class="text-lg font-strong">No camera is in the kit yet</p>
          <a class="btn btn-solid" href="#/kit">Enter the kit</a>
        </div>
      {/each}
      {#if can.cameras.length && place.production}
        {#key place.production}<KitOpened production={place.production} />{/key}
      {/if}
    {:else if !asking.said}<p class="px-3.5 py-3 text-muted">Reading the kit…</p>{/if}
  </div>
</main>
