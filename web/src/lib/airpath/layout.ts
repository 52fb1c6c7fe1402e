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

const CHAMBER = { slim: { w: 36, h: 38 }, low: { w: 40, h: 46 }, tall: { w: 64, h: 78 } };
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

/** Centre of a column on a strip of that width. */
export function columnX(column: Column, columns: Column[], width: number): number {
  const step = (width - 2 * MARGIN) / columns.length;
  return MARGIN + step * (columns.indexOf(column) + 0.5);
}

const MARGIN = 14;

/** A lying strip: like stations of all machines share a column. */
export function lying(chambers: Chamber[], columns: Column[], width: number, size: Size): Shape {
  const chamber = CHAMBER[size];
  const top = size === 'slim' ? 22 : 28;
  const y = top + chamber.h / 2;
  const placed = onPath(chambers).map((one) => ({ chamber: one, x: columnX(one.column, columns, width), y }));
  return {
    width,
    height: chamber.h + (size === 'slim' ? 44 : 62),
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
