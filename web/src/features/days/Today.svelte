<!-- The day that is next, today where it is one: the address that a telephone opens in the morning. -->
<script lang="ts">
  import { replace } from "svelte-spa-router";
  import { answered, client } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { nextDay } from "../../lib/offline/along.svelte";
  import { place } from "../../lib/place.svelte";

  const asking = new Asking();
  let none = $state(false);
  void asking.read(async () => {
    await place.choose();
    if (!place.production) return;
    const path = { production_id: place.production };
    const { days } = await answered(
      client.GET("/api/productions/{production_id}/days", { params: { path } }),
    );
    const day = nextDay(days) ?? days.at(-1);
    none = !day;
    if (day) void replace(`/days/${day.date}`);
  });
</script>

<svelte:head><title>Today · Jungoptic</title></svelte:head>
<main class="grid h-full place-content-center gap-3 p-6 text-center">
  {#if none}
    <p>No shooting day is planned yet.</p>
    <a class="btn mx-auto" href="#/days">Plan days</a>
  {:else}<p role="status">{asking.said || "Looking for the day…"}</p>{/if}
</main>
