import { ask, client, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

type Item = { id: string; name: string };
export type Hanging = Schemas['HangingIn'];

/** All that dries, with its reasons. */
export class RackState {
  load = $state.raw<Load<Schemas['RackPageOut']>>(PENDING);
  private turns = new Turns();

  async refresh(): Promise<void> {
    const answer = await this.turns.latest(ask(client.GET('/api/rack')));
    if (answer) this.load = loaded(answer);
  }

  async hang(item: Item, hanging: Hanging): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/hang', {
      params: { path: { item_id: item.id } },
      body: hanging,
    });
    return this.after(
      house.record(request, `${item.name} hangs in: ${hanging.place ?? 'a place not told'}.`),
    );
  }

  async weigh(item: Item, weight: Schemas['WeighIn'], text: string): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/weights', {
      params: { path: { item_id: item.id } },
      body: weight,
    });
    return this.after(house.record(request, text));
  }

  /** After a refusal the rack may be another than shown; what was recorded, or undone, its screen follows by itself. */
  async after(recorded: Promise<boolean>): Promise<boolean> {
    const done = await recorded;
    if (!done) await this.refresh();
    return done;
  }
}

/** When a part would be ready in each place, hung up now; null where that cannot be told. */
export async function placesFor(
  item_id: string,
  pressed: boolean,
  moving: boolean,
  action: Schemas['Action'] | null = null,
) {
  const answer = await ask(
    client.GET('/api/items/{item_id}/places', {
      params: { path: { item_id }, query: { pressed, moving, action } },
    }),
  );
  return answer.ok ? answer.data : null;
}
