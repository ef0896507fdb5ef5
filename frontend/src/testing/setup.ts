// What a browser has and jsdom has not: addresses without a host, a server, a colour scheme, sizes of what is shown.
import { cleanup, configure } from "@testing-library/react";
import { afterEach, expect } from "vitest";
import { close, respond } from "./server";

// a machine with other things to do takes its time: what is awaited comes, or the test fails later
configure({ asyncUtilTimeout: 6_000 });

if (typeof window !== "undefined") {
  globalThis.Request = class extends Request {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === "string" ? new URL(input, window.location.href) : input, init);
    }
  };
  globalThis.fetch = (input, init) => respond(new Request(input, init));
  window.matchMedia = (query) =>
    Object.assign(new EventTarget(), {
      matches: false,
      media: query,
      onchange: null,
      addListener: () => {},
      removeListener: () => {},
    });
  // lists draw what is in view: there is room for some twenty lines
  for (const size of ["clientHeight", "clientWidth"])
    Object.defineProperty(Element.prototype, size, { configurable: true, get: () => 600 });
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  Element.prototype.scrollIntoView = () => {};
  Element.prototype.scrollTo = () => {};

  afterEach(async () => {
    cleanup();
    // what is on its way still reaches this test's server, not the next one's, which answers something else
    await new Promise((on) => setTimeout(on));
    localStorage.clear();
    expect(close(), "nothing is asked that the test does not answer").toEqual([]);
  });
}
