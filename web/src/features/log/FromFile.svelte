<!-- What the file of a take says of itself, beside what was logged. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  let { files }: { files: readonly Schemas["FromFileOut"][] } = $props();
</script>

{#each files as file (file.recording_id)}
  <div class="mt-1 flex gap-2.5">
    {#if file.picture}<img src={file.picture} alt="" class="mt-0.5 h-10 w-18 bg-panel object-contain" />{/if}
    <p class="min-w-0">
      File <b class="num">{file.name}</b>
      <span class="text-muted">of {file.card}{file.copied_to ? ", copied" : ", not copied yet"}</span>
      {#if file.differs.length}<br />It says {#each file.differs as one, i (one.field)}{i
            ? ", "
            : ""}{one.label.toLowerCase()} <b class="num">{one.after}</b>
          <span class="text-muted">(logged {one.before})</span>{/each}.
      {:else}<br /><span class="num text-muted">{[file.recorded, ...file.settings].join(" · ")}</span>{/if}
    </p>
  </div>
{/each}
