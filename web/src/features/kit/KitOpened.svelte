<!-- Which shots one thing more in the kit would better, each solved afresh by the workers. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { place } from "../../lib/place.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let { production }: { production: number } = $props();
  const HEADING = [
    "sticky top-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-1",
    "border-y border-line bg-ground px-3.5 py-1.5",
  ];
  const asking = new Asking();
  const looking = new Followed(asking);
  let opened = $state.raw<Schemas["OpenedOut"] | null>(null);
  onDestroy(() => looking.close());
  const path = $derived({ path: { production_id: production } });
  const found = $derived(opened?.found ?? null);
  const going = $derived(isGoing(looking.job));

  async function read() {
    opened = await answered(client.GET("/api/productions/{production_id}/kit-opened", { params: path }));
    if (isGoing(opened.job) && !looking.job) looking.follow(opened.job);
  }
  void asking.read(read);
  let over = $state(0);
  $effect(() => {
    const job = looking.job;
    if (job?.state === "ready" && job.id !== over) {
      over = job.id;
      void asking.read(read);
    }
  });

  function look() {
    void looking.ask(async (key) => {
      await place.readProductions();
      return answered(
        client.POST("/api/productions/{production_id}/kit-opened", {
          params: path,
          headers: { "Idempotency-Key": key },
          body: { version: place.version },
        }),
      );
    });
  }
  const count = (key: string) =>
    found?.shots.filter((shot) => shot.before === "shows" && shot.after[key] === "holds").length ?? 0;
  const betters = (key: string) => found?.shots.filter((shot) => key in shot.after).length ?? 0;
  const helping = $derived((found?.additions ?? []).filter((one) => betters(one.key)));
  const useless = $derived((found?.additions ?? []).filter((one) => !betters(one.key)));
  /** What is better where the verdict is the same. */
  function change(shot: Schemas["OpenedShot"], key: string) {
    if (shot.after[key] !== shot.before) return "";
    const left = shot.shows_after[key] ?? 0;
    return left < shot.shows ? `, ${left} of ${shot.shows} left` : ", less is tight";
  }
  const shots = (number: number) => `${number} ${number === 1 ? "shot" : "shots"}`;
</script>

<section aria-label="What more kit would open up">
  <div class={HEADING}>
    <h2>What one thing more would open up</h2>
    <span class="inline-flex items-center gap-2" aria-live="polite">
      {#if going}
        <Progress class="w-32" value={looking.job!.progress} label="Solving the shots" />
        {#if looking.stops}<button class="link" onclick={() => looking.stop()}>Stop</button>{/if}
      {:else}
        <button class="btn !border-line" disabled={asking.busy} onclick={look}
          >{found ? "Look again" : "Look"}</button
        >
        {#if opened?.stale}<span class="text-muted">The kit or a shot has changed since.</span>{/if}
      {/if}
    </span>
    {#if asking.said || looking.job?.state === "failed"}<span role="alert"
        >{asking.said || looking.job?.message}</span
      >{/if}
  </div>
  <div class="px-3.5 py-3">
    {#if !found}
      <p class="max-w-prose text-muted">
        Every shot is solved afresh with the kit as it is, then with one lamp more, a longer lens, one that
        goes to life size, 120 frames/s, twice the pixels: which shots that show would hold.
      </p>
    {:else}
      <p class="max-w-prose">
        Solved afresh, the kit as it is brings <b>{shots(found.holding)}</b> to {vocabulary.verdict("holds")
          .single}{#if found.shots.length}, and {shots(found.shots.length)} not{/if}.
        {#if useless.length && found.shots.length}<span class="text-muted"
            >{useless.map((one) => one.title).join("; ")}: {useless.length > 1
              ? "none of these helps"
              : "this does not help"}.</span
          >{/if}
      </p>
      {#if helping.length}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div class="mt-3 overflow-x-auto" tabindex="0" role="region" aria-label="Shots with each of them">
          <table>
            <thead class="text-left align-bottom text-sm text-muted">
              <tr>
                <th class="py-1 pr-4 font-normal">Shot</th>
                <th class="px-3 font-normal">As it is</th>
                {#each helping as one (one.key)}
                  <th class="max-w-44 px-3 font-normal"
                    ><span class="block text-ink">{one.title}</span>
                    {count(one.key)
                      ? `opens ${shots(count(one.key))}`
                      : `betters ${shots(betters(one.key))}`}</th
                  >
                {/each}
              </tr>
            </thead>
            <tbody>
              {#each found.shots as shot (shot.id)}
                <tr class="border-t border-line">
                  <td class="max-w-72 truncate py-1.5 pr-4" {@attach tip(() => shot.title)}
                    ><a class="link" href={`#/shots/${shot.id}/bench`}>{shot.code}</a> {shot.title}</td
                  >
                  <td class="px-3 whitespace-nowrap"
                    ><Verdict verdict={shot.before} />
                    {vocabulary.verdict(shot.before).single}{shot.shows > 1
                      ? `, ${shot.shows} items`
                      : ""}</td
                  >
                  {#each helping as one (one.key)}
                    {@const after = shot.after[one.key]}
                    <td class="px-3 whitespace-nowrap"
                      >{#if after}<Verdict verdict={after} />
                        {vocabulary.verdict(after).single}{change(shot, one.key)}{:else}<span
                          class="text-muted">no better</span
                        >{/if}</td
                    >
                  {/each}
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
      {/if}
    {/if}
  </div>
</section>
