import { v4 as uuid } from 'uuid';

import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { askOrKept } from './kept';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';

export type Kind = Schemas['SparePartOut'];
export type Ways = Schemas['WaysOut'];
type Shelf = Schemas['ShelfOut'];
type Written = Schemas['WrittenOut'];

/** Spans of time that one buys for [days]. */
export const HORIZONS = [30, 90, 365, 730];

/** Shares of the parts bought that may be left unused [-]: none, about a third, any. */
export const WASTES = [0, 0.34, 1];

/** The shelf as the server last told it. Every write answers with it, and offers to undo. */
export class ShelfState {
  load = $state.raw<Load<Shelf>>(PENDING);
  ways = $state.raw<Load<Ways>>(PENDING);
  /** When what is shown was got, where nothing is reached now. */
  since = $state<string | null>(null);
  horizon = $state(90);
  /** Share of the parts bought that may be left unused. */
  waste = $state(WASTES[1]);
  busy = $state(false);
  /** What to buy was asked for. */
  asked = $state(false);
  /** Ways are being compared, again or for something else than those compared before, which keep their place so that
   * nothing below them moves. */
  comparing = $state<'again' | 'otherwise' | null>(null);
  /** What is wrong with a price list, to be shown line by line. */
  badList = $state.raw<Problem | null>(null);
  private turns = new Turns();
  private wayTurns = new Turns();
  shelf = $derived(this.load.status === 'ok' ? this.load.data : null);

  async refresh(): Promise<void> {
    const seen = await this.turns.latest(askOrKept('shelf', client.GET('/api/shelf')));
    if (seen) [this.load, this.since] = [loaded(seen.answer), seen.since];
  }

  /** What to buy for a span of time. */
  async findWays(horizon = this.horizon, waste = this.waste): Promise<void> {
    const otherwise = this.comparing === 'otherwise' || horizon !== this.horizon || waste !== this.waste;
    this.comparing = otherwise ? 'otherwise' : 'again';
    [this.horizon, this.waste, this.asked] = [horizon, waste, true];
    const request = client.GET('/api/shelf/ways', { params: { query: { horizon, waste } } });
    const seen = await this.wayTurns.latest(askOrKept(`ways ${horizon} ${waste}`, request));
    if (seen) [this.ways, this.since, this.comparing] = [loaded(seen.answer), seen.since, null];
  }

  propose(): Promise<boolean> {
    return this.record(client.POST('/api/shelf/propose'), 'Kept: every part that wears by use or date.');
  }

  keep(part: Schemas['SparePartIn'], id: string = uuid()): Promise<boolean> {
    const params = { path: { spare_id: id } };
    return this.record(
      client.PUT('/api/shelf/kinds/{spare_id}', { params, body: part }),
      `${part.name} is kept.`,
    );
  }

  drop(kind: Kind): Promise<boolean> {
    const params = { path: { spare_id: kind.id } };
    return this.record(
      client.DELETE('/api/shelf/kinds/{spare_id}', { params }),
      `${kind.name} is no longer kept.`,
    );
  }

  count(kind: Kind, on_hand: number): Promise<boolean> {
    const params = { path: { spare_id: kind.id } };
    return this.record(
      client.POST('/api/shelf/kinds/{spare_id}/count', { params, body: { on_hand } }),
      `${kind.name}: ${on_hand} on the shelf.`,
    );
  }

  turn(kind: Kind, place: Schemas['PartPlaceOut'], name: string): Promise<boolean> {
    const params = { path: { spare_id: kind.id } };
    const body = { place: { machine_id: place.machine_id, slot: place.slot }, name };
    return this.record(
      client.POST('/api/shelf/kinds/{spare_id}/turn', { params, body }),
      `${name} takes turns with ${place.item_name} from now on.`,
    );
  }

  order(lines: Schemas['LineIn'][]): Promise<boolean> {
    return this.record(client.POST('/api/shelf/orders', { body: { lines } }), 'Noted as ordered.');
  }

  /** All that was missing came today, or what `body` tells. */
  arrived(
    order: Schemas['OrderOut'],
    body: Schemas['ArrivedIn'] = { rest_comes: true },
    text = 'It came: all of it is on the shelf.',
  ): Promise<boolean> {
    const params = { path: { order_id: order.id } };
    return this.record(client.POST('/api/shelf/orders/{order_id}/arrived', { params, body }), text);
  }

  /** What is missing of an order is given up. */
  restNotComing(order: Schemas['OrderOut']): Promise<boolean> {
    return this.arrived(order, { came: [], rest_comes: false }, 'Given up: the rest does not come.');
  }

  /** An order is called off by undoing it. */
  async callOff(order: Schemas['OrderOut']): Promise<void> {
    await this.undo(order.id);
  }

  async takeList(file: File, of: { supplier: string; currency: string; delivery: string }): Promise<boolean> {
    const body = await file.arrayBuffer();
    const request = client.POST('/api/shelf/prices', {
      params: { query: of },
      body: body as never,
      bodySerializer: () => body,
      headers: { 'Content-Type': 'text/csv' },
    });
    return this.record(request, `The list of ${of.supplier} is in use.`, true);
  }

  askShop(): Promise<boolean> {
    return this.record(client.POST('/api/shelf/prices/ask'), 'The shop’s list of today is in use.', true);
  }

  dropList(supplier: string): Promise<boolean> {
    const params = { query: { supplier } };
    return this.record(
      client.DELETE('/api/shelf/prices', { params }),
      `The list of ${supplier} is no longer used.`,
    );
  }

  /** What came in and went out of a kind of part, newest first. */
  async movesOf(kind: Kind): Promise<Load<Schemas['StockMovedOut'][]>> {
    const params = { path: { spare_id: kind.id } };
    return loaded(await ask(client.GET('/api/shelf/kinds/{spare_id}/moves', { params })));
  }

  /** Some came from elsewhere, or are gone. */
  move(kind: Kind, move: Schemas['StockMoveIn']): Promise<boolean> {
    const params = { path: { spare_id: kind.id } };
    return this.record(
      client.POST('/api/shelf/kinds/{spare_id}/moves', { params, body: move }),
      `${kind.name}: ${move.count} ${move.why === 'gone' ? 'gone' : 'more'}.`,
    );
  }

  private async undo(entry_id: string): Promise<void> {
    await house.undo(entry_id);
    await this.refresh();
    if (this.asked) await this.findWays();
  }

  private async record(
    request: Parameters<typeof ask<Written>>[0],
    text: string,
    list = false,
  ): Promise<boolean> {
    this.busy = true;
    const answer: Answer<Written> = await ask(request);
    this.busy = false;
    if (list) this.badList = null;
    if (!answer.ok) {
      if (list) this.badList = answer.problem;
      else notice.refused(answer.problem);
      return false;
    }
    this.turns.recorded();
    [this.load, this.since] = [{ status: 'ok', data: answer.data.shelf }, null];
    const entry_id = answer.data.entry_id;
    notice.done(text, entry_id ? () => this.undo(entry_id) : null);
    if (this.asked) void this.findWays();
    return true;
  }
}

/** The kinds of part that want ordering soon, for Round. */
export async function toOrder(): Promise<Schemas['ToOrderOut'][]> {
  const answer = await ask(client.GET('/api/shelf/to_order'));
  return answer.ok ? answer.data : [];
}
