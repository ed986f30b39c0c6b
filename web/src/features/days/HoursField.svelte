<!-- Hours typed in words, with what is wrong said beneath. -->
<script lang="ts">
  import { hoursOf, hoursText, type Hours } from "./hours";

  let {
    label,
    hours,
    empty,
    disabled = false,
    onset,
  }: {
    label: string;
    hours: Hours[];
    /** What it means when nothing is typed. */
    empty: string;
    disabled?: boolean;
    onset: (hours: Hours[]) => Promise<unknown>;
  } = $props();
  let wrong = $state("");
  const HOW = "Hours are typed like “sat sun 8 to 18; 2027-10-24 10:00 to 14:00”.";

  async function enter(event: Event) {
    const { value } = event.currentTarget as HTMLInputElement;
    const typed = hoursOf(value);
    wrong = typed ? "" : HOW;
    if (typed && hoursText(typed) !== hoursText(hours)) await onset(typed);
  }
</script>

<div class="min-w-0 flex-1">
  <input
    class="field num"
    aria-label={label}
    value={hoursText(hours)}
    placeholder={empty}
    {disabled}
    onchange={enter}
  />
  {#if wrong}<span role="alert" class="block">{wrong}</span>{/if}
</div>
