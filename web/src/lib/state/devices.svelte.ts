/** Devices that report by themselves, and what they told that somebody should see. */
import { ask, client, type Problem, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';

export type Device = Schemas['DeviceOut'];
export type Asked = Schemas['HeldOut'];

/** What Round tells of devices in a line; nothing where the server is not reached. */
export async function heardNow(): Promise<Schemas['FromDevicesOut'] | null> {
  const answer = await ask(client.GET('/api/heard'));
  return answer.ok ? answer.data : null;
}

export class DevicesState {
  load = $state.raw<Load<Schemas['DevicesOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  /** The device that was connected last, with its token; nobody shows it again. */
  made = $state.raw<Schemas['TokenOut'] | null>(null);
  /** What became of the lines of a file. */
  brought = $state.raw<Schemas['IngestOut'] | null>(null);
  private turns = new Turns();

  async refresh(): Promise<void> {
    const answer = await this.turns.latest(ask(client.GET('/api/devices')));
    if (answer) this.load = loaded(answer);
  }

  async connect(body: Schemas['DeviceIn']): Promise<boolean> {
    const made = await this.asked(client.POST('/api/devices', { body }));
    if (made) [this.made, this.load] = [made, { status: 'ok', data: made.devices }];
    return made !== null;
  }

  async disconnect({ id, name }: Device): Promise<void> {
    const left = await this.asked(
      client.DELETE('/api/devices/{device_id}', { params: { path: { device_id: id } } }),
    );
    if (!left) return;
    this.load = { status: 'ok', data: left };
    if (this.made?.device.id === id) this.made = null;
    notice.done(`${name} may not post any more. What it told stays.`);
  }

  /** Which drying part lies on a scale; none: it tells by its weight. */
  async weighs({ id }: Device, item_id: string | null): Promise<void> {
    const params = { path: { device_id: id } };
    const answer = await this.asked(
      client.POST('/api/devices/{device_id}/weighs', { params, body: { item_id } }),
    );
    if (answer) this.load = { status: 'ok', data: answer };
  }

  /** Lines of a device from a file, as it would post them. */
  async bring({ id }: Device, file: File): Promise<void> {
    const request = client.POST('/api/devices/{device_id}/lines', {
      params: { path: { device_id: id } },
      body: { file: '' },
      bodySerializer: () => {
        const data = new FormData();
        data.set('file', file);
        return data;
      },
    });
    this.brought = await this.asked(request);
    await this.refresh();
  }

  /** What was doubted counts after all: which part it was, or whose count goes on. */
  async count(one: Asked, how: { item_id?: string; trusted?: boolean } = {}): Promise<void> {
    const body = { entry_ids: one.entry_ids, item_id: null, trusted: null, ...how };
    await house.record(client.POST('/api/heard/count', { body }), `${one.device}: it counts.`);
    await this.refresh();
  }

  async drop(one: Asked): Promise<void> {
    const body = { entry_ids: one.entry_ids };
    await house.record(client.POST('/api/heard/drop', { body }), `${one.device}: it does not count.`);
    await this.refresh();
  }

  private async asked<T>(request: Parameters<typeof ask<T>>[0]): Promise<T | null> {
    this.busy = true;
    const answer = await ask<T>(request);
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.turns.recorded();
    return answer.ok ? answer.data : null;
  }
}
