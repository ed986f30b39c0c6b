<!-- What is said of a job in place of what follows from the shot, and what it comes after. -->
<script lang="ts">
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { type DaysBoard, type Job } from "./days.svelte";

  let { board, job, onclose }: { board: DaysBoard; job: Job; onclose: () => void } = $props();
  const data = $derived(board.data!);
  const said = $derived(data.rows.find((row) => row.kind === "job" && row.id === job.said)?.fields ?? {});
  const people = $derived(data.rows.filter((row) => row.kind === "person").map((row) => row.name));
  const windows = $derived(data.rows.filter((row) => row.kind === "condition").map((row) => row.name));
  const places = $derived(data.places.map((own) => [String(own.id), own.name] as const));
  const place = $derived(data.places.find((own) => own.name === job.place));
  const others = $derived(
    data.jobs
      .filter((own) => own.set_up_id !== job.set_up_id && !own.filmed)
      .map((own) => [String(own.set_up_id), `${own.shots[0]} ${own.name}`] as const),
  );
  /** In blocks only the whole has minutes of its own. */
  const fields = $derived(data.fields["job"]!.filter((field) => !job.block || !field.name.endsWith("_min")));
  let wrong = $state("");

  async function say(what: string, changed: Record<string, unknown>) {
    wrong = "";
    const all = job.said ? changed : { set_up_id: job.set_up_id, ...changed };
    const done = await board.say(`${what} of ${job.name}`, "job", job.said, all);
    if (!done) wrong = board.asking.said;
    return Boolean(done);
  }
  function toggle(what: string, name: string, from: string[], one: string) {
    return say(what, { [name]: from.includes(one) ? from.filter((own) => own !== one) : [...from, one] });
  }
  async function comesAfter(id: string) {
    wrong = "";
    const fields = { first_id: Number(id), then_id: job.set_up_id };
    if (!(await board.say(`${job.name} comes after`, "order", null, fields))) wrong = board.asking.said;
  }
  const outdoors = [
    ["", "as it follows"],
    ["yes", "outdoors"],
    ["no", "indoors"],
  ] as const;
  const outside = $derived(said["outdoors"] === true ? "yes" : said["outdoors"] === false ? "no" : "");
  const hours = $derived([
    ["", "as it follows"],
    ...data.lights.map((own) => [own.key, own.title] as const),
  ] as const);
</script>

{#snippet names(title: string, name: string, every: string[], chosen: string[])}
  {#if every.length}
    <div class="mt-2">
      <span class="text-muted">{title}</span>
      <div class="mt-0.5 flex flex-wrap gap-1" role="group" aria-label={title}>
        {#each every as one (one)}
          <button
            class={[
              "min-h-[26px] cursor-pointer border px-1.5 pointer-coarse:min-h-11",
              chosen.includes(one) ? "border-ink bg-ink text-ground" : "border-line text-muted",
            ]}
            aria-pressed={chosen.includes(one)}
            disabled={!board.writes}
            onclick={() => toggle(title, name, chosen, one)}>{one}</button
          >
        {/each}
      </div>
    </div>
  {/if}
{/snippet}

<section
  class="max-h-[60%] shrink-0 overflow-y-auto border-b border-line bg-panel px-3.5 py-3"
  aria-label="What is said of a job"
>
  <div class="flex items-baseline gap-4">
    <h2 class="mr-auto"><span class="num font-normal">{job.shots.join(", ")}</span> {job.name}</h2>
    {#if job.said && board.writes}<button class="link" onclick={() => say("As it follows", { removed: true })}
        >As it follows from the shot</button
      >{/if}
    <button class="link" onclick={onclose}>Close</button>
  </div>
  <div class="mt-1 grid gap-x-8 lg:grid-cols-2">
    <div>
      {#each fields as field (field.name)}
        <FieldRow
          {field}
          units="metric"
          value={said[field.name] ?? job[field.name as keyof Job] ?? null}
          disabled={!board.writes}
          problem={board.asking.at(field.name)}
          onset={(value) => say(field.title, { [field.name]: value })}
        />
      {/each}
    </div>
    <div>
      <div class="flex flex-wrap items-end gap-3">
        <div>
          <span class="text-muted">Where</span>
          <Select
            class="field !w-40"
            label="Where"
            placeholder={job.place}
            value={place ? String(place.id) : ""}
            options={places}
            disabled={!board.writes}
            onchange={(id) => say("Place", { place_id: Number(id) })}
          />
        </div>
        <div>
          <span class="text-muted">In or out</span>
          <Select
            class="field !w-32"
            label="In or out"
            value={outside}
            options={outdoors}
            disabled={!board.writes}
            onchange={(value) => say("In or out", { outdoors: value ? value === "yes" : null })}
          />
        </div>
        <div>
          <span class="text-muted">Light wanted</span>
          <Select
            class="field !w-36"
            label="Light wanted"
            value={String(said["hour"] ?? "")}
            options={hours}
            disabled={!board.writes}
            onchange={(hour) => say("Light", { hour })}
          />
        </div>
      </div>
      {@render names("Who is needed", "people", people, job.people)}
      {@render names("Needs", "needs", windows, job.needs)}
      {@render names("Keeps clear of", "clear_of", windows, job.clear_of)}
      {#if board.writes && others.length}
        <div class="mt-2">
          <span class="text-muted">Comes after another job as well</span>
          <Select
            class="field !w-64"
            label="Comes after another job as well"
            placeholder="choose one"
            value=""
            options={others}
            onchange={comesAfter}
          />
        </div>
      {/if}
      {#if wrong}<p role="alert" class="mt-1">{wrong}</p>{/if}
    </div>
  </div>
</section>
