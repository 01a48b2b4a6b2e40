/** Before what a link holds: behind a hash, so that no server and no proxy writes it into a log. */
export const LOOK = "#look=";

/** What the address shows a build by; empty for every other address. */
export const shown = () => (window.location.hash.startsWith(LOOK) ? window.location.hash.slice(LOOK.length) : "");
