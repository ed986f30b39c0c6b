<!-- Who is in the production, as what; and the invitations that are open. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { WayBack } from "../../lib/edit/back.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { undoes } from "../../lib/ui/keys";
  import { tip } from "../../lib/ui/tip.svelte";
  import { date } from "../../lib/ui/when";
  import Invite from "./Invite.svelte";
  import { ROLES } from "./roles";

  let { id, writes }: { id: number; writes: boolean } = $props();
  type Member = Schemas["MemberOut"];
  const asking = new Asking();
  let found = $state.raw<Schemas["PeopleOut"] | null>(null);
  let failed = $state<number | null>(null);
  let sure = $state<number | null>(null);
  let waiting = $state.raw<Member | null>(null);
  const path = $derived({ production_id: id });
  const back = new WayBack(asking, () => place.production, fresh);

  async function fresh() {
    found = await answered(client.GET("/api/productions/{production_id}/people", { params: { path } }));
  }
  whenOthersWrite(fresh, (told) => told.shot === null);
  void asking.read(async () => {
    await fresh();
    if (writes) await back.fill({ kinds: "membership,invitation" });
  });

  function change(member: Member, label: string, values: { role?: Member["role"]; removed?: boolean }) {
    failed = member.id;
    sure = null;
    return back.do(label, async (key) => {
      const version = found?.people.find((one) => one.id === member.id)?.version ?? member.version;
      const done = await answered(
        client.PATCH("/api/productions/{production_id}/people/{member_id}", {
          params: { path: { ...path, member_id: member.id } },
          headers: { "Idempotency-Key": key },
          body: { version, ...values },
        }),
      );
      if (values.removed && member.oneself) await place.left(id);
      else await fresh();
      return done;
    });
  }
  function withdraw(one: Schemas["InvitationRow"]) {
    failed = null;
    return back.do(`Withdraw the invitation for ${one.name}`, async (key) => {
      const done = await answered(
        client.DELETE("/api/productions/{production_id}/invitations/{invitation_id}", {
          params: { path: { ...path, invitation_id: one.id }, query: { version: one.version } },
          headers: { "Idempotency-Key": key },
        }),
      );
      await fresh();
      return done;
    });
  }
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void back.undo();
  }
</script>

<svelte:window onkeydown={pressed} />

<div class="max-w-4xl px-4 py-4">
  {#if asking.said && !found?.people.some((one) => one.id === failed)}
    <p role="alert" class="mb-3"><Refused {back} /></p>
  {/if}
  {#if found}
    <table class="w-full">
      <caption class="sr-only">People of the production</caption>
      <thead class="text-left text-sm text-muted">
        <tr
          ><th class="w-1/2 py-1 pr-3 font-normal">Name</th><th class="w-44 px-2 font-normal">Is here as</th>
          <th class="px-2 font-normal max-sm:hidden">Since</th>
          {#if writes}<th class="px-2 font-normal max-sm:hidden">Last signed in</th>{/if}
          <th class="w-24"><span class="sr-only">Out</span></th></tr
        >
      </thead>
      <tbody>
        {#each found.people as member (member.id)}
          <tr class="border-t border-line">
            <td class="max-w-0 truncate py-1.5 pr-3"
              >{member.name}
              <span class="text-muted"
                >{!member.here || member.name.toLowerCase() === member.username.toLowerCase()
                  ? ""
                  : member.username}{member.oneself ? " (you)" : ""}</span
              ></td
            >
            <td class="px-2">
              {#if writes}
                <Select
                  class="cell !px-0"
                  label={`Role of ${member.name}`}
                  value={member.role}
                  options={ROLES.map(([key, name]) => [key, name] as const)}
                  onchange={(role) =>
                    change(member, `${member.name} as ${role}`, { role: role as Member["role"] })}
                />
              {:else}{ROLES.find(([key]) => key === member.role)?.[1]}{/if}
            </td>
            <td class="num px-2 whitespace-nowrap text-muted max-sm:hidden">{date(member.since)}</td>
            {#if writes}<td class="num px-2 whitespace-nowrap text-muted max-sm:hidden"
                >{!member.here ? "no account yet" : member.last_seen ? date(member.last_seen) : "not yet"}</td
              >{/if}
            <td class="text-right whitespace-nowrap">
              {#if sure === member.id}
                <button
                  class="btn"
                  onclick={() => change(member, `Take ${member.name} out`, { removed: true })}
                  >{member.oneself ? "Leave" : "Take out"}</button
                >
                <button class="link text-sm text-muted" onclick={() => (sure = null)}>no</button>
              {:else if writes || member.oneself}
                {#if writes && !member.here}<button
                    class="link mr-2 text-sm"
                    aria-label={`Invite ${member.name}`}
                    {@attach tip(() => `${member.name} came in with the film's file`)}
                    onclick={() => (waiting = member)}>invite</button
                  >{/if}
                <button
                  class="link text-sm text-muted"
                  aria-label={member.oneself ? "Leave the production" : `Take out ${member.name}`}
                  onclick={() => (sure = member.id)}>{member.oneself ? "leave" : "take out"}</button
                >
              {/if}
            </td>
          </tr>
          {#if asking.said && failed === member.id}
            <tr><td colspan="5" class="pb-2"><p role="alert"><Refused {back} /></p></td></tr>
          {/if}
        {/each}
      </tbody>
    </table>
    <dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-4 text-sm text-muted">
      {#each ROLES as [key, name, means] (key)}<dt>{name}</dt>
        <dd>{means}</dd>{/each}
    </dl>
    {#if writes}
      <div class="mt-5 border-t border-line pt-4">
        <div class="flex items-center gap-3">
          <h2>Invitations</h2>
          <button
            class="btn ml-auto !border-line"
            disabled={!back.can}
            {@attach tip(() => back.label)}
            onclick={() => back.undo()}>Undo</button
          >
        </div>
        {#each found.invitations as one (one.id)}
          <p class="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5">
            <span>{one.name}</span>
            <span class="text-muted"
              >{ROLES.find(([key]) => key === one.role)?.[1]}, until {date(one.expires_at)}, by {one.by}</span
            >
            <button class="link ml-auto text-sm text-muted" onclick={() => withdraw(one)}
              >withdraw<span class="sr-only"> the invitation for {one.name}</span></button
            >
          </p>
        {:else}
          <p class="py-1.5 text-muted">
            None is open. An invitation is an address and a code to photograph: it lets one person in, once,
            as what you say.
          </p>
        {/each}
        <Invite
          {id}
          version={() => found?.version ?? 0}
          {back}
          whom={waiting}
          onmade={async () => {
            waiting = null;
            await fresh();
          }}
        />
      </div>
    {/if}
  {:else if !asking.said}<p class="text-muted">Reading who is here…</p>{/if}
</div>
