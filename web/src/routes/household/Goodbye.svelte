<!-- Asked before somebody leaves a household. -->
<script lang="ts">
  import type { PeopleState, Person } from '../../lib/state/people.svelte';
  import Modal from '../../lib/ui/Modal.svelte';

  let { people, person, onclose }: { people: PeopleState; person: Person; onclose: () => void } = $props();

  async function leave() {
    await people.leave(person);
    onclose();
  }
</script>

<Modal title={person.me ? 'Leave this household?' : `Does ${person.name} leave?`} {onclose}>
  <p>
    {person.me ? 'You see' : `${person.name} sees`} nothing of it any more. What was recorded stays, under the name.
    An owner can invite {person.me ? 'you' : 'them'} again.
  </p>
  <div class="mt-4 flex justify-end gap-2">
    <button class="btn btn-ghost" onclick={onclose}>Stay</button>
    <button class="btn btn-primary" disabled={people.busy} onclick={() => void leave()}
      >{person.me ? 'Leave' : `${person.name} leaves`}</button
    >
  </div>
</Modal>
