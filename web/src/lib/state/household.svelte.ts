import { ask, client, type Problem, type Schemas } from '../api/client';
import { celsius, areaIn, degreesIn } from '../words/format';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

export interface Place {
  name: string;
  temp: number;
  rh_pct: number;
}

/** The household's answers while they are edited: figures as typed, in the person's units. */
export interface Draft {
  long_haired: number;
  animals: number;
  children: number;
  area: number;
  carpet: number;
  dust: Schemas['DustSource'][];
  allergy: boolean;
  skill: Schemas['Skill'];
  tools: string[] | null;
  places: Place[];
  school: Schemas['School'];
}

type Profile = Omit<Draft, 'area' | 'school' | 'places'> & {
  area_m2: number;
  places: { name: string; temp_c: number; rh_pct: number }[];
};

/** The household's answers: as they are in force, as they are edited, and what the edit would change. */
export class HouseholdState {
  load = $state.raw<Load<Schemas['HouseholdOut']>>(PENDING);
  draft = $state<Draft | null>(null);
  preview = $state.raw<Schemas['PreviewOut'] | null>(null);
  problem = $state.raw<Problem | null>(null);
  /** The area was said to be meant as typed. */
  sure = $state(false);
  changed = $state(false);
  private us = false;
  private turns = new Turns();
  private previews = new Turns();

  async refresh(us: boolean): Promise<void> {
    this.us = us;
    const answer = await this.turns.latest(ask(client.GET('/api/household')));
    if (!answer) return;
    this.load = loaded(answer);
    if (this.load.status !== 'ok') return;
    const profile = this.load.data.profile as unknown as Profile;
    this.draft = {
      ...profile,
      area: areaIn(profile.area_m2, us),
      places: profile.places.map((p) => ({ name: p.name, temp: degreesIn(p.temp_c, us), rh_pct: p.rh_pct })),
      school: this.load.data.school,
    };
    [this.changed, this.sure, this.problem] = [false, false, null];
    await this.foresee();
  }

  private body(draft: Draft): Schemas['AnswersIn'] {
    const places = draft.places.map((p) => ({
      name: p.name,
      temp_c: Math.round(celsius(p.temp, this.us) * 100) / 100,
      rh_pct: p.rh_pct,
    }));
    return {
      ...draft,
      places,
      area_unit: this.us ? 'sq_ft' : 'm2',
      sure: this.sure,
    };
  }

  /** Change answers; what they would change is asked at once, the latest question counts. */
  async change(some: Partial<Draft>): Promise<void> {
    if (!this.draft) return;
    this.draft = { ...this.draft, ...some };
    this.changed = true;
    if ('area' in some) this.sure = false;
    await this.foresee();
  }

  /** The area is meant as typed; or, with another figure, it was meant so. */
  async meant(area: number | null): Promise<void> {
    if (area !== null) return this.change({ area });
    this.sure = true;
    await this.foresee();
  }

  private async foresee(): Promise<void> {
    if (!this.draft) return;
    const asked = ask(client.POST('/api/household/preview', { body: this.body(this.draft) }));
    const answer = await this.previews.latest(asked);
    if (!answer) return;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.preview = answer.data;
  }

  async save(): Promise<boolean> {
    if (!this.draft) return false;
    const moves = this.preview?.moves.count ?? 0;
    const text = moves ? `Kept. ${moves} intervals are different now.` : 'Kept. No interval changed.';
    const ok = await house.record(client.POST('/api/household', { body: this.body(this.draft) }), text);
    if (ok) await this.refresh(this.us);
    return ok;
  }
}
