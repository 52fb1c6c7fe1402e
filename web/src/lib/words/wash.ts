/** Washing in words: the ruling, what decided it, what is asked. */
import type { Schemas } from '../api/client';

type Card = Schemas['WashCardOut'];

export const WHY: Record<Card['because'], string> = {
  kind: 'By what it is made of.',
  marked: 'It is marked washable.',
  not_marked: 'It is not marked washable.',
  unmarked_unknown: 'Nobody has seen a mark that says it may be washed.',
  own_risk: 'It has no mark that anybody saw; you wash it all the same.',
  wires: 'There are wires or a motor in it: water ends it.',
  wires_unknown: 'Nobody has ruled out wires or a motor in it.',
  metal: 'There is metal in it: soaked, it rusts.',
  hazard: 'What is in it may be harmful.',
};

export function rulingWords(card: Card): string {
  switch (card.ruling) {
    case 'wash':
      return card.because === 'own_risk' ? 'At your own risk.' : 'Yes, it may be washed.';
    case 'wipe':
      return 'Only wiped, not soaked.';
    case 'leave':
      return 'No: do not even shake it.';
    default:
      return 'No, it stays dry.';
  }
}

export const ASKED: Record<Schemas['Trait'], string> = {
  marked: 'Is it marked washable?',
  closed_end: 'Is one of its ends closed?',
  metal: 'Any metal in it?',
  wires: 'Wires or a motor in it?',
  own_risk: 'Wash it although nobody saw a mark?',
  hazard: 'May its dust be harmful (building dust, mould, droppings, toner)?',
};

export const MARK: Record<Schemas['Mark'], string> = { yes: 'Yes', no: 'No', unknown: 'Not known' };

/** What holds of a part, while nobody told what decides about water on it. */
export const UNTOLD = {
  marked: 'Taken as not washable until somebody has read the mark on it: what is not marked stays dry.',
  wires:
    'It stays dry until somebody has ruled them out: look for metal contacts at its ends, a cable, a light.',
};
