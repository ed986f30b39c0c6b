<!-- What a film is: title, delivery, place, room. Under each thing that is said stands what follows. -->
<script lang="ts">
  import type { Snippet } from "svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { kept, shown, unitOf } from "../../lib/units";
  import { session } from "../../lib/session.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import FromPhotograph from "./FromPhotograph.svelte";
  import { choices, type Follows, type Values } from "./film.svelte";

  let {
    values,
    follows,
    at,
    disabled = false,
    room = true,
    onset,
    after,
  }: {
    values: Values;
    follows: Follows;
    /** What is wrong at a field. */
    at: (field: string) => string;
    disabled?: boolean;
    /** Whether the stage is asked for too. */
    room?: boolean;
    onset: (changes: Values) => unknown;
    /** What stands behind the delivery. */
    after?: Snippet;
  } = $props();

  const id = $props.id();
  const OTHER = "other";
  const width = $derived(Number(values.delivery_width_px));
  const height = $derived(Number(values.delivery_height_px));
  const rate = $derived(Number(values.frame_rate_fps));
  const known = $derived(choices.known);
  const size = $derived(
    known?.sizes.some((one) => one.width_px === width && one.height_px === height)
      ? `${width}x${height}`
      : OTHER,
  );
  const sizes = $derived<[string, string][]>([
    ...(known?.sizes ?? []).map((one): [string, string] => [
      `${one.width_px}x${one.height_px}`,
      `${one.width_px} × ${one.height_px}  ${one.name}`,
    ]),
    [OTHER, "Another size, typed"],
  ]);
  const rates = $derived<[string, string][]>((known?.rates ?? []).map((one) => [String(one.fps), one.name]));
  const rateName = $derived(
    known?.rates.find((one) => Math.abs(one.fps - rate) < 1e-6)?.name ?? String(rate),
  );
  const says = (field: string) => follows.find((one) => one.field === field)?.says ?? "";
  const units = $derived(session.units);
  const length = $derived(unitOf("length", units, "m"));
  const text = (name: string) =>
    values[name] === null || values[name] === undefined ? "" : String(values[name]);
  const metres = (name: string) =>
    values[name] === null || values[name] === undefined ? "" : shown(Number(values[name]), "length", units);

  function number(name: string, event: Event) {
    const said = (event.currentTarget as HTMLInputElement).value.trim();
    if (said === text(name)) return;
    const value = Number(said.replace(",", "."));
    void onset({ [name]: said === "" ? null : Number.isFinite(value) ? value : said });
  }
  function reach(name: string, event: Event) {
    const said = (event.currentTarget as HTMLInputElement).value.trim();
    if (said === metres(name)) return;
    const value = kept(said, "length", units);
    void onset({ [name]: said === "" ? null : Number.isFinite(value) ? value : said });
  }
  /** A place as it is copied from elsewhere, both numbers at once, goes into both fields. */
  function place(name: "latitude_deg" | "longitude_deg", event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const both = field.value.split(/[;\s]\s*|,\s+/).filter(Boolean);
    if (both.length === 2 && both.every((one) => Number.isFinite(Number(one.replace(",", ".")))))
      void onset({
        latitude_deg: Number(both[0]!.replace(",", ".")),
        longitude_deg: Number(both[1]!.replace(",", ".")),
      });
    else number(name, event);
  }
  const wrong = (field: string) => (at(field) ? `${id}-${field}-wrong` : undefined);
  const SIDES = [
    ["delivery_width_px", "Width"],
    ["delivery_height_px", "Height"],
  ] as const;
  const PLACE = [
    ["latitude_deg", "Latitude", "° north", "54.30"],
    ["longitude_deg", "Longitude", "° east", "-3.20"],
  ] as const;
  const ROOM = [
    ["stage_length_m", "Stage, length"],
    ["stage_width_m", "Stage, width"],
    ["beams_m", "Up to the beams"],
  ] as const;
</script>

{#snippet problem(field: string)}
  {#if at(field)}<p id={`${id}-${field}-wrong`} role="alert" class="text-sm">{at(field)}</p>{/if}
{/snippet}
{#snippet line(field: string)}
  {#if says(field)}<p class="text-sm text-muted">{says(field)}</p>{/if}
{/snippet}

<div class="grid gap-y-4">
  <div class="row">
    <label for={`${id}-title`}>Title</label>
    <div>
      <input
        id={`${id}-title`}
        class="field"
        maxlength="120"
        autocomplete="off"
        {disabled}
        aria-invalid={!!at("title")}
        aria-describedby={wrong("title")}
        {@attach typed(() => text("title"))}
        onchange={(event) => onset({ title: event.currentTarget.value })}
      />
      {@render problem("title")}
    </div>
  </div>
  <div class="row">
    <span id={`${id}-size`}>Delivery</span>
    <div class="grid gap-1">
      <div class="flex flex-wrap items-center gap-2">
        <Select
          class="field !w-auto min-w-60 num"
          label="Size of the delivery"
          value={size}
          options={sizes}
          {disabled}
          onchange={(key) => {
            const [w, h] = key.split("x").map(Number);
            if (w && h) void onset({ delivery_width_px: w, delivery_height_px: h });
          }}
        />
        <span class="flex items-center gap-1">
          {#each SIDES as [name, label], i (name)}
            {#if i}<span class="text-muted">×</span>{/if}
            <input
              class="field num !w-20"
              inputmode="numeric"
              aria-label={`${label}, px`}
              {disabled}
              aria-invalid={!!at(name)}
              aria-describedby={wrong(name)}
              {@attach typed(() => text(name))}
              onchange={(event) => number(name, event)}
            />
          {/each}
          <span class="text-sm text-muted">px</span>
        </span>
        {#if width !== height}
          <button
            type="button"
            class="btn !border-line"
            {disabled}
            onclick={() => onset({ delivery_width_px: height, delivery_height_px: width })}
            >{width > height ? "Turn upright" : "Turn wide"}</button
          >
        {/if}
        <span
          class="ml-1 border border-mark"
          aria-hidden="true"
          style:width={`${(28 * width) / Math.max(width, height)}px`}
          style:height={`${(28 * height) / Math.max(width, height)}px`}
        ></span>
      </div>
      {@render problem("delivery_width_px")}{@render problem("delivery_height_px")}
      {@render line("delivery_height_px")}
    </div>
  </div>
  <div class="row">
    <span id={`${id}-rate`}>Rate</span>
    <div class="grid gap-1">
      <div class="flex flex-wrap items-center gap-2">
        <Select
          class="field num !w-28"
          label="Rate of the delivery"
          value={rates.find(([fps]) => Math.abs(Number(fps) - rate) < 1e-6)?.[0] ?? OTHER}
          options={rates.some(([fps]) => Math.abs(Number(fps) - rate) < 1e-6)
            ? rates
            : [...rates, [OTHER, rateName]]}
          {disabled}
          onchange={(fps) => fps !== OTHER && onset({ frame_rate_fps: Number(fps) })}
        />
        <label class="flex items-center gap-2 text-muted"
          >or
          <input
            class="field num !w-28"
            aria-label="Rate, typed"
            placeholder="24000/1001"
            {disabled}
            aria-invalid={!!at("frame_rate_fps")}
            aria-describedby={wrong("frame_rate_fps")}
            onchange={async (event) => {
              const field = event.currentTarget;
              if (!field.value.trim()) return;
              await onset({ frame_rate_fps: field.value.trim() });
              if (!at("frame_rate_fps")) field.value = "";
            }}
          /></label
        >
        <span class="text-sm text-muted">frames/s</span>
      </div>
      {@render problem("frame_rate_fps")}
      {@render line("frame_rate_fps")}
    </div>
  </div>
  {@render after?.()}
  <div class="row">
    <span>Mains</span>
    <div class="grid gap-1">
      <div class="flex items-center gap-2">
        <Choice
          label="Mains"
          value={String(values.mains_hz)}
          options={(known?.mains_hz ?? [50, 60]).map((hz) => [String(hz), `${hz} Hz`] as const)}
          onchange={(hz) => !disabled && onset({ mains_hz: Number(hz) })}
        />
      </div>
      {@render problem("mains_hz")}
      {@render line("mains_hz")}
    </div>
  </div>
  <div class="row">
    <span>Place</span>
    <div class="grid gap-1">
      <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
        {#each PLACE as [name, label, unit, like] (name)}
          <label class="flex items-center gap-2 text-sm text-muted"
            >{label}
            <input
              class="field num !w-28"
              placeholder={like}
              {disabled}
              aria-invalid={!!at(name)}
              aria-describedby={wrong(name)}
              {@attach typed(() => text(name))}
              onchange={(event) => place(name, event)}
            />{unit}</label
          >
        {/each}
      </div>
      {#if !disabled}<FromPhotograph onplace={(found) => onset(found)} />{/if}
      {@render problem("latitude_deg")}{@render problem("longitude_deg")}
      {@render line("longitude_deg")}
    </div>
  </div>
  <div class="row">
    <label for={`${id}-zone`}>Time zone</label>
    <div class="grid gap-1">
      <input
        id={`${id}-zone`}
        class="field !w-64"
        list={`${id}-zones`}
        autocomplete="off"
        {disabled}
        aria-invalid={!!at("time_zone")}
        aria-describedby={wrong("time_zone")}
        {@attach typed(() => text("time_zone"))}
        onchange={(event) => onset({ time_zone: event.currentTarget.value.trim() })}
      />
      <datalist id={`${id}-zones`}>
        {#each known?.zones ?? [] as zone (zone)}<option value={zone}></option>{/each}
      </datalist>
      {@render problem("time_zone")}
      {@render line("time_zone")}
    </div>
  </div>
  {#if room}
    <div class="row">
      <span>Room to work in</span>
      <div class="grid gap-1">
        <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
          {#each ROOM as [name, label] (name)}
            <label class="flex items-center gap-2 text-sm text-muted"
              >{label}
              <input
                class="field num !w-20"
                inputmode="decimal"
                {disabled}
                aria-invalid={!!at(name)}
                aria-describedby={wrong(name)}
                {@attach typed(() => metres(name))}
                onchange={(event) => reach(name, event)}
              />{length}</label
            >
          {/each}
          <label class="flex items-center gap-2 text-sm text-muted"
            >Coloured sheets
            <input
              class="field num !w-16"
              inputmode="numeric"
              {disabled}
              aria-invalid={!!at("backings")}
              aria-describedby={wrong("backings")}
              {@attach typed(() => text("backings"))}
              onchange={(event) => number("backings", event)}
            /></label
          >
        </div>
        {#each [...ROOM.map(([name]) => name), "backings"] as name (name)}{@render problem(name)}{/each}
        {@render line("stage_width_m")}
      </div>
    </div>
  {/if}
</div>

<style>
  .row {
    display: grid;
    grid-template-columns: 8.5rem minmax(0, 1fr);
    gap: 0.25rem 1rem;
  }
  .row > :first-child {
    padding-top: 5px;
  }
  @media (max-width: 40rem) {
    .row {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
