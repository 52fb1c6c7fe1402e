/** Where the chambers of a strip stand. Lengths in px; the air goes from the floor at the start to the exhaust. */
import type { Schemas } from '../api/client';

export type Chamber = Schemas['ChamberOut'];
export type Column = Schemas['Column'];
export type Size = 'slim' | 'low' | 'tall';

/** The board's columns in the order the air takes. */
export const COLUMNS: Column[] = [
  'floor',
  'neck',
  'wand',
  'hose',
  'inlet',
  'bin',
  'screen',
  'filter',
  'motor',
  'exhaust',
];

export interface Placed {
  chamber: Chamber;
  /** Centre of the chamber. */
  x: number;
  y: number;
}

export interface Shape {
  width: number;
  height: number;
  /** The duct from mouth to outlet. */
  from: { x: number; y: number };
  to: { x: number; y: number };
  chamber: { w: number; h: number };
  placed: Placed[];
}

const CHAMBER = { slim: { w: 28, h: 30 }, low: { w: 40, h: 46 }, tall: { w: 64, h: 78 } };
/** Height of the words above and under a chamber [px]. */
export const WORDS = { slim: 13, low: 14, tall: 15 };
const UPRIGHT_STEP = 84;

export function onPath(chambers: Chamber[]): Chamber[] {
  return chambers.filter((chamber) => chamber.column !== 'off_path');
}

export function beside(chambers: Chamber[]): Chamber[] {
  return chambers.filter((chamber) => chamber.column === 'off_path');
}

/** Machines in the order of the board: by name, a dock right after the robot it serves, if that is there. */
export function boardOrder<T extends { id: string; serves: string | null }>(machines: T[]): T[] {
  const here = machines.map((machine) => machine.id);
  const docks = machines.filter((machine) => machine.serves !== null && here.includes(machine.serves));
  return machines
    .filter((machine) => !docks.includes(machine))
    .flatMap((machine) => [machine, ...docks.filter((dock) => dock.serves === machine.id)]);
}

/** The columns that any of these machines has, in order: what a board has to show. */
export function usedColumns(machines: { chambers: Chamber[] }[]): Column[] {
  const used = new Set(machines.flatMap((machine) => machine.chambers.map((chamber) => chamber.column)));
  return COLUMNS.filter((column) => used.has(column));
}

/** How wide a column is on a strip of that width [px]. */
export function columnWidth(columns: Column[], width: number): number {
  return (width - 2 * MARGIN) / Math.max(1, columns.length);
}

/** Centre of a column on a strip of that width [px]. */
export function columnX(column: Column, columns: Column[], width: number): number {
  return MARGIN + columnWidth(columns, width) * (columns.indexOf(column) + 0.5);
}

/** How many times larger than usual the person has letters: strips grow with them. */
let letters: number | undefined;
export function scale(): number {
  letters ??= Number.parseFloat(getComputedStyle(document.documentElement).fontSize) / 16 || 1;
  return letters;
}

const MARGIN = 14;

/** The largest size whose chambers stand apart where a column is so wide [px]. */
export function sizeFor(column: number, largest: Size): Size {
  const sizes: Size[] = ['tall', 'low', 'slim'];
  const fitting = sizes.slice(sizes.indexOf(largest)).find((size) => CHAMBER[size].w + 16 <= column);
  return fitting ?? 'slim';
}

/** Widths of letters [em], the widest of a kind: of the face that the app ships. */
const LETTERS: [RegExp, number][] = [
  [/[ijl.,']/, 0.27],
  [/[ftr1 /-]/, 0.36],
  [/[mwMW%]/, 0.88],
  [/[A-Z…]/, 0.68],
];

/** How wide a text is at a font size [px], a little more rather than less: by letters, so that nothing is laid out for it. */
export function textWidth(text: string, size: number): number {
  const widths = [...text].map((letter) => LETTERS.find(([kind]) => kind.test(letter))?.[1] ?? 0.58);
  return size * widths.reduce((sum, one) => sum + one, 0);
}

/** A text cut to a width [px], with an ellipsis where it is cut. */
export function cut(text: string, size: number, room: number): string {
  if (textWidth(text, size) <= room) return text;
  let kept = text;
  while (kept && textWidth(`${kept}…`, size) > room) kept = kept.slice(0, -1);
  return kept ? `${kept.trimEnd()}…` : '';
}

/**
 * Words that stand in one line, each centred at its x [px], cut so that none touches the next or leaves the strip:
 * a short one leaves what it does not need to its neighbour, and of two the longer one gives way.
 */
export function fitted(words: { x: number; text: string }[], size: number, width: number): string[] {
  const GAP = 4;
  const MOST = 0.6;
  const said = words
    .map(({ x, text }) => ({ x, text, half: textWidth(text, size) / 2 }))
    .filter((one) => one.text);
  const room = (of: (typeof said)[number], beside: (typeof said)[number] | undefined) => {
    if (!beside) return Infinity;
    const apart = Math.abs(beside.x - of.x) - GAP;
    if (of.half <= apart / 2 || of.half + beside.half <= apart) return Infinity;
    if (beside.half <= apart / 2) return apart - beside.half;
    if (of.half === beside.half) return apart / 2;
    return of.half < beside.half
      ? Math.min(of.half, apart * MOST)
      : apart - Math.min(beside.half, apart * MOST);
  };
  const shown = new Map(
    said.map((one, i) => {
      const half = Math.min(one.x, width - one.x, room(one, said[i - 1]), room(one, said[i + 1]));
      return [one.x, cut(one.text, size, 2 * half)];
    }),
  );
  return words.map(({ x, text }) => (text ? (shown.get(x) ?? '') : ''));
}

/** A lying strip: like stations of all machines share a column. Without `tags` nothing is said under the chambers. */
export function lying(chambers: Chamber[], columns: Column[], width: number, size: Size, tags = true): Shape {
  const chamber = CHAMBER[size];
  const line = WORDS[size] + (size === 'slim' ? 4 : 12);
  const y = line + chamber.h / 2 + 2;
  const placed = onPath(chambers).map((one) => ({ chamber: one, x: columnX(one.column, columns, width), y }));
  return {
    width,
    height: chamber.h + line + (tags ? line + 7 : 5),
    from: { x: 4, y },
    to: { x: width - 4, y },
    chamber,
    placed,
  };
}

/** A strip that stands upright, floor at the top: for narrow screens, where the parts are the list. */
export function standing(chambers: Chamber[], width: number): Shape {
  const chamber = { w: 52, h: 56 };
  const path = onPath(chambers);
  const placed = path.map((one, i) => ({ chamber: one, x: 44, y: 52 + i * UPRIGHT_STEP }));
  const height = 52 + (path.length - 1) * UPRIGHT_STEP + 62;
  return { width, height, from: { x: 44, y: 4 }, to: { x: 44, y: height - 4 }, chamber, placed };
}
