<!-- The frame around everything: one line with the phases in working order, find, and the person. -->
<script lang="ts">
  import { tip } from "./tip.svelte";
  import { Dialog, DropdownMenu } from "bits-ui";
  import { push, router } from "svelte-spa-router";
  import type { Snippet } from "svelte";
  import { along } from "../offline/along.svelte";
  import { installed } from "../offline/installed.svelte";
  import Choice from "./Choice.svelte";
  import Connection from "./Connection.svelte";
  import Find from "./Find.svelte";
  import { letter } from "./keys";
  import UnitsChoice from "./UnitsChoice.svelte";
  import { place } from "../place.svelte";
  import { session } from "../session.svelte";
  import { stream, whenOthersWrite } from "../events/told.svelte";

  let { children }: { children: Snippet } = $props();
  let finding = $state(false);
  let helping = $state(false);
  let sheet = $state(false);
  let going = $state(false);

  const BROKEN_DOWN = /^\/($|places|sets|figures|history|shots\/\d+\/plan)/;
  const LOGGED = /\/log$|^\/cards/;
  const ITEM = [
    "flex min-h-7 w-full cursor-pointer items-center gap-2 px-3 text-left",
    "data-highlighted:bg-ink data-highlighted:text-ground pointer-coarse:min-h-11",
  ].join(" ");
  const open = $derived(place.productions?.find((one) => one.id === place.production));
  const away = $derived(
    (place.productions ?? []).filter((one) => one.put_away && one.id !== place.production),
  );
  // which productions there are is asked for on every page, also where no shot is wanted
  $effect(() => {
    if (session.person && !place.productions) place.choose().catch(() => undefined);
  });
  function go(production: number) {
    place.open(production);
    if (router.location === "/") place.readShots(session).catch(() => undefined);
    else if (!router.location.startsWith("/production")) void push("/");
  }
  const shot = $derived(place.shot);
  // These ask for no shots of their own, and yet Bench and Log must lead somewhere from there.
  const WITHOUT_SHOTS = /^\/(pocket|kit|frames|production|settings|telephone|days|cards)/;
  $effect(() => {
    if (WITHOUT_SHOTS.test(router.location) && session.person && !shot && !place.shots)
      place.readShots(session).catch(() => undefined);
  });
  $effect(() => stream.follow(session.events, place.production));
  $effect(() => {
    const { person } = session;
    if (person && place.production && installed.ready) return along.keepUp(person);
  });
  whenOthersWrite(
    () => place.readProductions(), // what is added says which version of the production was seen
    (told) => told.shot === null,
  );
  const phases = $derived([
    { key: "b", name: "Break down", to: "/", here: BROKEN_DOWN.test(router.location) },
    {
      key: "e",
      name: "Bench",
      to: shot ? `/shots/${shot}/bench` : "",
      here: router.location.endsWith("/bench"),
    },
    { key: "d", name: "Days", to: "/days", here: router.location.startsWith("/days") },
    { key: "l", name: "Log", to: shot ? `/shots/${shot}/log` : "", here: LOGGED.test(router.location) },
    {
      key: "r",
      name: "Rushes",
      to: shot ? `/shots/${shot}/rushes` : "",
      here: /\/rushes(\/|$)/.test(router.location),
    },
    { key: "h", name: "Hand over", to: "/hand-over", here: router.location === "/hand-over" },
  ]);
  const tools = $derived([
    { key: "f", name: "Frames", to: "/frames", here: router.location.startsWith("/frames") },
    { key: "k", name: "Kit", to: "/kit", here: router.location === "/kit" },
    { key: "p", name: "Pocket", to: "/pocket", here: router.location.startsWith("/pocket") },
  ]);
  const everywhere = $derived([...phases, ...tools]);
  const sheetOrder = $derived(
    [...everywhere].sort((a, b) => Number(b.name === "Log") - Number(a.name === "Log")),
  );

  function pressed(event: KeyboardEvent) {
    const key = letter(event);
    if (!key) return;
    if (going) {
      going = false;
      const phase = everywhere.find((one) => one.key === key);
      if (phase?.to) {
        event.preventDefault();
        void push(phase.to);
      }
    } else if (key === "g") going = true;
    else if (key === "/") {
      event.preventDefault();
      finding = true;
    } else if (key === "?") helping = true;
  }

  const shortcuts = [
    [
      "g then b, e, d, l, r, h, f, k, p",
      "go to Break down, Bench, Days, Log, Rushes, Hand over, Frames, Kit, Pocket",
    ],
    ["/", "find a shot"],
    ["s", "solve the selected layer; in Days: plan"],
    ["n", "a new layer; on the wall: add shots"],
    ["f · v", "on the wall: filter; wall or list"],
    ["r · x · 1 … 7", "on a board: choose a recipe; clean; draw a line"],
    ["e", "lay the shot on the Bench"],
    ["1 … 6", "the panels of the Bench, in order"],
    ["c", "what the other school says"],
    ["f", "before and after the finish"],
    ["t", "log a take"],
    ["l", "what the layer looks like"],
    ["w", "why: open or close the numbers of the opened item"],
    ["m", "judge as planned or as shot"],
    ["Ctrl Z · Ctrl Shift Z", "undo · redo"],
    ["arrow keys", "turn a barrel by a third, with Shift by a whole; move what is drawn"],
    ["arrows · Shift", "in Rushes: a frame; ten"],
    ["a · z", "in Rushes: the frames that count begin here; end here"],
    ["Space", "in Rushes: play, and stop"],
    ["t or Enter · a", "at the desk: take the next frame; the last, or the one looked at, again"],
    ["← · → · Space", "at the desk: a frame back, on (⇧ chooses lines); play the last seconds"],
    ["o · v held · r", "at the desk: onion skin; the block's first frame; the rig was turned"],
    ["p", "at the desk: the paths of the figure's points over the picture"],
    ["Esc", "drop what is being tried"],
    ["?", "this list"],
  ];
</script>

<svelte:window onkeydown={pressed} />

<div class="flex h-full flex-col">
  <header class="flex h-[38px] shrink-0 items-stretch border-b border-line px-3.5 print:hidden">
    <a href="#/" class="mr-4 self-center text-lg font-strong max-sm:mr-3">Jungoptic</a>
    {#if place.productions}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          class={[
            "mr-5 flex max-w-48 cursor-pointer items-center gap-1 text-muted hover:text-ink",
            "max-sm:mr-0 max-sm:max-w-16",
          ]}
          aria-label={`Production: ${open?.title ?? "No production"}`}
          ><span class="truncate">{open?.title ?? "No production"}</span>
          <span aria-hidden="true">▾</span></DropdownMenu.Trigger
        >
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            class="z-50 max-h-[80vh] w-72 max-w-[92vw] overflow-y-auto border border-ink bg-raised py-1"
          >
            {#each place.current as one (one.id)}
              <DropdownMenu.Item
                class={[ITEM, one.id === place.production && "font-strong"]}
                onSelect={() => go(one.id)}
              >
                <span class="min-w-0 flex-1 truncate">{one.title}</span>
                <span class="num text-sm opacity-75">{one.shots}</span>
              </DropdownMenu.Item>
            {/each}
            {#if place.current.length}<DropdownMenu.Separator class="my-1 border-t border-line" />{/if}
            {#if open}
              <DropdownMenu.Item class={ITEM} onSelect={() => push("/production/film")}
                >The film</DropdownMenu.Item
              >
              <DropdownMenu.Item class={ITEM} onSelect={() => push("/production/people")}
                >People</DropdownMenu.Item
              >
              <DropdownMenu.Item class={ITEM} onSelect={() => push("/production/judging")}
                >Judging</DropdownMenu.Item
              >
            {/if}
            <DropdownMenu.Item class={ITEM} onSelect={() => push("/begin")}
              >Begin a film of my own</DropdownMenu.Item
            >
            {#each away as one (one.id)}
              <DropdownMenu.Item class={ITEM} onSelect={() => go(one.id)}>
                <span class="min-w-0 flex-1 truncate">{one.title}</span>
                <span class="text-sm opacity-75">put away</span>
              </DropdownMenu.Item>
            {/each}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    {/if}
    <nav aria-label="Phases" class="hidden items-stretch sm:flex">
      {#each phases as phase (phase.name)}
        {#if phase.to}
          <a
            href={`#${phase.to}`}
            aria-current={phase.here ? "page" : undefined}
            class={[
              "flex items-center px-2.5",
              phase.here ? "bg-ink font-strong text-ground" : "text-muted hover:text-ink",
            ]}>{phase.name}</a
          >
        {:else}
          <span
            class="flex items-center px-2.5 text-muted"
            aria-disabled="true"
            {@attach tip(() => "Open a shot first")}>{phase.name}</span
          >
        {/if}
      {/each}
    </nav>
    <button
      class="self-center px-1.5 py-2 whitespace-nowrap sm:hidden"
      onclick={() => (sheet = true)}
      aria-haspopup="dialog"
    >
      {everywhere.find((one) => one.here)?.name ?? "Go to"} <span aria-hidden="true">▾</span>
    </button>
    <div class="ml-auto flex items-center gap-3">
      {#each tools as tool (tool.name)}
        <a
          href={`#${tool.to}`}
          aria-current={tool.here ? "page" : undefined}
          class={[
            "max-sm:hidden",
            tool.here ? "font-strong underline underline-offset-4" : "text-muted hover:text-ink",
          ]}>{tool.name}</a
        >
      {/each}
      <button
        class={[
          "flex h-6 w-28 cursor-pointer items-center justify-between border border-line px-2 text-muted",
          "hover:text-ink max-sm:h-9 max-sm:w-auto",
        ]}
        onclick={() => (finding = true)}
      >
        Find <span class="key max-sm:hidden">/</span>
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          class="max-w-40 cursor-pointer truncate py-2 text-muted hover:text-ink max-sm:max-w-16"
          >{session.person?.name} ▾</DropdownMenu.Trigger
        >
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            class="z-50 grid w-64 gap-3 border border-ink bg-raised p-3"
          >
            <div class="flex items-center justify-between gap-3">
              Theme
              <Choice
                label="Theme"
                value={session.person?.theme ?? "stage"}
                options={[
                  ["stage", "Stage"],
                  ["daylight", "Daylight"],
                ]}
                onchange={(theme) => session.prefer({ theme })}
              />
            </div>
            <div class="flex items-center justify-between gap-3">
              Units
              <UnitsChoice />
            </div>
            <DropdownMenu.Item class="link cursor-pointer" onSelect={() => push("/telephone")}
              >Telephone</DropdownMenu.Item
            >
            <DropdownMenu.Item class="link cursor-pointer" onSelect={() => push("/kept")}
              >What this device has</DropdownMenu.Item
            >
            <DropdownMenu.Item class="link cursor-pointer" onSelect={() => push("/settings")}
              >Settings</DropdownMenu.Item
            >
            <DropdownMenu.Item class="link cursor-pointer" onSelect={() => (helping = true)}
              >Keys and shortcuts</DropdownMenu.Item
            >
            <DropdownMenu.Item class="link cursor-pointer" onSelect={() => session.signOut()}
              >Sign out</DropdownMenu.Item
            >
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  </header>
  {#if session.lost}
    <div class="shrink-0 border-b border-ink bg-raised px-3.5 py-2" role="alert">
      {session.lost} What you wrote is kept here.
      <button class="btn ml-3" onclick={() => session.leave()}>Sign in</button>
    </div>
  {/if}
  <Connection />
  <div class="min-h-0 flex-1">{@render children()}</div>
</div>

<Find bind:open={finding} />

<Dialog.Root bind:open={helping}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed top-1/2 left-1/2 z-50 w-[min(32rem,92vw)] -translate-x-1/2 -translate-y-1/2 border",
        "border-ink bg-raised p-5",
      ]}
    >
      <Dialog.Title class="mb-3 text-lg font-strong">Keys</Dialog.Title>
      <dl class="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {#each shortcuts as [keys, meaning] (keys)}<dt class="num">{keys}</dt>
          <dd>{meaning}</dd>{/each}
      </dl>
      <p class="mt-4 text-muted">
        Letters never act while something is being typed; they can be switched off in your settings.
      </p>
      <Dialog.Close class="btn mt-4">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<Dialog.Root bind:open={sheet}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content class="fixed inset-x-0 bottom-0 z-50 border-t border-ink bg-raised p-3 pb-8">
      <Dialog.Title class="sr-only">Go to</Dialog.Title>
      {#each sheetOrder as phase (phase.name)}
        <button
          class={[
            "flex min-h-14 w-full items-center px-3 text-lg",
            phase.here ? "bg-ink font-strong text-ground" : "",
          ]}
          disabled={!phase.to}
          onclick={() => {
            sheet = false;
            void push(phase.to);
          }}>{phase.name}</button
        >
      {/each}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
