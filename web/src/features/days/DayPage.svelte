<!-- One shooting day as a page by itself. -->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { push } from "svelte-spa-router";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { letter, undoes } from "../../lib/ui/keys";
  import Day from "./Day.svelte";
  import { DaysBoard, KINDS } from "./days.svelte";

  let { params }: { params: { day: string } } = $props();
  const board = new DaysBoard();
  void board.read().then(() => board.back.fill({ kinds: KINDS }));
  whenOthersWrite(
    () => board.read(),
    () => true,
  );
  board.keepUp();
  onDestroy(() => board.planning.close());
  $effect(() => {
    const { day } = params;
    untrack(() => void board.look(day));
  });

  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void board.back.undo();
    else if (letter(event) === "[" && board.day?.before) void push(`/days/${board.day.before}`);
    else if (letter(event) === "]" && board.day?.after) void push(`/days/${board.day.after}`);
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{board.day?.day.name ?? "A day"} · Jungoptic</title></svelte:head>
<main class="flex h-full min-h-0 flex-col">
  <Day {board} onlook={(date) => void push(`/days/${date}`)} />
</main>
