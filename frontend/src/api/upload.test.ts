import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Trouble } from "./client";
import { sendFile } from "./upload";

// where an upload has got to is asked through the client
vi.mock("./client", async (original) => ({
  ...(await original<typeof import("./client")>()),
  client: { GET: () => Promise.resolve({ data: { here: kept } }) },
}));

type Answer = { status: number; body: unknown } | "cut";
type Asked = { url: string; heads: Record<string, string>; bytes: number };

const MB = 1 << 20;
let asked: Asked[] = [];
let answers: Answer[] = [];
let kept = 0;

/** As much of an XMLHttpRequest as an upload uses; what it answers is laid out beforehand. */
class Request {
  upload = { onprogress: null as ((event: { loaded: number }) => void) | null };
  onload: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onabort: (() => void) | null = null;
  status = 0;
  responseText = "";
  private url = "";
  private heads: Record<string, string> = {};
  private stopped = false;
  open(_method: string, url: string) {
    this.url = url;
  }
  setRequestHeader(name: string, value: string) {
    this.heads[name] = value;
  }
  send(body: Blob) {
    asked.push({ url: this.url, heads: this.heads, bytes: body.size });
    const answer = answers.shift() ?? "cut";
    setTimeout(() => {
      if (this.stopped) return;
      this.upload.onprogress?.({ loaded: body.size / 2 });
      if (answer === "cut") this.onerror?.();
      else {
        this.status = answer.status;
        this.responseText = typeof answer.body === "string" ? answer.body : JSON.stringify(answer.body);
        this.onload?.();
      }
    }, 10);
  }
  abort() {
    this.stopped = true;
    this.onabort?.();
  }
}

const file = (bytes: number) => new File([new Uint8Array(bytes)], "scan & sketch.pdf");
const whole = { status: 201, body: { id: 7 } };

beforeEach(() => {
  asked = [];
  answers = [];
  kept = 0;
  vi.useFakeTimers();
  vi.stubGlobal("XMLHttpRequest", Request);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("a file that is brought in", () => {
  it("goes whole where it is small, with its name, its area and the folder it was dropped with", async () => {
    answers = [whole];
    const seen: number[] = [];
    const { done } = sendFile(file(1000), "one", (sent) => seen.push(sent), 3, "Bills/2026");
    await vi.runAllTimersAsync();
    await expect(done).resolves.toEqual({ id: 7 });
    expect(asked).toHaveLength(1);
    const url = new URL(asked[0]?.url ?? "", "http://waka.test");
    expect(url.pathname).toBe("/api/uploads/one");
    expect(Object.fromEntries(url.searchParams)).toEqual({
      name: "scan & sketch.pdf",
      area: "3",
      folder: "Bills/2026",
    });
    expect(asked[0]?.heads["Content-Range"]).toBeUndefined();
    expect(seen).toEqual([500]);
  });

  it("goes in slices where it is large, one after another", async () => {
    answers = [{ status: 202, body: { here: 8 * MB } }, { status: 202, body: { here: 16 * MB } }, whole];
    const { done } = sendFile(file(17 * MB), "two", () => {}, null, null);
    await vi.runAllTimersAsync();
    await done;
    expect(asked.map((one) => one.heads["Content-Range"])).toEqual([
      `bytes 0-${8 * MB - 1}/${17 * MB}`,
      `bytes ${8 * MB}-${16 * MB - 1}/${17 * MB}`,
      `bytes ${16 * MB}-${17 * MB - 1}/${17 * MB}`,
    ]);
    expect(asked.map((one) => one.bytes)).toEqual([8 * MB, 8 * MB, MB]);
  });

  it("goes on after a cut where the server has got to, not where it was itself", async () => {
    answers = [{ status: 202, body: { here: 8 * MB } }, "cut", whole];
    const { done } = sendFile(file(17 * MB), "three", () => {}, null, null);
    await vi.advanceTimersByTimeAsync(100);
    expect(asked).toHaveLength(2);
    kept = 12 * MB;
    await vi.runAllTimersAsync();
    await done;
    expect(asked[2]?.heads["Content-Range"]).toBe(`bytes ${12 * MB}-${17 * MB - 1}/${17 * MB}`);
  });

  it("gives up after it was tried again some times, and says that it goes on when it is sent again", async () => {
    const { done } = sendFile(file(9 * MB), "four", () => {}, null, null);
    const told = done.catch((error: unknown) => error);
    await vi.runAllTimersAsync();
    expect(await told).toBeInstanceOf(Trouble);
    expect(((await told) as Trouble).message).toMatch(/it goes on when you send it again/);
    expect(asked).toHaveLength(6);
  });

  it("is not tried again where it is small: nothing of it was kept", async () => {
    const { done } = sendFile(file(1000), "five", () => {}, null, null);
    const told = done.catch((error: unknown) => error);
    await vi.runAllTimersAsync();
    expect(((await told) as Trouble).message).toMatch(/nothing of it was kept/);
    expect(asked).toHaveLength(1);
  });

  it("waits and is sent again under the same number where very many come at once, or Waka is starting", async () => {
    answers = [
      { status: 503, body: { detail: "Very many documents are being brought in.", code: "busy" } },
      { status: 503, body: { detail: "Waka is just starting again.", code: "starting" } },
      whole,
    ];
    const { done } = sendFile(file(1000), "busy", () => {}, null, null);
    await vi.runAllTimersAsync();
    await done;
    expect(asked).toHaveLength(3);
  });

  it("tells the server's own words where it is refused, and what it is where there are none", async () => {
    answers = [
      { status: 507, body: { detail: "The disk is full.", code: "disk" } },
      { status: 502, body: "<html>" },
    ];
    const first = sendFile(file(10), "six", () => {}, null, null).done.catch((error: unknown) => error);
    await vi.runAllTimersAsync();
    expect(await first).toMatchObject({ message: "The disk is full.", code: "disk", status: 507 });
    const second = sendFile(file(10), "seven", () => {}, null, null).done.catch((error: unknown) => error);
    await vi.runAllTimersAsync();
    expect(((await second) as Trouble).message).toMatch(/answered with 502 and no reason/);
  });

  it("ends when it is stopped, also while it waits to be tried again", async () => {
    answers = [whole];
    const running = sendFile(file(10), "eight", () => {}, null, null);
    running.stop();
    await expect(running.done).rejects.toMatchObject({ code: "stopped" });
    const waiting = sendFile(file(9 * MB), "nine", () => {}, null, null);
    const told = waiting.done.catch((error: unknown) => error);
    await vi.advanceTimersByTimeAsync(100);
    waiting.stop();
    await vi.runAllTimersAsync();
    expect(await told).toMatchObject({ code: "stopped" });
  });
});
