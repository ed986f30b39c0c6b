<!--
  Under the board, always as high: the job that is chosen, with what it needs and breaks, or what is on no
  day.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import Outlook from "./Outlook.svelte";
  import UnplacedJob from "./UnplacedJob.svelte";
  import { clockOf, lasting, type DaysBoard } from "./days.svelte";

  let { board }: { board: DaysBoard } = $props();
  const data = $derived(board.data!);
  const job = $derived(board.selected ? board.job(board.selected) : undefined);
  const booking = $derived(data.bookings.find((one) => one.job === job?.key && one.date));
  /** Where it is: in the hand, or as it is booked. */
  const stands = $derived(board.held && board.held.job === job?.key ? board.held : booking);
  const minutes = $derived(job ? job.before_min + job.takes_min + job.after_min : 0);
  const breaks = $derived(job ? board.breaksOf(job.key) : []);
  const guests = $derived(data.guests.filter((one) => job?.people.includes(one.person)));
  const before = $derived(data.order.filter((one) => one.then === job?.key));
  const after = $derived(data.order.filter((one) => one.first === job?.key));
  const places = $derived(data.days.filter((day) => !day.over).map((day) => [day.date, day.name] as const));
  const title = (key: string) => {
    const other = board.job(key);
    return other ? `${other.shots[0]} ${other.name}` : key;
  };
  const spent = $derived(
    job
      ? `${lasting(minutes)}: rig, light ${lasting(job.before_min)}, takes ${lasting(job.takes_min)}, ` +
          `strike ${lasting(job.after_min)}`
      : "",
  );
  const TEACHES =
    "Choose a job to see what it needs and what must come before it; drag it, or move it with arrow keys.";
  const wants = $derived(
    job
      ? [
          job.place,
          [job.camera, job.lens].filter(Boolean).join(", "),
          job.model,
          job.sun ? "the sun as its key" : job.light,
          job.backing,
          job.people.join(", "),
          job.sun || job.hour === "any" ? "" : `${job.hour} light`,
        ].filter(Boolean)
      : [],
  );
  /** An order that follows from the shots is only warned of, or kept again. */
  function waive(order: (typeof before)[number]) {
    const [first, then] = [board.job(order.first), board.job(order.then)];
    if (!first || !then) return;
    const ids = { first_id: first.set_up_id, then_id: then.set_up_id };
    const row = data.rows.find(
      (one) =>
        one.kind === "order" &&
        one.fields["first_id"] === ids.first_id &&
        one.fields["then_id"] === ids.then_id,
    );
    const waived = !order.waived;
    const label = `${waived ? "Waive" : "Keep"} the order of ${then.name} after ${first.name}`;
    void board.say(label, "order", row?.id ?? null, row ? { waived } : { ...ids, why: order.why, waived });
  }
  function put(date: string) {
    if (!job) return;
    const day = data.days.find((one) => one.date === date);
    const last = Math.max(8 * 60, ...(day?.slots.map((slot) => slot.end_min) ?? []));
    const start_min = booking ? booking.start_min : Math.ceil(last / 5) * 5;
    void board.book(`Put ${job.name} on ${day?.name ?? "a day"}`, { job: job.key, date, start_min });
  }
</script>

{#snippet broken(rules: typeof breaks)}
  {#each rules as one, number (number)}
    <p class="flex gap-1.5">
      <span class="mt-0.5"><Verdict verdict={one.warns ? "tight" : "shows"} label={false} /></span>
      <span class="text-pretty">{one.sentence}</span>
    </p>
  {/each}
{/snippet}

<aside
  class={[
    "grid h-[96px] shrink-0 grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_auto] gap-x-6 border-t border-line",
    "bg-panel px-3.5 py-2 max-lg:grid-cols-1 max-lg:overflow-y-auto",
  ]}
  aria-label="The job that is chosen"
>
  {#if job}
    <div class="min-w-0 overflow-y-auto">
      <h2 class="truncate"><span class="num font-normal">{job.shots.join(", ")}</span> {job.name}</h2>
      <p class="text-muted">
        {#if stands}{data.days.find((one) => one.date === stands.date)?.name},
          <span class="num">{clockOf(stands.start_min)}</span>;{/if}
        {spent}
      </p>
      <p class="text-muted">{wants.join("; ")}</p>
    </div>
    <div class="min-w-0 overflow-y-auto" aria-live="polite">
      {@render broken(breaks)}
      {#each guests as guest (guest.person)}<p class="text-pretty">{guest.sentence}</p>{/each}
      {#each before as order (order.first)}
        <p class="text-pretty">
          <span class="text-muted"
            >{order.waived ? "Waived: after" : order.straight ? "Straight after" : "After"}</span
          >
          {title(order.first)}<span class="text-muted">: {order.why}</span>
          {#if board.writes}<button
              class="link text-sm text-muted"
              aria-label={`${order.waived ? "Keep" : "Waive"} the order after ${title(order.first)}`}
              onclick={() => waive(order)}>{order.waived ? "keep it" : "waive"}</button
            >{/if}
        </p>
      {/each}
      {#each after as order (order.then)}
        <p class="text-pretty">
          <span class="text-muted">{order.straight ? "Straight before" : "Before"}</span>
          {title(order.then)}<span class="text-muted">: {order.why}</span>
        </p>
      {/each}
    </div>
    <div class="flex flex-col items-end gap-1.5">
      {#if board.writes && !job.filmed}
        <div class="flex gap-2">
          <Select
            class="field !w-36"
            label="On which day"
            placeholder="on no day"
            value={booking?.date ?? ""}
            options={places}
            onchange={put}
          />
          {#if booking}
            <button
              class="btn !border-line"
              aria-pressed={booking.locked}
              onclick={() =>
                board.book(
                  `${booking.locked ? "Unlock" : "Lock"} ${job.name}`,
                  { job: job.key, date: booking.date!, start_min: booking.start_min },
                  { locked: !booking.locked },
                )}>{booking.locked ? "Unlock" : "Lock"}<kbd class="ml-1">l</kbd></button
            >
            <button
              class="btn !border-line"
              onclick={() =>
                board.book(
                  `Take ${job.name} off the days`,
                  { job: job.key, date: "", start_min: 0 },
                  { locked: false },
                )}>Off the days</button
            >
          {/if}
        </div>
        {#if booking}<p class="text-sm text-muted">
            arrow keys: 5 min, with Shift half an hour; to the sides a day
          </p>{/if}
      {/if}
      <span class="flex gap-3">
        {#if board.writes && !job.filmed}<button
            class="link text-sm"
            aria-expanded={board.saying === job.key}
            onclick={() => (board.saying = board.saying === job.key ? null : job.key)}
            >Minutes, people, place</button
          >{/if}
        <button class="link text-sm" onclick={() => (board.selected = null)}>Close</button>
      </span>
    </div>
  {:else}
    <div class="col-span-full flex min-w-0 gap-x-6 overflow-y-auto">
      <div class="min-w-0 flex-1">
        <h2>{data.unplaced.length ? "On no day" : "Every job has its day"}</h2>
        {#if !data.unplaced.length}<p class="text-muted">
            {data.jobs.length ? TEACHES : "Every set-up is filmed."}
          </p>{/if}
        <ul class="mt-1 flex flex-wrap gap-1.5">
          {#each data.unplaced as key (key)}
            {@const one = board.job(key)}
            {#if one}
              <li><UnplacedJob {board} job={one} /></li>
            {/if}
          {/each}
        </ul>
      </div>
      {#if board.held}
        <div class="min-w-0 flex-1" aria-live="polite">
          <h2>
            {data.days.find((one) => one.date === board.held?.date)?.name},
            <span class="num">{clockOf(board.held.start_min)}</span>
          </h2>
          {@render broken(board.breaksOf(board.held.job))}
        </div>
      {:else if data.days.length && (!data.unplaced.length || !data.why.length)}<Outlook {board} />{/if}
      {#if data.why.length && !board.held}
        <div class="min-w-0 flex-1">
          <h2>Left out at the last planning</h2>
          {#each data.why as why, number (number)}<p class="text-pretty">{why}</p>{/each}
        </div>
      {/if}
    </div>
  {/if}
</aside>
