// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { show } from "../testing/page";
import { Sides } from "./Sides";

afterEach(() => vi.unstubAllGlobals());

/** A window of which a width is asked: a telephone's, or not. */
function window_(phone: boolean): void {
  vi.stubGlobal("matchMedia", (media: string) => ({
    matches: phone && media.includes("640px"),
    addEventListener: () => {},
    removeEventListener: () => {},
  }));
}

const sides = (onPhone?: ("start" | "middle" | "end")[]) => (
  <Sides
    name="test"
    onPhone={onPhone}
    start={{ width: [200, 150], content: <p>the list</p> }}
    end={{ width: [200, 150], content: <p>the slip</p> }}
  >
    <p>the page</p>
  </Sides>
);
const told = () => screen.queryAllByText(/^the /).map((one) => one.textContent);

it("on a telephone all parts stand one below the other, in their order", () => {
  window_(true);
  show(sides());
  expect(told()).toEqual(["the list", "the page", "the slip"]);
  expect(screen.queryByRole("separator")).toBeNull();
});

it("on a telephone a screen says which parts are of use at the moment", () => {
  window_(true);
  show(sides(["middle", "end"]));
  expect(told()).toEqual(["the page", "the slip"]);
});

it("elsewhere all of them stand side by side, whatever a telephone shows", () => {
  window_(false);
  show(sides(["start"]));
  expect(told()).toEqual(["the list", "the page", "the slip"]);
});
