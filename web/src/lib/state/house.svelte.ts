import { v4 as uuid } from 'uuid';

import { type Answer, ask, client, type Schemas } from '../api/client';
import { onLooking } from '../api/once';
import { moved } from '../words/moved';
import { contradicted } from '../words/why';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';
import { outbox } from './outbox.svelte';

type Round = Schemas['RoundOut'];
type MachinePage = Schemas['MachineOut'];
type Written = Schemas['Written'];
type Action = Schemas['Action'];
type Found = Schemas['Found'];

/** The machine that a new one stands in for: which of its spares stay, and whether its name goes over. */
export interface Replacing {
  id: string;
  name: string;
  keep: string[];
  same_name: boolean;
}

/** The household as the server last told it: Round, and the machine whose page is open. Every write answers with both. */
class HouseState {
  round = $state.raw<Load<Round>>(PENDING);
  machine = $state.raw<Load<MachinePage>>(PENDING);
  busy = $state(false);
  /** A run that was tapped and is on its way: its row says so at once. */
  noting = $state.raw<{ machine_id: string; minutes: number } | null>(null);
  private rounds = new Turns();
  private machines = new Turns();

  /** What was recorded elsewhere moved everything: nobody acts on what is shown no more. */
  forget(): void {
    this.round = PENDING;
    this.machine = PENDING;
  }

  async loadRound(): Promise<void> {
    const answer = await this.rounds.latest(ask(client.GET('/api/round')));
    if (answer) this.round = loaded(answer);
  }

  async loadMachine(machine_id: string): Promise<void> {
    if (this.machine.status !== 'ok' || this.machine.data.strip.id !== machine_id) this.machine = PENDING;
    const asked = ask(client.GET('/api/machines/{machine_id}', { params: { path: { machine_id } } }));
    const answer = await this.machines.latest(asked);
    if (answer) this.machine = loaded(answer);
  }

  /** A machine, with its dock if it has one; in the place of another when `old` is given. */
  async addMachine(machine: Schemas['MachineIn'], old: Replacing | null = null): Promise<boolean> {
    if (!old) {
      return this.record(client.POST('/api/machines', { body: machine }), `${machine.name} is added.`);
    }
    const request = client.POST('/api/machines/{machine_id}/replacement', {
      params: { path: { machine_id: old.id } },
      body: { ...machine, keep: old.keep, same_name: old.same_name },
    });
    return this.record(request, `${machine.name} stands in for ${old.name}, whose history is kept.`);
  }

  /** Let a task wait until a day, with a reason. */
  async putOff(machine_id: string, wait: Schemas['WaitIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/waits', { params: { path: { machine_id } }, body: wait }),
      text,
    );
  }

  async takeOn(machine_id: string, task: Schemas['ClaimIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/claims', { params: { path: { machine_id } }, body: task }),
      text,
    );
  }

  /** What a machine ran over or took in that it is not made for. */
  async mishap(machine_id: string, mishap: Schemas['MishapIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/mishaps', { params: { path: { machine_id } }, body: mishap }),
      text,
    );
  }

  /** A danger at a machine, or that one is over. */
  async danger(machine_id: string, danger: Schemas['DangerIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/dangers', { params: { path: { machine_id } }, body: danger }),
      text,
    );
  }

  /** One tap: it ran its usual minutes, and mopped where it usually does. */
  async ranAsUsual(machine: Schemas['StripOut']): Promise<boolean> {
    const mopped = machine.mops ? { mopped: machine.usual.mops } : {};
    return this.logRun(machine, { minutes: Math.round(machine.usual.minutes), ...mopped });
  }

  async logRun(
    machine: { id: string; name: string },
    run: { minutes: number; day?: string; started?: string; mopped?: boolean; part_was_out?: boolean },
  ): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/runs', {
      params: { path: { machine_id: machine.id } },
      body: { id: uuid(), part_was_out: false, ...run },
    });
    this.noting = { machine_id: machine.id, minutes: run.minutes };
    const logged = await this.record(request, `${machine.name}: a run of ${run.minutes} min is logged.`);
    this.noting = null;
    return logged;
  }

  async alreadyDone(
    machine_id: string,
    task: { slot: string; action: Action; day?: string; found?: Found },
    text: string,
  ): Promise<boolean> {
    const request = client.POST('/api/machines/{machine_id}/services', {
      params: { path: { machine_id } },
      body: task,
    });
    return this.record(request, text);
  }

  /** What was found on a part; the notice says how the date moved. */
  async look(machine_id: string, look: Schemas['LookIn'], text: string): Promise<boolean> {
    const before = this.stateOf(machine_id, look);
    return this.record(
      client.POST('/api/machines/{machine_id}/looks', { params: { path: { machine_id } }, body: look }),
      ({ machine }) => {
        const states = machine?.parts.find((part) => part.slot === look.slot)?.states ?? [];
        const after = states.find((state) => state.action === look.about) ?? null;
        const asks = after && contradicted(after) ? ' Its page asks whether something changed at home.' : '';
        return `${text} ${machine ? moved(before, after, machine.today) : ''}`.trim() + asks;
      },
    );
  }

  /** How a task stands as far as it is shown: on the machine's page, else on Round. */
  private stateOf(machine_id: string, of: { slot: string; about: Action }) {
    const page = this.machine.status === 'ok' ? this.machine.data : null;
    const round = this.round.status === 'ok' ? this.round.data : null;
    const parts = page?.strip.id === machine_id ? page.parts : [];
    const states = parts.find((part) => part.slot === of.slot)?.states ?? [];
    const tasks = [...(round?.due ?? []), ...(round?.coming ?? [])];
    return (
      states.find((state) => state.action === of.about) ??
      tasks.find((t) => t.machine_id === machine_id && t.slot === of.slot && t.action === of.about) ??
      null
    );
  }

  async readCounter(machine_id: string, counter: Schemas['CounterIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/counters', { params: { path: { machine_id } }, body: counter }),
      text,
    );
  }

  /** Whether something changed at home, where looks contradict what was believed. */
  async homeChanged(machine_id: string, said: Schemas['HomeChangedIn'], text: string): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/changes', { params: { path: { machine_id } }, body: said }),
      text,
    );
  }

  /** A round or a kit at an interval of one's own [days]; null: each of its tasks by itself. */
  async keepRound(machine_id: string, key: string, days: number | null, text: string): Promise<boolean> {
    const params = { path: { machine_id } };
    return this.record(
      client.POST('/api/machines/{machine_id}/rounds', { params, body: { key, days } }),
      text,
    );
  }

  async renewKit(machine_id: string, kit: Schemas['OneGoOut']): Promise<boolean> {
    return this.record(
      client.POST('/api/machines/{machine_id}/kits', {
        params: { path: { machine_id } },
        body: { kit: kit.key.replace(/^kit-/, '') },
      }),
      `${kit.name}: all renewed.`,
    );
  }

  /** Be reminded of something from a day on, until it is done. */
  async remind(machine_id: string, text: string, remind_on: string, words: string): Promise<boolean> {
    const form = { slot: '', text, remind_on };
    return this.record(
      client.POST('/api/machines/{machine_id}/notes', {
        params: { path: { machine_id } },
        body: form as never,
        bodySerializer: () => {
          const data = new FormData();
          for (const [key, value] of Object.entries(form)) if (value) data.set(key, value);
          return data;
        },
      }),
      words,
    );
  }

  /** What somebody was reminded of is done. */
  async reminded(one: Schemas['ReminderOut']): Promise<void> {
    const params = { path: { entry_id: one.entry_id } };
    await this.record(
      client.POST('/api/reminders/{entry_id}/done', { params }),
      'Done; nobody is reminded of it any more.',
    );
  }

  /** Days off, of one machine or of the whole house. */
  async rest(rest: Schemas['RestIn'], text: string): Promise<boolean> {
    return this.record(client.POST('/api/rests', { body: rest }), text);
  }

  async moreLoad(load: Schemas['MoreLoadIn'], text: string): Promise<boolean> {
    return this.record(client.POST('/api/loads', { body: load }), text);
  }

  async dryCheck(item: { id: string; name: string }, dry: boolean): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/dry-check', {
      params: { path: { item_id: item.id } },
      body: { dry },
    });
    return this.record(request, dry ? `${item.name} is dry and ready.` : `${item.name} rests 12 h more.`);
  }

  async fit(item: { id: string }, early_reason: string, text: string): Promise<boolean> {
    const request = client.POST('/api/items/{item_id}/fit', {
      params: { path: { item_id: item.id } },
      body: { early_reason },
    });
    return this.record(request, text);
  }

  /** Takes an entry back, with all that was recorded with it; of a deed told in one line `also` the others at once. */
  async undo(entry_id: string, also: string[] = [], reason = ''): Promise<void> {
    const request = client.POST('/api/entries/{entry_id}/undo', {
      params: { path: { entry_id } },
      body: { also, reason },
    });
    const open = this.machine.status === 'ok' ? this.machine.data.strip.id : null;
    if ((await this.record(request, 'Undone.')) && open) await this.loadMachine(open);
  }

  /** Send something that is recorded; the household after it is shown, and the notice offers to undo it. */
  async record(
    request: Parameters<typeof ask<Written>>[0],
    text: string | ((written: Written) => string),
  ): Promise<boolean> {
    this.busy = true;
    const answer: Answer<Written> = await ask(request);
    this.busy = false;
    if (!answer.ok) {
      notice.refused(answer.problem);
      return false;
    }
    const { entry_id, round, machine } = answer.data;
    this.rounds.recorded();
    this.round = { status: 'ok', data: round };
    if (machine) {
      this.machines.recorded();
      this.machine = { status: 'ok', data: machine };
    }
    notice.done(
      typeof text === 'string' ? text : text(answer.data),
      entry_id ? () => this.undo(entry_id) : null,
    );
    return true;
  }
}

export const house = new HouseState();

outbox.onsent = () => void (house.round.status === 'ok' && house.loadRound());
onLooking({
  looking: () => notice.looking(),
  recorded(entry_id) {
    notice.done('What you sent before was recorded.', entry_id ? () => house.undo(entry_id) : null);
    void house.loadRound();
  },
  notRecorded: () => notice.done('What you sent before was not recorded. Send it again if it still holds.'),
  replayed: () => setTimeout(() => void house.loadRound()),
});
