<!-- A photograph taken with one's own camera: its tags say which gate and which lens, and one adds them. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { photographForm } from "../../lib/photograph";
  import type { Kit } from "./kit.svelte";
  import { newMode, NEWS } from "./news";

  let { kit, file, ondone }: { kit: Kit; file: File; ondone: () => void } = $props();

  const asking = new Asking();
  let found = $state.raw<Schemas["TagsOut"] | null>(null);
  let builtIn = $state(false);

  $effect(() => {
    const asked = file;
    found = null;
    void asking
      .run(() =>
        answered(
          client.POST("/api/photographs/tags", {
            body: photographForm(asked, false) as never,
            bodySerializer: (body) => body as never,
          }),
        ),
      )
      .then((tags) => {
        if (asked !== file) return;
        found = tags ?? null;
        builtIn = tags?.built_in ?? false;
      });
  });

  const camera = $derived(found?.camera || "Camera");
  const hasCamera = $derived(kit.rows("camera").some((row) => kit.name(row) === camera));
  const focal = $derived(found?.focal_length_mm ?? null);
  const lens = $derived(
    builtIn ? `${camera}, ${focal?.toFixed(1)} mm`.slice(0, 60) : found?.lens || `${focal} mm`,
  );
  const hasLens = $derived(kit.rows("lens").some((row) => kit.name(row) === lens));
  const gate = $derived(
    found?.gate_width_mm && found.gate_height_mm
      ? ([found.gate_width_mm, found.gate_height_mm] as const)
      : null,
  );
  // The recording is the usual one over the whole width; the camera's menu says what its crop really is.
  const WHERE = "photograph";

  async function addCamera() {
    if (!gate) return;
    const made = await kit.add("camera", { ...NEWS.camera.begins, name: camera }, WHERE);
    if (!made) return;
    const recording = { ...newMode(kit.known).begins, gate: null, whole_gate_mm: gate };
    await kit.add("mode", { ...recording, camera_id: made.id }, WHERE);
  }
  async function addLens() {
    const owner = kit.rows("camera").find((row) => kit.name(row) === camera)?.id;
    const { begins } = builtIn ? NEWS.builtIn : NEWS.lens;
    const stop = found?.f_number ?? begins.widest_f_number;
    const fixed = builtIn ? { smallest_f_number: stop, camera_id: owner ?? null } : {};
    const own = { name: lens, focal_length_mm: focal, widest_f_number: stop, ...fixed };
    await kit.add("lens", { ...begins, ...own }, WHERE);
  }
</script>

<section class="border-b border-ink bg-raised px-3.5 py-3" aria-label="From a photograph">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <b>{file.name}</b>
    {#if asking.said}<span role="alert">{asking.said}</span>
    {:else if !found}<span class="text-muted">Reading its tags…</span>
    {:else}
      <span class="num">
        {found.camera || "no camera named"} · {focal ? `${focal} mm` : "no focal length"}
        {found.equivalent_mm ? `(frames like ${found.equivalent_mm} mm)` : ""}
        {found.f_number ? `· f/${found.f_number}` : ""} · {found.iso ? `ISO ${found.iso}` : ""}
      </span>
    {/if}
    <button class="btn ml-auto !border-line" onclick={ondone}>Done</button>
  </div>
  {#if found}
    {#each found.left_out as line (line)}<p class="text-sm text-muted">{line}</p>{/each}
    <div class="mt-2 grid gap-1.5">
      {#if gate}
        <div class="flex flex-wrap items-center gap-3">
          <button class="btn" disabled={hasCamera || kit.asking.busy} onclick={addCamera}
            >{hasCamera ? "The camera is in the kit" : "Add the camera"}</button
          >
          <span
            >{camera}, a gate of <span class="num">{gate[0].toFixed(1)} × {gate[1].toFixed(1)} mm</span>
            <span class="text-muted">({found.gate_how}). Its video may use less: type its crop there.</span
            ></span
          >
        </div>
      {:else}
        <p class="text-muted">
          It does not say what it frames like on 36 × 24 mm, so its gate does not follow: add the camera by
          the name of its gate.
        </p>
      {/if}
      {#if focal}
        <div class="flex flex-wrap items-center gap-3">
          <button
            class="btn"
            disabled={hasLens || kit.asking.busy || (builtIn && !hasCamera)}
            onclick={addLens}>{hasLens ? "The lens is in the kit" : "Add the lens"}</button
          >
          <span
            >{lens}, <span class="num">f/{found.f_number ?? "?"}</span>
            <span class="text-muted"
              >as this photograph was taken: say its widest stop and closest focus there.</span
            ></span
          >
          <label class="flex items-center gap-2 text-muted">
            <input type="checkbox" class="size-4 accent-(--text)" bind:checked={builtIn} /> built in
          </label>
        </div>
      {/if}
      {#if kit.failed === WHERE && kit.asking.said}<p role="alert">{kit.asking.said}</p>{/if}
    </div>
  {/if}
</section>
