import type { Schemas } from '../api/client';

type Role = Schemas['PersonOut']['role'];

export const ROLES: Record<Role, string> = {
  owner: 'owner: everything, and lets people in',
  helper: 'helper: logs and does tasks',
  viewer: 'viewer: looks only',
};

/** "helper" */
export const roleWords = (role: Role): string => ROLES[role].split(':')[0]!;
