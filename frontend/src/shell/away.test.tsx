// @vitest-environment jsdom
import { useQuery } from "@tanstack/react-query";
import { act, screen, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, test } from "vitest";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { reached } from "../api/reach";
import { show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { AwayLine } from "./AwayLine";

afterEach(() => act(() => reached(true)));

function Tags(): ReactNode {
  useQuery({ queryKey: keys.tags, queryFn: () => data(client.GET("/api/tags")) });
  return null;
}

test.each([
  ["a gateway that reaches nothing", new Refusal(502, {})],
  ["a server that begins", new Refusal(503, { code: "starting", detail: "Waka is starting." })],
])("%s is told in a line; when it is back, what is shown is asked for anew", async (_, away) => {
  serve({ "GET /api/tags": away, "GET /api/pulse": { stamp: "1", arrivals: 0 } });
  show(
    <>
      <AwayLine />
      <Tags />
    </>,
  );
  await screen.findByText(/Waka does not answer/);
  serve({ "GET /api/tags": { tags: [] } });
  await data(client.GET("/api/pulse"));
  await waitFor(() => expect(screen.queryByText(/Waka does not answer/)).toBeNull());
  await waitFor(() => expect(bodies("GET /api/tags").length).toBe(2));
});

test("what the server refuses does not make it away", async () => {
  serve({ "GET /api/tags": new Refusal(500, { detail: "Broken" }) });
  show(
    <>
      <AwayLine />
      <Tags />
    </>,
  );
  await waitFor(() => expect(bodies("GET /api/tags").length).toBe(1));
  expect(screen.queryByText(/Waka does not answer/)).toBeNull();
});
