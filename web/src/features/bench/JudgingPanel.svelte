<!--
  How the production is judged: what is done at the end, how far a tape may be off, and every tolerance.
-->
<script lang="ts">
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import type { Units } from "../../lib/units";
  import FieldRow from "../../lib/ui/FieldRow.svelte";

  let {
    production,
    units,
    writes,
    onchange,
  }: { production: number; units: Units; writes: boolean; onchange: () => void } = $props();

  let judging = $state<Schemas["JudgingOut"] | null>(null);
  const asking = new Asking();
  const id = $props.id();
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

  const whose = $derived(production);
  const path = () => ({ path: { production_id: whose } });
  async function read() {
    judging = await answered(client.GET("/api/productions/{production_id}/judging", { params: path() }));
  }
  $effect(() => void asking.read(read));

  // One change after the other, each made from the last answer: two quick ones are not a conflict.
  let line: Promise<unknown> = Promise.resolve();
  function change(wish: (now: Schemas["JudgingOut"]) => Partial<Schemas["JudgingIn"]>): Promise<boolean> {
    const done = line.then(() => send(wish));
    line = done.catch(() => null);
    return done;
  }
  async function send(wish: (now: Schemas["JudgingOut"]) => Partial<Schemas["JudgingIn"]>): Promise<boolean> {
    if (!judging) return false;
    const now = judging;
    const found = await asking.run(() =>
      answered(
        client.PATCH("/api/productions/{production_id}/judging", {
          params: path(),
          headers: { "Idempotency-Key": writeKey() },
          body: { tolerances: {}, ...wish(now), version: now.version } as Schemas["JudgingIn"],
        }),
      ),
    );
    if (found) {
      judging = found;
      onchange();
      // somebody else's is seen before it is changed
    } else if (asking.at("version")) await read().catch(() => null);
    return !!found;
  }
  function tolerance(item: string, which: "holds" | "tight", value: string) {
    if (value.trim() === "" || !Number.isFinite(Number(value))) {
      asking.problems = [{ field: item, message: `“${value}” is not a number.` }];
      return;
    }
    void change((now) => {
      const row = now.tolerances.find((one) => one.item === item)!;
      return { tolerances: { [item]: { holds: row.holds, tight: row.tight, [which]: Number(value) } } };
    });
  }
  const shownAt = $derived(
    new Set(
      [...FINISH, ...ERRORS].map((one) => one.name).concat(judging?.tolerances.map((one) => one.item) ?? []),
    ),
  );
  const elsewhere = $derived(asking.problems.filter((one) => !shownAt.has(one.field)));
  const changed = (row: Schemas["ToleranceRow"]) =>
    row.holds !== row.default_holds || row.tight !== row.default_tight;
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  {#each elsewhere as one (one.message)}<p role="alert" class="mb-2">{one.message}</p>{/each}
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
            problem={asking.at(field.name)}
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
            problem={asking.at(field.name)}
            onset={(value) => change(() => ({ [field.name]: value }))}
          />
        {/each}
      </section>
    </div>
    <table class="w-full border-collapse">
      <caption class="sr-only">Tolerances</caption>
      <thead
        ><tr class="text-left text-muted"
          ><th class="font-normal">Item</th><th class="w-28 font-normal">Holds up to</th><th
            class="w-28 font-normal">Tight up to</th
          ><th class="w-14 font-normal"></th><th class="w-16"></th></tr
        ></thead
      >
      <tbody>
        {#each now.tolerances as row (row.item)}
          {@const wrong = asking.at(row.item)}
          <tr class={["border-b border-line", wrong && "border-b-0"]}>
            <th scope="row" class={changed(row) ? "text-left" : "text-left font-normal"}>{row.label}</th>
            {#each ["holds", "tight"] as const as which (which)}
              <td class="py-0.5 pr-2">
                <input
                  class="field num"
                  aria-label={`${row.label}, ${which}`}
                  value={Number(row[which].toPrecision(4))}
                  disabled={!writes}
                  inputmode="decimal"
                  aria-invalid={!!wrong}
                  aria-describedby={wrong ? `${id}-${row.item}` : undefined}
                  onchange={(event) =>
                    tolerance(row.item, which, event.currentTarget.value.replace(",", "."))}
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
          {#if wrong}<tr class="border-b border-line"
              ><td colspan="5" class="pb-1"
                ><p class="text-shows" role="alert" id={`${id}-${row.item}`}>{wrong}</p></td
              ></tr
            >{/if}
        {/each}
      </tbody>
    </table>
  {/if}
</div>
