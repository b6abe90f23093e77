/** What people may do: look and take things along; also mark, keep views and lay out sheets; also add, change and remove drawings. */
export const roles = ['look', 'mark', 'manage'] as const;
export type Role = (typeof roles)[number];

/** What somebody needs to be allowed for a request; `nothing` is for everybody, also before it is known who it is. */
export type Need = Role | 'nothing';

/** Whether a role allows what is needed: each allows all that those before it do. */
export const allows = (role: Role, need: Need): boolean =>
  need === 'nothing' || roles.indexOf(role) >= roles.indexOf(need);
