<!-- How the production is judged: what is done at the end, how far a tape may be off, and every tolerance. -->
<script lang="ts">
  import { answered, client, Offline, Refused, writeKey, type Schemas } from "../api/client";
  import type { Units } from "./units";
  import FieldRow from "./FieldRow.svelte";

  let {
    production,
    units,
    writes,
    onchange,
  }: { production: number; units: Units; writes: boolean; onchange: () => void } = $props();

  let judging = $state<Schemas["JudgingOut"] | null>(null);
  let problem = $state("");
  const own = (
    name: string,
    title: string,
    kind: Schemas["CardField"]["kind"],
    unit = "",
    help = "",
  ): Schemas["CardField"] => ({
    name,
    title,
    unit,
    help,
    kind,
    optional: false,
    default: null,
    choices: [],
    ring: "linear",
    steps: false,
    step: 0.1,
    big_step: 1,
    low: 0,
    high: 0,
    marks: [],
    engraved: false,
    fields: [],
  });
  const FINISH = [
    own("black_and_white", "Black and white", "flag"),
    own("soften_px", "Softened at the end", "number", "px"),
    own("grain_added", "Grain added", "number", "×"),
    own(
      "shows_models",
      "Shows its models openly",
      "flag",
      "",
      "Scale, time and detail inform and do not judge; joins still do.",
    ),
  ];
  const ERRORS = [
    own("tape_error_m", "The tape may be off by", "number", "m"),
    own("level_error_deg", "The level may be off by", "number", "°"),
  ];

  $effect(() => {
    void (async () => {
      try {
        judging = await answered(
          client.GET("/api/productions/{production_id}/judging", { params: { path: { production_id: production } } }),
        );
      } catch (error) {
        if (!(error instanceof Offline)) throw error;
        problem = error.message;
      }
    })();
  });
  // One change after the other, each made from the last answer: two quick ones are not a conflict.
  let line: Promise<void> = Promise.resolve();
  function change(wish: (now: Schemas["JudgingOut"]) => Partial<Schemas["JudgingIn"]>) {
    line = line.then(() => send(wish));
  }
  async function send(wish: (now: Schemas["JudgingOut"]) => Partial<Schemas["JudgingIn"]>) {
    if (!judging) return;
    problem = "";
    try {
      judging = await answered(
        client.PATCH("/api/productions/{production_id}/judging", {
          params: { path: { production_id: production } },
          headers: { "Idempotency-Key": writeKey() },
          body: { tolerances: {}, ...wish(judging), version: judging.version } as Schemas["JudgingIn"],
        }),
      );
      onchange();
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      problem = error.message;
    }
  }
  function tolerance(item: string, which: "holds" | "tight", value: string) {
    if (value.trim() === "" || !Number.isFinite(Number(value))) {
      problem = `“${value}” is not a number.`;
      return;
    }
    change((now) => {
      const row = now.tolerances.find((one) => one.item === item)!;
      return { tolerances: { [item]: { holds: row.holds, tight: row.tight, [which]: Number(value) } } };
    });
  }
  const changed = (row: Schemas["ToleranceRow"]) => row.holds !== row.default_holds || row.tight !== row.default_tight;
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  {#if problem}<p role="alert" class="mb-2">{problem}</p>{/if}
  {#if judging}
    {@const now = judging}
    <p class="pb-2 text-muted">
      For the whole production. Every limit is a judgement until somebody's eye says otherwise.
    </p>
    <div class="gap-x-8 lg:columns-2">
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Finish and style</h3>
        {#each FINISH as field (field.name)}
          <FieldRow
            {field}
            {units}
            value={now[field.name as "soften_px"]}
            disabled={!writes}
            onset={(value) => change(() => ({ [field.name]: value }))}
          />
        {/each}
      </section>
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Put into every verdict</h3>
        {#each ERRORS as field (field.name)}
          <FieldRow
            {field}
            {units}
            value={now[field.name as "soften_px"]}
            disabled={!writes}
            onset={(value) => change(() => ({ [field.name]: value }))}
          />
        {/each}
      </section>
    </div>
    <table class="w-full border-collapse">
      <caption class="sr-only">Tolerances</caption>
      <thead
        ><tr class="text-left text-muted"
          ><th class="font-normal">Item</th><th class="w-28 font-normal">Holds up to</th><th class="w-28 font-normal"
            >Tight up to</th
          ><th class="w-14 font-normal"></th><th class="w-16"></th></tr
        ></thead
      >
      <tbody>
        {#each now.tolerances as row (row.item)}
          <tr class="border-b border-line">
            <th scope="row" class={changed(row) ? "text-left" : "text-left font-normal"}>{row.label}</th>
            {#each ["holds", "tight"] as const as which (which)}
              <td class="py-0.5 pr-2">
                <input
                  class="field num"
                  aria-label={`${row.label}, ${which}`}
                  value={Number(row[which].toPrecision(4))}
                  disabled={!writes}
                  inputmode="decimal"
                  onchange={(event) => tolerance(row.item, which, event.currentTarget.value.replace(",", "."))}
                />
              </td>
            {/each}
            <td class="num text-sm text-muted">{row.unit}</td>
            <td
              >{#if changed(row)}<button
                  class="link"
                  disabled={!writes}
                  onclick={() => change(() => ({ tolerances: { [row.item]: { holds: null, tight: null } } }))}
                  >default</button
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</div>
