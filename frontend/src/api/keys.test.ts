import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { askAgain, keys } from "./keys";

describe("asking again", () => {
  it("asks once more for what was on its way for the first time: that answer may be of before", async () => {
    const answers: ((state: string) => void)[] = [];
    const asked = vi.fn(() => new Promise<string>((done) => answers.push(done)));
    const queries = new QueryClient();
    const shown = new QueryObserver(queries, { queryKey: keys.slip(7), queryFn: asked });
    const leave = shown.subscribe(() => undefined);
    void askAgain(queries, "arrivals");
    answers[0]?.("being read");
    await vi.waitFor(() => expect(asked).toHaveBeenCalledTimes(2));
    answers[1]?.("read");
    await vi.waitFor(() => expect(shown.getCurrentResult().data).toBe("read"));
    expect(asked).toHaveBeenCalledTimes(2);
    leave();
  });

  it("asks for nothing of other subjects", async () => {
    const asked = vi.fn(() => Promise.resolve("told"));
    const queries = new QueryClient();
    const leave = new QueryObserver(queries, { queryKey: keys.tags, queryFn: asked }).subscribe(() => undefined);
    await vi.waitFor(() => expect(queries.getQueryData(keys.tags)).toBe("told"));
    await askAgain(queries, "arrivals");
    expect(asked).toHaveBeenCalledOnce();
    await askAgain(queries, "drive");
    expect(asked).toHaveBeenCalledTimes(2);
    leave();
  });
});
