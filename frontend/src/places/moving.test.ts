import { describe, expect, it } from "vitest";
import { called, done, VERBS } from "./moving";

describe("what is put somewhere, in words", () => {
  const one = { entries: [1], name: "keel.pdf" };
  const two = { entries: [1, 2], name: "keel.pdf" };
  const folder = { entries: [], name: "the folder Jobs", folder: 7 };

  it("is called by its name, or counted", () => {
    expect(called(one)).toBe("keel.pdf");
    expect(called(two)).toBe("2 documents");
    expect(called(folder)).toBe("the folder Jobs");
  });

  it("tells what was done with it", () => {
    expect(done("move", one, "Yard / Jobs")).toBe("Moved keel.pdf to Yard / Jobs");
    expect(done("also", two, "Yard")).toBe("Also filed 2 documents in Yard");
    expect(done("copy", folder, "Yard")).toBe("Copied the folder Jobs to Yard");
    expect(VERBS.also).toBe("Also file in");
  });
});
