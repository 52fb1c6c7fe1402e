import { ask, client, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

/** The notes and photos of one machine. */
export class NotesState {
  load = $state.raw<Load<Schemas['NoteOut'][]>>(PENDING);

  private turns = new Turns();

  constructor(readonly machine_id: string) {}

  async refresh(): Promise<void> {
    const params = { path: { machine_id: this.machine_id } };
    const answer = await this.turns.latest(ask(client.GET('/api/machines/{machine_id}/notes', { params })));
    if (answer) this.load = loaded(answer.ok ? { ok: true, data: answer.data.notes } : answer);
  }

  async add(slot: string, text: string, picture: File | null): Promise<boolean> {
    const form = new FormData();
    form.set('slot', slot);
    form.set('text', text);
    if (picture) form.set('picture', picture);
    const request = client.POST('/api/machines/{machine_id}/notes', {
      params: { path: { machine_id: this.machine_id } },
      body: form as never,
      bodySerializer: () => form,
    });
    const ok = await house.record(request, picture ? 'The photo is kept.' : 'The note is kept.');
    if (ok) await this.refresh();
    return ok;
  }

  async remove(note: Schemas['NoteOut']): Promise<void> {
    await house.undo(note.entry_id);
    await this.refresh();
  }
}

/** The address of a note's picture. */
export const pictureOf = (note: Schemas['NoteOut']): string => `/api/notes/${note.entry_id}/picture`;
