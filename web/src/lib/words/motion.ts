/** Motion only where something went, and none for those who asked for none. */
import { prefersReducedMotion } from 'svelte/motion';

/** So long a movement takes [ms]. */
export const moving = (ms: number): number => (prefersReducedMotion.current ? 0 : ms);

/** After what is there now can be seen: one frame draws it, the next one has it on the screen. */
export function whenSeen(then: () => void): void {
  requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(then)));
}
