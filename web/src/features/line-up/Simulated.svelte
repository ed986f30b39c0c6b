<!-- The simulated camera: its head and its place are turned here, its faults switched one by one. -->
<script lang="ts">
  import Slider from "../../lib/ui/Slider.svelte";
  import { session } from "../../lib/session.svelte";
  import { shown, unitOf } from "../../lib/units";
  import type { Lining } from "./lining.svelte";
  import { AS_PLANNED, type Off } from "./sources";

  let { lining }: { lining: Lining } = $props();
  const known = $derived(lining.known!);
  const reach = $derived(Number((known.distance_m * 0.06).toPrecision(1)));
  type Dial = { key: keyof Off; label: string; most: number; step: number; metres: boolean };
  const dials = $derived<Dial[]>([
    { key: "pan", label: "Pan", most: 3, step: 0.01, metres: false },
    { key: "tilt", label: "Tilt", most: 3, step: 0.01, metres: false },
    { key: "roll", label: "Roll", most: 3, step: 0.01, metres: false },
    ...(known.zooms
      ? [{ key: "zoom" as const, label: "Zoom", most: 0.08, step: 0.0005, metres: false }]
      : []),
    { key: "aside", label: "Aside", most: reach, step: reach / 200, metres: true },
    { key: "up", label: "Up", most: reach, step: reach / 200, metres: true },
    { key: "forward", label: "Nearer", most: reach, step: reach / 200, metres: true },
  ]);
  function text(dial: Dial): string {
    const value = lining.off[dial.key];
    const minus = value < 0 ? "−" : "";
    const far = Math.abs(value);
    if (dial.key === "zoom") return `${minus}${Math.abs(100 * Math.expm1(value)).toFixed(1)} %`;
    if (!dial.metres) return `${minus}${far.toFixed(2)}°`;
    return `${minus}${shown(far, "length", session.units)} ${unitOf("length", session.units, "m")}`;
  }
  const set = (key: keyof Off, value: number) => (lining.off = { ...lining.off, [key]: value });
  function switched(key: string, on: boolean) {
    lining.faults = on ? [...lining.faults, key] : lining.faults.filter((one) => one !== key);
  }
</script>

<section aria-label="Simulated camera" class="border-t border-line px-3.5 py-3">
  <div class="flex items-center gap-2">
    <h2 class="text-muted">Simulated camera</h2>
    <button class="btn ml-auto !border-line" onclick={() => (lining.off = { ...AS_PLANNED })}
      >As planned</button
    >
    <button class="btn !border-line" onclick={() => lining.knock()}>Knock it off</button>
  </div>
  <div class="mt-2 grid gap-y-0.5">
    {#each dials as dial (dial.key)}
      <div class="flex items-center gap-3">
        <span class="w-14 shrink-0">{dial.label}</span>
        <Slider
          label={dial.label}
          class="min-w-0 flex-1"
          least={-dial.most}
          most={dial.most}
          step={dial.step}
          value={lining.off[dial.key]}
          onchange={(value) => set(dial.key, value)}
        />
        <span class="num w-16 shrink-0 text-right">{text(dial)}</span>
      </div>
    {/each}
  </div>
  <details class="mt-2">
    <summary class="cursor-pointer text-muted"
      >Its faults: {lining.faults.length} of {known.faults.length}</summary
    >
    <div class="mt-1 grid gap-x-4">
      {#each known.faults as fault (fault.key)}
        <label class="flex min-h-6 items-center gap-2 pointer-coarse:min-h-11"
          ><input
            type="checkbox"
            class="size-4 accent-ink"
            checked={lining.faults.includes(fault.key)}
            onchange={(event) => switched(fault.key, event.currentTarget.checked)}
          />{fault.name}</label
        >
      {/each}
    </div>
  </details>
</section>
