/** What ends a ride, in a parent's words. */
import { ends as say } from "../texts/lib";

const ENDS: Record<string, string> = say.ends;

/** The words for an end as the core names it; what is no end of a ride speaks for itself already. */
export const rideEnd = (name: string) => ENDS[name] ?? name;
