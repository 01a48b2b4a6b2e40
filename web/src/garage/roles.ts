/** What members of a garage may do. */
import { roles as say } from "../texts/garage";

export type Role = "owner" | "builder" | "viewer";

export const ROLES: readonly [Role, string][] = [
  ["owner", say.everythingAndWhoBelongs],
  ["builder", say.allWorkOnThe],
  ["viewer", say.looksChangesNothing],
];
