<!-- How a telephone or a second laptop comes here: the certificate first, then the address. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";

  const asking = new Asking();
  let joining = $state.raw<Schemas["JoiningOut"] | null>(null);
  let code = $state("");
  const alone = ["127.0.0.1", "localhost", "[::1]"].includes(window.location.hostname);
  const origin = window.location.origin;

  async function read() {
    await asking.read(async () => {
      joining = await answered(client.GET("/api/joining"));
      if (joining.code) code = joining.code;
      else if (!alone) code = (await answered(client.POST("/api/qr", { body: { text: origin } }))).svg;
    });
  }
  void read();
</script>

<svelte:head><title>Telephone · Jungoptic</title></svelte:head>

{#snippet drawn(what: string)}
  <div class="size-56 shrink-0 bg-white [&>svg]:size-full" role="img" aria-label={`Code of ${what}`}>
    <!-- eslint-disable-next-line svelte/no-at-html-tags -- drawn by our own server from the address -->
    {@html code}
  </div>
{/snippet}

<main class="h-full overflow-y-auto">
  <div class="max-w-3xl px-4 py-5">
    <h1 class="text-lg">A telephone or a second laptop</h1>
    {#if asking.said}
      <p role="alert" class="mt-3">
        {asking.said} <button class="link" onclick={read}>Try again</button>
      </p>
    {:else if joining?.guide}
      <p class="mt-1 max-w-prose text-muted">
        On the same network as this machine. Everybody needs an account: invite them under
        <a class="link" href="#/production/people">People</a>.
      </p>
      <div class="mt-5 flex flex-wrap gap-6">
        {@render drawn(joining.guide)}
        <ol class="min-w-64 flex-1 list-decimal space-y-3 pl-5">
          <li>
            Photograph the code, or open
            <b class="num whitespace-nowrap">{joining.guide}</b>
            on the device. Get the certificate there and trust it, as the page says: once for each device.
          </li>
          <li>Open <b class="num whitespace-nowrap">{joining.address}</b> and sign in.</li>
        </ol>
      </div>
      <div class="mt-6 max-w-prose border-t border-line pt-4">
        <p>
          Without the certificate the browser warns at every visit and keeps nothing safe: the Log cannot be
          relied upon without a connection. Do not log takes like that.
        </p>
        <p class="mt-3 text-muted">The device shows this sum of the certificate, SHA-256:</p>
        <p class="num mt-1 text-sm">{joining.fingerprint}</p>
      </div>
    {:else if joining && alone}
      <p class="mt-2 max-w-prose">
        Jungoptic serves this machine only, as it was started. To let others on the same network in, stop it
        and start it with <code class="num bg-raised px-1.5 py-0.5 whitespace-nowrap">./run start --lan</code>
      </p>
      <p class="mt-3 max-w-prose text-muted">
        It then speaks TLS by a certificate authority of its own, and this page shows the address, a code to
        photograph, and how a device comes to trust it. On the open internet it belongs behind a reverse
        proxy: see docs/deploy.md.
      </p>
    {:else if joining && code}
      <p class="mt-1 max-w-prose text-muted">
        Everybody needs an account: invite them under <a class="link" href="#/production/people">People</a>.
      </p>
      <div class="mt-5 flex flex-wrap gap-6">
        {@render drawn(origin)}
        <p class="min-w-64 flex-1">
          Photograph the code, or open <b class="num break-all">{origin}</b> on the device, and sign in.
        </p>
      </div>
    {:else}<p class="mt-2 text-muted">Reading the address…</p>{/if}
  </div>
</main>
