import type { Schemas } from '../api/client';

type Role = Schemas['PersonOut']['role'];

const WORDS: Record<Role, string> = {
  owner: 'owner: everything, and lets people in',
  helper: 'helper: logs and does tasks',
  viewer: 'viewer: looks only',
};
export const ROLES = Object.entries(WORDS) as [Role, string][];

/** "helper" */
export const roleWords = (role: Role): string => WORDS[role].split(':')[0]!;
