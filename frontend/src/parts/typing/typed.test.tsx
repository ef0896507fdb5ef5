// @vitest-environment jsdom
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { belongTo, forget, useUnkept } from "./drafts";
import { useTyped } from "./typed";

function Field(props: { kept: string; place?: string }): ReactNode {
  const [typed, type, keptAs] = useTyped(props.kept, props.place);
  return (
    <>
      <input aria-label="it" value={typed} onChange={(event) => type(event.target.value)} />
      <button type="button" onClick={() => keptAs(props.kept)}>
        back
      </button>
    </>
  );
}

function Mark(props: { place: string }): ReactNode {
  return <output>{useUnkept()(props.place) ? "not saved yet" : "kept"}</output>;
}

const value = () => screen.getByLabelText<HTMLInputElement>("it").value;
const mark = () => screen.getByRole("status").textContent;
const shown = (kept: string, place?: string) => render(<Field kept={kept} place={place} />);

describe("what is typed and not saved yet", () => {
  beforeEach(() => belongTo(1));

  it("is there again when one comes back, and is forgotten once it is taken back", async () => {
    const user = userEvent.setup();
    render(<Mark place="party 7" />);
    const first = shown("Tollgate", "party 7/name");
    expect(mark()).toBe("kept");
    await user.type(screen.getByLabelText("it"), " Timber");
    expect(mark()).toBe("not saved yet");
    first.unmount();
    const second = shown("Tollgate", "party 7/name");
    expect(value()).toBe("Tollgate Timber");
    await user.click(screen.getByText("back"));
    expect([value(), mark()]).toEqual(["Tollgate", "kept"]);
    second.unmount();
    shown("Tollgate", "party 7/name");
    expect(value()).toBe("Tollgate");
  });

  it("stays over what somebody else kept meanwhile, and gives way where that is the same", async () => {
    const user = userEvent.setup();
    const first = shown("a", "plan");
    await user.type(screen.getByLabelText("it"), "b");
    first.unmount();
    const second = shown("c", "plan");
    expect(value()).toBe("ab");
    second.rerender(<Field kept="ab" place="plan" />);
    second.rerender(<Field kept="d" place="plan" />);
    expect(value()).toBe("d");
  });

  it("is of its own place only: another's beginning is not it", async () => {
    const user = userEvent.setup();
    const first = shown("a", "party 7/name");
    await user.type(screen.getByLabelText("it"), "b");
    first.unmount();
    render(<Mark place="party" />);
    expect(mark()).toBe("kept");
    forget("party");
    shown("a", "party 7/name");
    expect(value()).toBe("ab");
  });

  it("that there is no room for stays while one is there, and nothing older comes back in its place", async () => {
    const user = userEvent.setup();
    const first = shown("a", "plan");
    await user.type(screen.getByLabelText("it"), "b");
    const full = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    await user.type(screen.getByLabelText("it"), "c");
    full.mockRestore();
    expect(value()).toBe("abc");
    first.unmount();
    shown("a", "plan");
    expect(value()).toBe("a");
  });

  it("is remembered where it has a place only", async () => {
    const user = userEvent.setup();
    const first = shown("a");
    await user.type(screen.getByLabelText("it"), "b");
    first.unmount();
    shown("a");
    expect(value()).toBe("a");
  });

  it("is there for the same person after a log-in, and for nobody else", async () => {
    const user = userEvent.setup();
    const first = shown("a", "plan");
    await user.type(screen.getByLabelText("it"), "b");
    first.unmount();
    sessionStorage.setItem("waka-last-filed", "{}");
    belongTo(1);
    const again = shown("a", "plan");
    expect(value()).toBe("ab");
    expect(sessionStorage.getItem("waka-last-filed")).toBe("{}");
    again.unmount();
    belongTo(2);
    shown("a", "plan");
    expect(value()).toBe("a");
    expect(sessionStorage.getItem("waka-last-filed")).toBeNull();
  });
});
