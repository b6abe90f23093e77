/** What people may do: look and take things along; also mark, keep views and lay out sheets; also add, change and remove drawings. */
export const roles = ['look', 'mark', 'manage'] as const;
export type Role = (typeof roles)[number];

/** The role that a request needs; `nothing` is open to everybody, also before signing in. */
export type Need = Role | 'nothing';

/** Whether a role allows what is needed: each allows all that those before it do. */
export const allows = (role: Role, need: Need): boolean =>
  need === 'nothing' || roles.indexOf(role) >= roles.indexOf(need);
