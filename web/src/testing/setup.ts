/** What the browser has and the test's stand-in for it lacks. */
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// A busy machine is no failure: what is waited for may take longer than on a quiet one.
configure({ asyncUtilTimeout: 5_000 });

// Dates and numbers are written as this reader writes them.
Object.defineProperty(navigator, "language", { value: "en-GB", configurable: true });

class NoResize {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.ResizeObserver = NoResize;
// As newer browsers do it: scrolling gives a promise.
Element.prototype.scrollIntoView = () => Promise.resolve() as never;
Element.prototype.hasPointerCapture = () => false;

// The client asks for paths; outside a browser a request needs its host too, and knows only its own kind of signal.
const Bare = globalThis.Request;
globalThis.Request = class extends Bare {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    const { signal: _signal, ...rest } = init ?? {};
    super(typeof input === "string" ? new URL(input, "http://garage.test") : input, rest);
  }
};

afterEach(async () => {
  cleanup();
  // Imported late: it brings the client, which must find the request above.
  (await import("../lib/outbox")).startOver();
  // Files share their modules: whose drafts these are must not come from another file's test.
  (await import("../lib/drafts")).keepFor("");
  localStorage.clear();
  sessionStorage.clear();
});
