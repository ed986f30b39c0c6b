<!-- What can hurt somebody: the safer way first, who must be asked, and the supervisor's signature. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import type { PlanState } from "./plan.svelte";
  import { date } from "../../lib/ui/when";

  let { plan }: { plan: PlanState } = $props();
  let notes = $state<Record<string, string>>({});
  let signing = $state("");
  const left = $derived((plan.plan?.hazards ?? []).filter((one) => !one.signed).length);
  /** Nobody and somebody exclude one another: what was touched last stands. */
  function said(key: string): string[] {
    const now = plan.plan?.who ?? [];
    if (now.includes(key)) return now.filter((other) => other !== key);
    return key === "nobody" ? ["nobody"] : [...now.filter((other) => other !== "nobody"), key];
  }
  const unsaid = $derived(
    (plan.plan?.all_cautions ?? []).filter(
      (one) => !plan.plan?.hazards.some((other) => other.key === one.key),
    ),
  );
</script>

{#if plan.plan}
  <div class="px-2 pb-3">
    <p class="flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
      <b>{plan.plan.deference}</b>
      <span class="ml-auto flex items-center gap-2">
        {#if plan.plan.ready}<b class="bg-ink px-1.5 py-0.5 text-ground">ready</b>
          {#if plan.writes}<button class="link" onclick={() => plan.ready(false)}>not ready</button>{/if}
        {:else}
          <span>{left ? `${left} open: the shot cannot be set to ready` : "Everything is signed off"}</span>
          {#if plan.writes}<button class="btn" disabled={left > 0} onclick={() => plan.ready(true)}
              >Set to ready</button
            >{/if}
        {/if}
      </span>
    </p>
    {#if plan.asking.at("ready")}<p role="alert">{plan.asking.at("ready")}</p>{/if}
    <div class="flex flex-wrap items-center gap-2 border-t border-line py-2">
      <span id="who-is-in-it" class={plan.plan.who.length ? "text-muted" : "font-strong"}
        >Who is in the shot?</span
      >
      <span class="flex flex-wrap gap-1" role="group" aria-labelledby="who-is-in-it">
        {#each plan.plan.in_shot as one (one.key)}
          {@const on = plan.plan.who.includes(one.key)}
          <button
            class={["btn", on ? "btn-solid" : "!border-line"]}
            aria-pressed={on}
            disabled={!plan.writes}
            onclick={() => void plan.who(said(one.key))}>{one.title}</button
          >
        {/each}
      </span>
      {#if !plan.plan.who.length}<span class="text-sm text-muted">Nobody has said it yet.</span>{/if}
      {#if plan.asking.at("who")}<p role="alert" class="w-full">{plan.asking.at("who")}</p>{/if}
    </div>
    {#each plan.plan.hazards as one (one.key)}
      <section class="grid gap-x-6 gap-y-1 border-t border-line py-2 sm:grid-cols-[14rem_1fr_18rem]">
        <div>
          <h3 class="text-lg">{one.title}</h3>
          <p class="text-sm text-muted">{one.by.join("; ")}</p>
        </div>
        <div>
          <p><b>Safer:</b> {one.safer}</p>
          <p class="mt-0.5">{one.text}</p>
          <p class="mt-0.5"><b>Ask:</b> {one.ask}</p>
        </div>
        <div>
          {#if one.signed}
            <p><b>Signed off</b> by {one.signed.by}, <span class="num">{date(one.signed.at)}</span></p>
            <p class="text-muted">{one.signed.note}</p>
            {#if plan.writes}<button class="link" onclick={() => plan.sign(one.key, "", true)}
                >Open it again</button
              >{/if}
          {:else if !plan.writes}
            <p><b>Open.</b> Only the supervisor signs it off.</p>
          {:else if signing === one.key}
            <form
              class="grid gap-1.5"
              onsubmit={async (event) => {
                event.preventDefault();
                if (await plan.sign(one.key, notes[one.key] ?? "")) signing = "";
              }}
            >
              <!-- svelte-ignore a11y_autofocus -->
              <textarea
                class="field py-1"
                rows="2"
                autofocus
                aria-label="Who was asked, what was agreed"
                placeholder="Who was asked, what was agreed"
                bind:value={notes[one.key]}></textarea>
              {#if plan.asking.at("note")}<p role="alert" class="text-sm">{plan.asking.at("note")}</p>{/if}
              <span class="flex gap-2"
                ><button class="btn btn-solid">Sign off</button><button
                  type="button"
                  class="btn !border-line"
                  onclick={() => (signing = "")}>Leave it open</button
                ></span
              >
            </form>
          {:else}
            <button class="btn" onclick={() => (signing = one.key)}>Sign off…</button>
          {/if}
          {#if plan.writes && plan.plan.cautions_by_hand.includes(one.key)}
            <button
              class="link mt-1 block text-sm"
              onclick={() => plan.cautions(plan.plan!.cautions_by_hand.filter((key) => key !== one.key))}
              >Take back what was said by hand</button
            >
          {/if}
        </div>
      </section>
    {:else}
      <p class="border-t border-line py-3 text-muted">
        Nothing raises a caution in this shot: no recipe, no kit, no place, nothing in the plan.
      </p>
    {/each}
    {#if plan.writes && unsaid.length}
      <label class="flex items-center gap-2 border-t border-line pt-2"
        ><span class="text-muted">Something else can hurt somebody here:</span>
        <Select
          class="field !w-auto"
          label="Add a caution"
          value=""
          placeholder="choose"
          options={unsaid.map((one) => [one.key, one.title] as const)}
          onchange={(key) => void plan.cautions([...plan.plan!.cautions_by_hand, key])}
        /></label
      >
    {/if}
  </div>
{/if}
