<!--
  A geared rig: the next turn of its crank, large; where it stands; its gears and its ways to be typed in.
-->
<script lang="ts">
  import { untrack } from "svelte";
  import type { Schemas } from "../../lib/api/client";
  import Progress from "../../lib/ui/Progress.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import type { Desk } from "./desk.svelte";

  let { desk, rig }: { desk: Desk; rig: Schemas["RigOut"] } = $props();
  type Leg = Schemas["Leg"];
  const FIELDS = [
    ["mm", "mm"],
    ["start_frame", "from"],
    ["end_frame", "to"],
    ["ease_in_frames", "ease in"],
    ["ease_out_frames", "ease out"],
  ] as const;
  type Carries = Schemas["RigOut"]["carries"];
  const CARRIES: [Carries, string][] = [
    ["figure", "What is animated"],
    ["camera_right", "The camera, to the right"],
    ["camera_up", "The camera, up"],
    ["camera_forward", "The camera, forward"],
  ];
  const NEW_LEG = { mm: 50, start_frame: 1, end_frame: 25, ease_in_frames: 6, ease_out_frames: 6 };

  const teeth = $derived(rig.gears.map((pair) => pair.join(" : ")).join(", "));
  const motor = $derived(desk.motor);
  const turns = $derived(motor.rig === rig.id && motor.goes);
  const longest = $derived(rig.fastest_px?.toFixed(0));
  const mm = (value: number) => value.toFixed(value < 1 ? 3 : 2);

  /** The number in a field; what is none gives back what stood there. */
  function typed(event: Event, stood: number): number {
    const field = event.currentTarget as HTMLInputElement;
    const to = Number(field.value.replace(",", "."));
    if (field.value.trim() && Number.isFinite(to)) return to;
    field.value = String(stood);
    return stood;
  }
  function number(event: Event, key: "lead_mm" | "marks" | "take_up") {
    const to = typed(event, rig[key]);
    if (to !== rig[key]) void desk.writes.rig(rig, { [key]: to });
  }
  function gears(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const pairs = [...field.value.matchAll(/(\d+)\s*[:/]\s*(\d+)/g)].map((one) => [+one[1]!, +one[2]!]);
    if (pairs.length || !field.value.trim()) void desk.writes.rig(rig, { gears: pairs });
    else field.value = teeth;
  }
  function leg(i: number, key: keyof Leg, event: Event) {
    const to = typed(event, rig.legs[i]![key]);
    if (to === rig.legs[i]![key]) return;
    const legs = rig.legs.map((one, at) => (at === i ? { ...one, [key]: to } : one));
    void desk.writes.rig(rig, { legs });
  }
  $effect(() => {
    const seen = rig;
    untrack(() => motor.follow(seen));
  });
  function asThePlate(): Partial<Schemas["RigChange"]> {
    const { plate_leg: leg, plate_carries: carries } = desk.sheet!;
    return { legs: leg ? [leg] : [], carries };
  }
  function stands(event: Event) {
    const to = Math.round(typed(event, rig.stands / rig.marks) * rig.marks);
    if (to !== rig.stands || rig.turn) void desk.writes.rig(rig, { stands: to });
  }
</script>

<section class="border-t border-line px-3 py-2" aria-label={rig.name}>
  <div class="flex items-baseline gap-2">
    <h2 class="truncate text-muted">{rig.name}</h2>
    <span class="num ml-auto shrink-0 text-muted">{mm(rig.mm_per_turn)} mm a turn</span>
  </div>
  {#if rig.next}
    <p class="text-lg font-strong" aria-live="polite">{rig.next.text}</p>
    <p class="flex items-center gap-2">
      <span class="text-muted"
        >for frame <span class="num">{rig.next.place + 1}</span>, to {rig.next.stands_text}</span
      >
      {#if desk.takes && !turns}<button
          class="btn ml-auto shrink-0"
          onclick={() => void desk.writes.turned(rig)}>{rig.driven ? "Turn it" : "Turned"}</button
        >{/if}
    </p>
  {:else}
    <p>Stands for frame <span class="num">{desk.next + 1}</span>: at {rig.stands_text}.</p>
  {/if}
  {#if turns && motor.job}
    <p class="mt-1 flex items-center gap-2">
      <Progress class="w-28" value={motor.job.progress} label={`${rig.name} turns`} />
      {#if motor.stops}<button class="btn btn-solid ml-auto min-h-11" onclick={() => void motor.stop()}
          >Stop it</button
        >{/if}
    </p>
  {:else if motor.rig === rig.id && (motor.asking.said || motor.job?.state === "failed")}
    <p class="text-shows" role="alert">{motor.asking.said || motor.job?.message}</p>
  {/if}
  {#if rig.driven}
    <p class="text-muted">Hands, hair and sleeves off: it turns by itself.</p>
  {/if}
  {#if rig.strobes}
    <p class="text-tight">
      Its longest step is <span class="num">{longest}</span> px: without blur it strobes.
    </p>
    <p class="text-muted">Go slower, go on ones, or blur it afterwards.</p>
  {/if}
  <details class="mt-1">
    <summary class="min-h-6 cursor-pointer text-muted">Gears and ways</summary>
    <div class="mt-1 grid grid-cols-[7rem_1fr] items-center gap-y-1">
      <span class="text-muted">Carries</span>
      <Select
        label={`${rig.name} carries`}
        value={rig.carries}
        options={CARRIES}
        disabled={!desk.takes}
        onchange={(to) => void desk.writes.rig(rig, { carries: to as Carries })}
      />
      <label for={`driven-${rig.id}`} class="text-muted">Has a motor</label>
      <input
        id={`driven-${rig.id}`}
        type="checkbox"
        class="my-1 justify-self-start"
        checked={rig.driven}
        disabled={!desk.takes}
        onchange={(event) => void desk.writes.rig(rig, { driven: event.currentTarget.checked })}
      />
      <label for={`lead-${rig.id}`} class="text-muted">Screw, mm a turn</label>
      <input
        id={`lead-${rig.id}`}
        class="field num"
        value={rig.lead_mm}
        disabled={!desk.takes}
        onchange={(event) => number(event, "lead_mm")}
      />
      <label for={`gears-${rig.id}`} class="text-muted">Gears, teeth</label>
      <input
        id={`gears-${rig.id}`}
        class="field num"
        placeholder="12 : 60"
        value={teeth}
        disabled={!desk.takes}
        onchange={gears}
      />
      <label for={`marks-${rig.id}`} class="text-muted">Marks a turn</label>
      <input
        id={`marks-${rig.id}`}
        class="field num"
        value={rig.marks}
        disabled={!desk.takes}
        onchange={(event) => number(event, "marks")}
      />
      <label for={`take-up-${rig.id}`} class="text-muted">Taken up by</label>
      <input
        id={`take-up-${rig.id}`}
        class="field num"
        value={rig.take_up}
        disabled={!desk.takes}
        onchange={(event) => number(event, "take_up")}
      />
      <label for={`stands-${rig.id}`} class="text-muted">Stands at, turns</label>
      <input
        id={`stands-${rig.id}`}
        class="field num"
        value={rig.stands / rig.marks}
        disabled={!desk.takes}
        onchange={stands}
      />
    </div>
    <table class="mt-1.5 w-full">
      <thead class="text-left text-muted">
        <tr
          >{#each FIELDS as [key, name] (key)}<th class="font-normal">{name}</th>{/each}<th></th></tr
        >
      </thead>
      <tbody>
        {#each rig.legs as one, i (i)}
          <tr>
            {#each FIELDS as [key, name] (key)}
              <td
                ><input
                  class="field num !w-12 !px-1"
                  aria-label={`Way ${i + 1}, ${name}`}
                  value={one[key]}
                  disabled={!desk.takes}
                  onchange={(event) => leg(i, key, event)}
                /></td
              >
            {/each}
            <td
              >{#if desk.takes}<button
                  class="link min-h-6"
                  aria-label={`Leave way ${i + 1} out`}
                  onclick={() => void desk.writes.rig(rig, { legs: rig.legs.filter((_, at) => at !== i) })}
                  >×</button
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#if desk.takes}
      <p class="mt-1.5 flex flex-wrap gap-2">
        <button
          class="btn !border-line"
          onclick={() => void desk.writes.rig(rig, { legs: [...rig.legs, NEW_LEG] })}>Add a way</button
        >
        {#if desk.sheet?.plate_leg}<button
            class="btn !border-line"
            onclick={() => void desk.writes.rig(rig, asThePlate())}>As the live plate moves</button
          >{/if}
        <button class="btn !border-line" onclick={() => void desk.writes.rig(rig, { removed: true })}
          >Take it away</button
        >
      </p>
    {/if}
    {#if rig.off_px !== null}<p class="mt-1 text-muted">
        Rounded to marks it is off by <span class="num">{rig.off_px.toFixed(2)}</span> px at most.
      </p>{/if}
  </details>
</section>
