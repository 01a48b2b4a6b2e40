/** What members of a garage may do. */
export type Role = "owner" | "builder" | "viewer";

export const ROLES: readonly [Role, string][] = [
  ["owner", "everything, and who belongs to it"],
  ["builder", "all work on the machines"],
  ["viewer", "looks, changes nothing"],
];
