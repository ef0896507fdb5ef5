// @vitest-environment jsdom
import { expect, it } from "vitest";
import { noticeTouches, wasTouched } from "./awake";

it("tells once of what a person did, and nothing of what a screen does by itself", () => {
  noticeTouches(window);
  wasTouched();
  expect(wasTouched()).toBe(false);
  window.dispatchEvent(new Event("focus"));
  expect(wasTouched()).toBe(false);
  document.dispatchEvent(new KeyboardEvent("keydown", { key: "a", bubbles: true }));
  expect(wasTouched()).toBe(true);
  expect(wasTouched()).toBe(false);
});
