<!-- When it is all finished: the spread that the pace gives, what more hands or a cut would do. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { lasting, type DaysBoard } from "./days.svelte";

  let { board }: { board: DaysBoard } = $props();
  type Told = Schemas["OutlookOut"];
  const asking = new Asking();
  let told = $state.raw<Told | null>(null);

  $effect(() => {
    const { production_id } = board.data!;
    if (board.going) return; // it is reckoned anew when the plan stands
    const params = { path: { production_id } };
    void asking
      .read(() => answered(client.GET("/api/productions/{production_id}/outlook", { params })))
      .then((found) => found && (told = found));
  });

  const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");
  const dayOf = (iso: string) => `${Number(iso.slice(8))} ${MONTHS[Number(iso.slice(5, 7)) - 1]}`;
  const withYear = (iso: string) => `${dayOf(iso)} ${iso.slice(0, 4)}`;
  const days = (from: string, to: string) => Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);
  const sooner = (end: { likely: string }) => {
    const count = days(end.likely, told!.end.likely);
    return count > 0 ? `${count} ${count === 1 ? "day" : "days"} sooner` : "no sooner";
  };
  const hours = $derived(Object.entries(told?.hours_left ?? {}).filter(([, left]) => left >= 0.5));
  const reckoned = $derived(
    told
      ? `${lasting(told.minutes_left)} to film on ${told.days_left} days; ` +
          hours.map(([craft, left]) => `${craft} ${Math.round(left)} h`).join(", ") +
          ` at ${told.off_set_h} h a week. ` +
          (told.paces
            ? `What was filmed or finished took ${told.pace} of what was planned (${told.paces} measured).`
            : "No pace is known yet: judged a quarter longer than planned, give or take a third.")
      : "",
  );
</script>

<div class="min-w-0 flex-1">
  <h2>When it is all finished</h2>
  {#if told}
    <p {@attach tip(() => reckoned)}>
      Likely <b class="num">{withYear(told.end.likely)}</b><span class="text-muted"
        >, one in ten by <span class="num">{dayOf(told.end.early)}</span>, nine in ten by
        <span class="num">{dayOf(told.end.late)}</span></span
      >
    </p>
    <p class="text-muted">
      One more off the set: {sooner(told.helped)}.
      {#if told.without}
        Without <span class="num">{told.dearest}</span>, the dearest ({told.dearest_h} h): {sooner(
          told.without,
        )}.
      {/if}
    </p>
  {:else}<p class="text-muted">{asking.said || "Reckoning…"}</p>{/if}
</div>
