// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { type ReactNode, useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { aLine } from "../testing/manifests";
import { notice, show } from "../testing/page";
import { bodies, Refusal, serve } from "../testing/server";
import { VOCABULARY } from "../testing/vocabulary";
import { Lacking } from "./Lacking";

const parties = { parties: [{ id: 7, name: "Tollgate Timber", short: "tollgate", code: "tt" }] };
const lines = [
  aLine({ line: 0, document: 11, from_name: "scan.pdf", state: "blocked", missing: ["issued", "party"] }),
  aLine({ line: 1, document: 12, from_name: "plan.pdf" }),
  aLine({ line: 2, document: 13, from_name: "bill.pdf", state: "blocked", missing: ["party"] }),
];

async function filling(onFilled = vi.fn(), read: string[] = []) {
  serve({ "GET /api/vocabulary": VOCABULARY, "GET /api/parties": parties });
  const user = show(<Lacking lines={lines} read={read} onFilled={onFilled} />);
  await screen.findByRole("region");
  return { user, onFilled };
}

/** The table under a pattern that reads some fields, others, or none. */
function Both(): ReactNode {
  const [read, setRead] = useState<string[]>([]);
  return (
    <>
      {[["party"], ["party", "issued"], []].map((fields) => (
        <button key={fields.join()} type="button" onClick={() => setRead(fields)}>
          {`read ${fields.join() || "none"}`}
        </button>
      ))}
      <Lacking lines={lines} read={read} onFilled={() => {}} />
    </>
  );
}

describe("facts that are lacking", () => {
  it("are asked for where a document lacks them, and nowhere else", async () => {
    await filling();
    expect(screen.getByRole("region").textContent).toContain("2 documents lack facts");
    expect(screen.getAllByRole("columnheader").map((one) => one.textContent)).toEqual(["Document", "Issued", "Party"]);
    expect(screen.getByLabelText("Party of bill.pdf")).toBeTruthy();
    expect(screen.queryByLabelText("Issued of bill.pdf")).toBeNull();
    expect(screen.queryByText("plan.pdf")).toBeNull();
  });

  it("are not asked for where the names themselves tell them", async () => {
    await filling(vi.fn(), ["party"]);
    expect(screen.getByRole("region").textContent).toContain("1 document lacks facts");
    expect(screen.getAllByRole("columnheader").map((one) => one.textContent)).toEqual(["Document", "Issued"]);
    expect(screen.queryByText("bill.pdf")).toBeNull();
  });

  it("are kept as they are typed, a code as the party that has it", async () => {
    serve({ "PATCH /api/documents/13/facts": {} });
    const { user, onFilled } = await filling();
    const keep = screen.getByRole("button", { name: "Save these facts" }) as HTMLButtonElement;
    expect(keep.disabled).toBe(true);
    await user.type(screen.getByLabelText("Party of bill.pdf"), " tt ");
    await user.click(keep);
    await waitFor(() => expect(onFilled).toHaveBeenCalledOnce());
    expect(bodies("PATCH /api/documents/13/facts")).toEqual([{ field: "party", value: { party: 7 } }]);
    expect(notice()).toContain("1 fact saved.");
  });

  it("are pasted from a table; what a document does not lack is left alone", async () => {
    const kept: unknown[] = [];
    const keeps = (body: never) => kept.push(body) && {};
    serve({ "PATCH /api/documents/11/facts": keeps, "PATCH /api/documents/13/facts": keeps });
    const { user, onFilled } = await filling();
    await user.click(screen.getByLabelText("Issued of scan.pdf"));
    await user.paste("2026-03-18\ttt\r\n2026-03-19\ttollgate\r\nmore\tthan there is\r\n");
    expect((screen.getByLabelText("Issued of scan.pdf") as HTMLInputElement).value).toBe("2026-03-18");
    expect(notice()).toContain("3 pasted cells left out: no field for them here.");
    await user.click(screen.getByRole("button", { name: "Save these facts" }));
    await waitFor(() => expect(onFilled).toHaveBeenCalled());
    expect(kept).toEqual([
      { field: "issued", value: "2026-03-18" },
      { field: "party", value: { party: 7 } },
      { field: "party", value: { party: 7 } },
    ]);
    expect(notice()).toContain("3 facts saved.");
  });

  it("that are refused stay, with the reason at their place; the others are kept", async () => {
    serve({
      "PATCH /api/documents/11/facts": {},
      "PATCH /api/documents/13/facts": new Refusal(409, { detail: "Odalys changed it meanwhile." }),
    });
    const { user, onFilled } = await filling();
    await user.click(screen.getByLabelText("Issued of scan.pdf"));
    await user.paste("31.31.2025\ttt\n\ttt");
    await user.click(screen.getByRole("button", { name: "Save these facts" }));
    await waitFor(() => expect(onFilled).toHaveBeenCalled());
    const wrong = screen.getByLabelText("Issued of scan.pdf") as HTMLInputElement;
    expect(wrong.value).toBe("31.31.2025");
    expect(wrong.closest(".ant-select-status-error")).toBeTruthy();
    expect(screen.getByText("“31.31.2025” is no date; write it as 18.3.2026 or 2026-03-18")).toBeTruthy();
    expect((screen.getByLabelText("Party of scan.pdf") as HTMLInputElement).value).toBe("");
    expect((screen.getByLabelText("Party of bill.pdf") as HTMLInputElement).value).toBe("tt");
    expect(screen.getByText("Odalys changed it meanwhile.")).toBeTruthy();
    expect(notice()).toContain("1 fact saved.");
  });

  it("of which none could be kept are not planned anew", async () => {
    const { user, onFilled } = await filling();
    await user.type(screen.getByLabelText("Party of bill.pdf"), "nobody such");
    await user.click(screen.getByRole("button", { name: "Save these facts" }));
    await screen.findByText(/“nobody such” is no party/);
    expect(onFilled).not.toHaveBeenCalled();
  });

  it("stay as typed while the pattern asks for others, and are kept when it asks for them again", async () => {
    serve({ "GET /api/vocabulary": VOCABULARY, "GET /api/parties": parties, "PATCH /api/documents/11/facts": {} });
    const user = show(<Both />);
    await screen.findByRole("region");
    await user.type(screen.getByLabelText("Party of bill.pdf"), "tt");
    await user.click(screen.getByText("read party"));
    await user.type(screen.getByLabelText("Issued of scan.pdf"), "2026-03-18");
    await user.click(screen.getByText("read party,issued"));
    expect(screen.queryByRole("region")).toBeNull();
    await user.click(screen.getByText("read party"));
    await user.click(screen.getByRole("button", { name: "Save these facts" }));
    await waitFor(() => expect(notice()).toContain("1 fact saved."));
    await user.click(screen.getByText("read none"));
    expect((screen.getByLabelText("Party of bill.pdf") as HTMLInputElement).value).toBe("tt");
    expect((screen.getByLabelText("Issued of scan.pdf") as HTMLInputElement).value).toBe("");
  });

  it("stay as typed while one looks at something else", async () => {
    const { user } = await filling();
    await user.type(screen.getByLabelText("Party of bill.pdf"), "tt");
    cleanup();
    await filling();
    expect(screen.getByLabelText<HTMLInputElement>("Party of bill.pdf").value).toBe("tt");
  });

  it("are not asked for where none is lacking", () => {
    serve({ "GET /api/vocabulary": VOCABULARY, "GET /api/parties": parties });
    show(<Lacking lines={lines.slice(1, 2)} read={[]} onFilled={() => {}} />);
    expect(screen.queryByRole("region")).toBeNull();
  });

  it("tell the folder of each document, and show its page beside the field in focus", async () => {
    serve({ "GET /api/vocabulary": VOCABULARY, "GET /api/parties": parties });
    const placed = { ...lines[0], from_place: "Old share / Scans" } as (typeof lines)[0];
    const user = show(<Lacking lines={[placed, ...lines.slice(1)]} read={[]} onFilled={() => {}} />);
    await screen.findByRole("region");
    expect(screen.getByText("Old share / Scans")).toBeTruthy();
    expect(screen.queryByRole("complementary")).toBeNull();
    await user.click(screen.getByLabelText("Party of bill.pdf"));
    expect(screen.getByRole("complementary", { name: "Page of bill.pdf" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "scan.pdf" }));
    const page = screen.getByRole("complementary", { name: "Page of scan.pdf" });
    expect(page.querySelector("img")?.getAttribute("src")).toBe("/api/documents/11/pages/1");
    expect(screen.getByRole("link", { name: "Open it" }).getAttribute("href")).toBe("/documents/11");
    fireEvent.error(page.querySelector("img") as HTMLElement);
    expect(screen.getByText("It has no page to show.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Close" }));
    expect(screen.queryByRole("complementary")).toBeNull();
  });

  it("offer both days that a date can mean, and save the one that is taken", async () => {
    const SAVE = "PATCH /api/documents/11/facts";
    serve({ [SAVE]: { title: "Fact changed" } });
    const { user } = await filling();
    await user.type(screen.getByLabelText("Issued of scan.pdf"), "03-04-26");
    const other = await screen.findByText("4 Mar 2026", { selector: ".ant-select-item-option-content" });
    expect(screen.getByText("3 Apr 2026", { selector: ".ant-select-item-option-content" })).toBeTruthy();
    await user.click(other);
    await user.click(screen.getByRole("button", { name: "Save these facts" }));
    await waitFor(() => expect(bodies(SAVE)).toEqual([{ field: "issued", value: "2026-03-04" }]));
  });
});
