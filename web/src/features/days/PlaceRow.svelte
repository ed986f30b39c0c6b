<!-- A place: when it is open, when noise may be made, how many models stand, and where it lies. -->
<script module lang="ts">
  /** Name, open, noise, models, where it lies. */
  export const PLACE_COLUMNS = "sm:grid-cols-[120px_minmax(0,1fr)_minmax(0,1fr)_72px_168px]";
</script>

<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { type DaysBoard } from "./days.svelte";
  import { type Hours } from "./hours";
  import HoursField from "./HoursField.svelte";

  let { board, own }: { board: DaysBoard; own: Schemas["PlaceOfDaysOut"] } = $props();
  const site = $derived(board.data!.rows.find((row) => row.kind === "site" && row.id === own.site));
  const fields = $derived(site?.fields ?? {});
  const hours = (name: string) => (fields[name] as Hours[] | undefined) ?? [];
  const lies = $derived(
    fields["latitude_deg"] === null || fields["latitude_deg"] === undefined
      ? ""
      : `${fields["latitude_deg"]}, ${fields["longitude_deg"]}`,
  );
  let wrong = $state("");

  async function say(what: string, changed: Record<string, unknown>) {
    wrong = "";
    const said = own.site ? changed : { place_id: own.id, ...changed };
    const done = await board.say(`${what} of ${own.name}`, "site", own.site, said);
    if (!done) wrong = board.asking.said;
    return done;
  }
  function sayWhere(typed: string) {
    const numbers = typed
      .split(/[,;]\s*|\s+/)
      .filter(Boolean)
      .map(Number);
    if (!numbers.length) return say("Where it lies", { latitude_deg: null, longitude_deg: null });
    if (numbers.length === 2 && numbers.every(Number.isFinite))
      return say("Where it lies", { latitude_deg: numbers[0], longitude_deg: numbers[1] });
    wrong = "Latitude and longitude in degrees, north and east positive: 54.3, -3.2.";
    return undefined;
  }
</script>

<li class="border-b border-line py-1.5">
  <div class={["grid items-center gap-x-3 gap-y-1", PLACE_COLUMNS]}>
    <b class="truncate">{own.name}</b>
    <HoursField
      label={`${own.name} is open`}
      hours={hours("hours")}
      empty="always open"
      disabled={!board.writes}
      onset={(typed) => say("Hours", { hours: typed })}
    />
    <HoursField
      label={`Noise may be made at ${own.name}`}
      hours={hours("noise")}
      empty="noise at all hours"
      disabled={!board.writes}
      onset={(typed) => say("Noise hours", { noise: typed })}
    />
    <input
      class="field num"
      inputmode="numeric"
      aria-label={`Models that can stand at ${own.name}`}
      value={String(fields["models_at_once"] ?? 2)}
      disabled={!board.writes}
      onchange={(event) => say("Models at once", { models_at_once: Number(event.currentTarget.value) })}
    />
    <input
      class="field num"
      aria-label={`Where ${own.name} lies, latitude and longitude`}
      placeholder="as the film"
      value={lies}
      disabled={!board.writes}
      onchange={(event) => sayWhere(event.currentTarget.value)}
    />
  </div>
  {#if wrong}<p role="alert">{wrong}</p>{/if}
</li>
