import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { Choice } from "../ui/Choice";
import { Dialog } from "../ui/Dialog";
import { several } from "../ui/format";
import { SAY } from "../ui/wording";
import type { Rule } from "./tree";
import { useKeepRules } from "./useKeepRules";

/** Run a draft as the next revision: a word why, and whether it files by itself. */
export function SaveDialog(props: {
  kept: Schemas["RulebookOut"];
  text: string;
  /** What its rules lack that colleagues will ask for. */
  rules: Rule[];
  onKept: (text: string) => void;
  onClose: () => void;
}): ReactNode {
  const { kept, text } = props;
  const [why, setWhy] = useState("");
  const [byItself, setByItself] = useState(kept.by_itself);
  const { busy, keep } = useKeepRules(kept);
  const body = { text, revision: null, against: null, on: "waiting" as const, rule: null, show: null, limit: 1 };
  const tried = useQuery({
    queryKey: keys.tryRules(kept.area, kept.revision, body),
    queryFn: () => data(client.POST("/api/rulebooks/{folder}/try", { params: { path: { folder: kept.area } }, body })),
  });
  const files = tried.data?.becomes.files ?? 0;
  const next = kept.revision + 1;
  const nameless = props.rules.filter((one) => !one.owner || !one.purpose).slice(0, 5);
  const run = () =>
    keep({
      change: { text, why, by_itself: byItself },
      text: (now) => `Revision ${now.revision} of the rules of ${kept.name} is running.`,
      after: (now) => {
        props.onKept(now.text);
        props.onClose();
      },
    });
  return (
    <Dialog title={`Run as revision ${next}`} onClose={props.onClose}>
      <form
        className="save-rules"
        onSubmit={(event) => {
          event.preventDefault();
          run();
        }}
      >
        <label>
          A word why{" "}
          <Input
            value={why}
            maxLength={300}
            placeholder="what it changes, and why"
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
        <Choice
          label="What the rules do with what arrives"
          of={[
            [false, "They propose"],
            [true, "They file by themselves when sure"],
          ]}
          value={byItself}
          onChange={setByItself}
        />
        <p role="status">
          {byItself
            ? files
              ? `${several(files, "document")} that ${files === 1 ? "waits" : "wait"} will be filed at once.`
              : "Nothing that waits will be filed at once."
            : "A person files what arrives; the rules fill in its slip."}
        </p>
        {nameless.length > 0 && (
          <p className="signal">
            {nameless.map((one) => `“${one.name}”`).join(", ")} {nameless.length === 1 ? "has" : "have"} no owner or no
            purpose: who answers for it, and what is it for?
          </p>
        )}
        <footer>
          <Button onClick={props.onClose}>{SAY.cancel}</Button>
          <Button type="primary" htmlType="submit" disabled={busy}>
            Run as revision {next} <kbd>Enter</kbd>
          </Button>
        </footer>
      </form>
    </Dialog>
  );
}
