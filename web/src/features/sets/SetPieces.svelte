<!--
  The pieces of a set as lines: size and place, edited where they stand; what of each is in any frame, and
  what is made.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { area, quantityOf, unitOf } from "../../lib/units";
  import type { PieceIn, SetState } from "./set.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";

  let {
    set,
    writes,
    chosen = $bindable(null),
  }: { set: SetState; writes: boolean; chosen: { kind: "piece" | "view"; at: number } | null } = $props();

  const build = $derived(set.build!);
  const of = $derived(new Map(build.piece_fields.map((one) => [one.name, one])));
  const NUMBERS = ["width_m", "height_m", "base_m", "x_m", "z_m", "turn_deg"] as const;
  const unit = (name: string) =>
    unitOf(quantityOf(of.get(name)?.unit ?? ""), set.units, of.get(name)?.unit ?? "");
  const problem = (at: number, name: string) => set.asking.at(`pieces.${at}.${name}`);
  const BOX = { w: 92, h: 40 };

  function fresh() {
    const names = new Set(set.pieces.map((one) => one.name));
    let n = set.pieces.length + 1;
    while (names.has(`Piece ${n}`)) n++;
    const made: PieceIn = {
      ...(Object.fromEntries(build.piece_fields.map((one) => [one.name, one.default])) as unknown as PieceIn),
      name: `Piece ${n}`,
      width_m: 2,
      z_m: Math.max(3, ...set.pieces.map((one) => one.z_m)),
    };
    void set.save("Add a piece", (now) => ({ pieces: [...now.pieces, made] }));
    chosen = { kind: "piece", at: set.pieces.length };
  }
  const heads = $derived([
    ["Piece", ""],
    ...NUMBERS.map((name) => [of.get(name)?.title ?? name, unit(name)]),
  ]);
  const inArea = (square_m: number) => area(square_m, set.units);
</script>

<div class="overflow-x-auto">
  <table class="w-full border-separate border-spacing-0">
    <thead>
      <tr class="text-left">
        {#each heads as [head, measure] (head)}
          <th class="border-b border-line px-2 py-1 font-strong whitespace-nowrap"
            >{head} <span class="num font-normal text-muted">{measure}</span></th
          >
        {/each}
        {#each ["Lies", "Wheels", "Made", "Seen", "To make", "Seen by", ""] as head (head)}
          <th class="border-b border-line px-2 py-1 font-strong whitespace-nowrap">{head}</th>
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each build.pieces as one, i (one.name)}
        {@const on = chosen?.kind === "piece" && chosen.at === i}
        {@const scale = Math.min(BOX.w / one.width_m, BOX.h / one.height_m)}
        <tr class={on ? "bg-raised" : "hover:bg-panel"} onfocusin={() => (chosen = { kind: "piece", at: i })}>
          <td class="min-w-32 border-b border-line p-0">
            <input
              class="cell font-strong"
              aria-label={`Name of piece ${i + 1}`}
              aria-invalid={Boolean(problem(i, "name"))}
              {@attach typed(() => one.name)}
              disabled={!writes}
              onchange={(event) => set.piece(i, { name: event.currentTarget.value.trim() })}
            />
            {#if problem(i, "name")}<span role="alert" class="block px-2 pb-1 text-sm"
                >{problem(i, "name")}</span
              >{/if}
          </td>
          {#each NUMBERS as name (name)}
            <td class="w-16 border-b border-line p-0">
              <NumberCell
                value={one[name]}
                label={`${of.get(name)?.title ?? name}, ${one.name}`}
                quantity={quantityOf(of.get(name)?.unit ?? "")}
                units={set.units}
                step={name === "turn_deg" ? 1 : 0.1}
                disabled={!writes}
                problem={problem(i, name)}
                onset={(value) => value !== null && set.piece(i, { [name]: value })}
              />
            </td>
          {/each}
          {#each ["lies", "wheels"] as const as name (name)}
            <td class="border-b border-line px-2">
              <input
                type="checkbox"
                class="block size-4 accent-(--text) pointer-coarse:size-6"
                aria-label={`${of.get(name)?.title ?? name}, ${one.name}`}
                checked={one[name]}
                disabled={!writes}
                onchange={(event) => set.piece(i, { [name]: event.currentTarget.checked })}
              />
            </td>
          {/each}
          <td class="border-b border-line p-0">
            <Select
              class="cell"
              label={`${of.get("made")?.title ?? "Made"}, ${one.name}`}
              disabled={!writes}
              value={one.made}
              options={(of.get("made")?.choices ?? []).map((choice) => [choice, choice] as const)}
              onchange={(made) => set.piece(i, { made: made as PieceIn["made"] })}
            />
          </td>
          <td class="border-b border-line px-2 py-1">
            <svg
              width={BOX.w}
              height={BOX.h}
              role="img"
              aria-label={`${one.name}: ${inArea(one.seen_m2)} of ${inArea(one.whole_m2)} are seen`}
            >
              <g transform={`translate(0 ${BOX.h}) scale(${scale} ${-scale})`}>
                <rect
                  width={one.width_m}
                  height={one.height_m}
                  fill="none"
                  stroke="var(--mark)"
                  stroke-dasharray="2 3"
                  vector-effect="non-scaling-stroke"
                />
                {#if one.made_box && one.built}
                  <rect
                    x={one.made_box[0]}
                    y={one.made_box[1]}
                    width={one.made_box[2]! - one.made_box[0]!}
                    height={one.made_box[3]! - one.made_box[1]!}
                    fill="none"
                    stroke="var(--text)"
                    vector-effect="non-scaling-stroke"
                  />
                {/if}
                {#each one.seen as ring, j (j)}<path
                    d={`M${ring.map((point) => `${point[0]} ${point[1]}`).join("L")}Z`}
                    fill="var(--mark)"
                  />{/each}
              </g>
            </svg>
          </td>
          <td class="border-b border-line px-2 whitespace-nowrap">
            {#if !one.by.length}<span class="text-muted">nothing: in no frame</span>
            {:else}
              <span class="num">{one.size_text}</span>
              <span class="block text-sm text-muted"
                >{one.built ? "" : one.made === "built" ? "its twin serves; " : `${one.made}; `}finest that
                shows
                <span class="num">{one.finest_text}</span></span
              >
            {/if}
          </td>
          <td class="num border-b border-line px-2">{one.by.join(" ") || "–"}</td>
          <td class="border-b border-line px-2 text-right">
            {#if writes}<button
                class="link text-muted"
                aria-label={`Remove ${one.name}`}
                onclick={() => {
                  chosen = null;
                  void set.save(`Remove ${one.name}`, (now) => ({
                    pieces: now.pieces.filter((_, at) => at !== i),
                  }));
                }}>remove</button
              >{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
{#if writes}<button class="btn mt-2 ml-2" onclick={fresh}>Add a piece</button>{/if}
{#if !build.pieces.length}
  <p class="max-w-prose px-2 py-2 text-muted">
    A piece is one flat part of the set: a wall, a floor, a door, a painted flat. Give its width, height and
    place in plan; what none of the cameras sees of it need not be built.
  </p>
{/if}
