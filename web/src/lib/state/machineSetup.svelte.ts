import { type Answer, ask, client, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

type Written = Schemas['Written'];

/** All that can be changed on one machine, as the server last told it; every change loads it anew. */
export class MachineSetup {
  load = $state.raw<Load<Schemas['SetupOut']>>(PENDING);

  private turns = new Turns();

  constructor(readonly id: string) {}

  async refresh(): Promise<void> {
    const params = { path: { machine_id: this.id } };
    const answer = await this.turns.latest(ask(client.GET('/api/machines/{machine_id}/setup', { params })));
    if (answer) this.load = loaded(answer);
  }

  private get path() {
    return { path: { machine_id: this.id } };
  }

  private at(slot: string) {
    return { path: { machine_id: this.id, slot } };
  }

  private async change(
    request: Promise<{ data?: Written; error?: unknown; response: Response }>,
    text: string,
  ): Promise<boolean> {
    const ok = await house.record(request, text);
    if (!ok) return false;
    house.busy = true; // nothing is changed again before what it is now can be seen
    await this.refresh();
    house.busy = false;
    return true;
  }

  rename(name: string): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/name', { params: this.path, body: { name } });
    return this.change(request, `It is called ${name} now.`);
  }

  status(status: Schemas['StatusIn']['status'], keep: string[], text: string): Promise<boolean> {
    const body = { status, keep };
    return this.change(client.POST('/api/machines/{machine_id}/status', { params: this.path, body }), text);
  }

  school(slot: string, school: Schemas['School'] | null, text: string): Promise<boolean> {
    const body = { slot, school };
    return this.change(client.POST('/api/machines/{machine_id}/school', { params: this.path, body }), text);
  }

  /** How far it is cleaned, always; null: as its tasks fall due. */
  level(level: Schemas['LevelIn']['level'], text: string): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/level', { params: this.path, body: { level } });
    return this.change(request, text);
  }

  habit(extra: Schemas['ExtraOut'], kept: boolean): Promise<boolean> {
    const { slot, action } = extra;
    const body = { slot, action, kept };
    const request = client.POST('/api/machines/{machine_id}/habits', { params: this.path, body });
    const when = kept ? 'in every sitting that lays it open' : 'only when you choose it';
    return this.change(request, `${extra.slot_name}: ${when}.`);
  }

  feature(feature: Schemas['FeatureOut'], has: boolean): Promise<boolean> {
    const body = { feature: feature.key, has };
    const request = client.POST('/api/machines/{machine_id}/features', { params: this.path, body });
    return this.change(request, `${feature.question} ${has ? 'Yes' : 'No'}: its parts and tasks follow.`);
  }

  addPart(part: Schemas['PartIn']): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/parts', { params: this.path, body: part });
    return this.change(request, `${part.name} is one of its parts now.`);
  }

  removePart(part: { slot: string; name: string }): Promise<boolean> {
    const request = client.DELETE('/api/machines/{machine_id}/parts/{slot}', { params: this.at(part.slot) });
    return this.change(request, `${part.name} is off its list; its history stays.`);
  }

  bringBack(part: { slot: string; name: string }): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/parts/{slot}/back', {
      params: this.at(part.slot),
    });
    return this.change(request, `${part.name} is on its list again.`);
  }

  renamePart(slot: string, name: string | null): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/parts/{slot}/name', {
      params: this.at(slot),
      body: { name },
    });
    return this.change(
      request,
      name ? `The part is called ${name} now.` : 'The part has its usual name again.',
    );
  }

  place(slot: string, place: Schemas['PlaceIn'], text: string): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/parts/{slot}/place', {
      params: this.at(slot),
      body: place,
    });
    return this.change(request, text);
  }

  figure(slot: string, figure: Schemas['FigureIn'], text: string): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/parts/{slot}/figure', {
      params: this.at(slot),
      body: figure,
    });
    return this.change(request, text);
  }

  addSpare(slot: string, name: string): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/spares', {
      params: this.path,
      body: { slot, name },
    });
    return this.change(request, `${name} lies ready.`);
  }

  assign(item: { id: string; name: string }, to: Schemas['AssignIn'], text: string): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/assign', {
      params: { path: { item_id: item.id } },
      body: to,
    });
    return this.change(request, text);
  }

  /** Take a fitted part, or a dry one, into an empty slot of another machine. */
  move(item: { id: string; name: string }, to: Schemas['MoveIn'], text: string): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/move', {
      params: { path: { item_id: item.id } },
      body: to,
    });
    return this.change(request, text);
  }

  retire(item: { id: string; name: string }, reason: string): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/retire', {
      params: { path: { item_id: item.id } },
      body: { reason },
    });
    return this.change(request, `${item.name} is thrown away.`);
  }
}

export async function putAway(): Promise<Answer<Schemas['PutAwayOut'][]>> {
  return ask(client.GET('/api/machines'));
}
