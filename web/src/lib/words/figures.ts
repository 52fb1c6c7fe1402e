/** The figures of a rule in words: the book's, and the household's own. */
import type { Schemas } from '../api/client';
import { figure, plural } from './format';
import { amount, MISHAP } from './tasks';

type Trigger = Schemas['TriggerOut'];

function one(trigger: Trigger): string {
  if (trigger.meter === 'condition') return 'when you find it needs it';
  if (trigger.after) return MISHAP[trigger.after];
  const usual = trigger.calendar === 'stands_for_use' ? ' of usual use' : '';
  const high = amount(trigger.meter, trigger.high);
  return `every ${trigger.low === trigger.high ? high : `${figure(trigger.low)} to ${high}`}${usual}`;
}

/** "every 7 to 14 days of usual use, or every 150 h of running". */
export function bookFigures(triggers: Trigger[]): string {
  return triggers.map(one).join(', or ');
}

export function ownFigure(rule: Schemas['SetupRuleOut']): string {
  if (rule.own_off) return 'left out';
  const value = rule.own_figure ?? 0;
  if (rule.own_meter === 'days') return `every ${plural(value, 'day')}`;
  return rule.own_meter ? `every ${amount(rule.own_meter, value)}` : '';
}
