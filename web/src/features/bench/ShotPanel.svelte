<!--
  What belongs to the whole shot: its length and move, its framing, its split line and haze; focus and placing
  of the selected set-up.
-->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";

  let { bench, writes }: { bench: BenchState; writes: boolean } = $props();

  const data = $derived(bench.bench);
  const values = $derived(
    data ? bench.trial.held("shot", [{ id: data.shot_id, values: data.shot.values }])[0]!.values : {},
  );
  const problemAt = (name: string) => bench.problems.find((one) => one.field === name)?.message ?? "";
  const MOVE = [
    "kind",
    "amount",
    "start_frame",
    "end_frame",
    "ease_in_frames",
    "ease_out_frames",
    "round_m",
    "shake_px",
    "shake_hz",
  ] as const;
  const PLAN = ["length_frames", "visibility_m", "carries", "split_px", "split_feather_px"] as const;
  const own = (
    name: string,
    title: string,
    kind: Schemas["CardField"]["kind"],
    unit = "",
    choices: string[] = [],
  ): Schemas["CardField"] => ({
    name,
    title,
    unit,
    help: "",
    kind,
    optional: true,
    default: null,
    choices,
    ring: "linear",
    steps: false,
    step: 1,
    big_step: 10,
    low: 0,
    high: 0,
    marks: [],
    engraved: false,
    fields: [],
  });
  const FRAMING = [
    own("margin_pct", "Stabiliser margin", "number", "%"),
    own("vertical_cut", "Vertical cut-down", "flag"),
    own("vertical_only", "Only the cut-down is delivered", "flag"),
    own("vertical_at_px", "Its middle", "number", "px"),
    own("screen_direction", "Screen direction", "choice", "", ["", "left", "right"]),
  ];
  const set = (name: string, value: unknown, title: string) =>
    data && void bench.set(title, "shot", data.shot_id, { [name]: value });
  /** What only some moves have is asked for with them. */
  const asked = (name: string) =>
    name === "round_m" ? values.move_kind === "arc" : name !== "shake_hz" || Boolean(values.move_shake_px);
  const moveLabel = (field: Schemas["CardField"]) =>
    field.name === "amount" && data?.shot.move_unit ? `How far, ${data.shot.move_unit}` : field.title;
  const spared = $derived(
    (data?.layers ?? []).reduce(
      (sum, one) => sum + (one.matte_hours ?? 0) - (one.matte_hours_needed ?? 0),
      0,
    ),
  );
  const moving = $derived((data?.layers ?? []).filter((one) => one.move_px > 0.05));
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  {#if data && fieldBook.sets}
    <div class="gap-x-8 lg:columns-2">
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Move of the camera, full size</h3>
        {#each fieldBook.of("move", MOVE).filter((one) => asked(one.name)) as field (field.name)}
          <FieldRow
            {field}
            label={moveLabel(field)}
            units={data.units}
            value={values[`move_${field.name}`]}
            disabled={!writes}
            problem={problemAt(`move_${field.name}`)}
            onset={(value) => set(`move_${field.name}`, value, field.title)}
          />
        {/each}
        {#if moving.length}
          <p class="pt-1.5 text-muted">At its fastest, in px for each frame:</p>
          <dl class="grid grid-cols-[1fr_auto] gap-x-4">
            {#each moving as one (one.id)}<dt class="truncate">{one.name}</dt>
              <dd class="num">{one.move_px.toFixed(1)}</dd>{/each}
          </dl>
        {/if}
      </section>
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Final crop and move</h3>
        {#each FRAMING as field (field.name)}
          <FieldRow
            {field}
            units={data.units}
            value={values[field.name]}
            disabled={!writes}
            problem={problemAt(field.name)}
            onset={(value) => set(field.name, value, field.title)}
          />
        {/each}
        <p class="pt-1.5 text-muted">
          Needed: {Math.round(data.needed_box[2]! - data.needed_box[0]!)} × {Math.round(
            data.needed_box[3]! - data.needed_box[1]!,
          )} px of {data.delivery_width_px} × {data.delivery_height_px}. What lies outside need not be built,
          lit or cut{spared > 0.05 ? `: ${spared.toFixed(1)} h of hand mattes fall away` : ""}.
        </p>
      </section>
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">The shot</h3>
        {#each fieldBook.of("shot", PLAN) as field (field.name)}
          <FieldRow
            {field}
            units={data.units}
            value={values[field.name]}
            disabled={!writes}
            problem={problemAt(field.name)}
            onset={(value) => set(field.name, value, field.title)}
          />
        {/each}
        {#if values.place}<p class="pt-1.5 text-muted">
            {values.place}. Recurs there: {(values.recurring as string[]).join(", ") || "nothing named"}.
          </p>{/if}
      </section>
      {#if data.selected}
        {@const focus = data.selected.focus}
        <section class="mb-3 break-inside-avoid">
          <h3 class="pb-0.5 text-muted">Focus of {data.selected.set_up_name}</h3>
          {#if focus.passes.length > 1}
            <p>
              {focus.more ? "More than " : ""}{focus.passes.length}
              {focus.more ? "passes" : "focus passes"} at this stop, focused at:
            </p>
            <ol class="num list-inside list-decimal text-sm">
              {#each focus.passes as one (one.text)}<li>{one.text}</li>{/each}
            </ol>
          {:else if focus.passes.length === 1}<p>One pass holds its depth: {focus.passes[0]?.text}.</p>{/if}
          {#if focus.tilt_text}<p class="pt-1 text-muted">
              A lens tilted {focus.tilt_text} down lays focus on the ground.
            </p>{/if}
        </section>
        <section class="mb-3 break-inside-avoid">
          <h3 class="pb-0.5 text-muted">How exactly must it be placed?</h3>
          <dl class="grid grid-cols-[1fr_auto] gap-x-4">
            {#each data.selected.placings ?? [] as one (one.dial)}
              <dt>{data.selected.dials.find((dial) => dial.field === one.dial)?.label ?? one.dial}</dt>
              <dd class="num">{one.text}</dd>
            {/each}
          </dl>
        </section>
      {/if}
    </div>
  {/if}
</div>
