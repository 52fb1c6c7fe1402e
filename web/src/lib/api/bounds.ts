/** What an input may hold, as the server holds its field to it: one table, made from the contract. */
import { BOUNDS } from './gen/bounds';

type Table = typeof BOUNDS;
interface Limits {
  min?: number;
  max?: number;
  maxlength?: number;
  step?: number;
  first?: string;
  yearsAhead?: number;
}

/** The attributes of an input for a field of what is sent: `min`, `max`, `step` of whole numbers, `maxlength`; of a day
 *  its first and last. */
export function bounds<S extends keyof Table>(
  schema: S,
  field: keyof Table[S],
): { min?: number | string; max?: number | string; step?: number; maxlength?: number } {
  const { first, yearsAhead, ...rest } = (BOUNDS[schema] as Record<PropertyKey, Limits>)[field] ?? {};
  return first && yearsAhead ? { min: first, max: yearsFromNow(yearsAhead) } : rest;
}

function yearsFromNow(years: number): string {
  const day = new Date();
  day.setFullYear(day.getFullYear() + years);
  return day.toISOString().slice(0, 10);
}
