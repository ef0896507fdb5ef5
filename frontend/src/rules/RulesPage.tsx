import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useContext, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { useAskRules } from "../parts/plan/askRules";
import { PlanNav } from "../parts/plan/PlanNav";
import { Choice } from "../ui/Choice";
import { several } from "../ui/format";
import { type Key, useKeys } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { Sides } from "../ui/Sides";
import { SessionContext } from "../ui/session";
import { Failed, Loading, Nothing } from "../ui/states";
import styles from "../ui/text.module.css";
import "../parts/lines/grid.css";
import "./rules.css";
import { useNewRules } from "./beginnings";
import { Lets } from "./Lets";
import { Offers } from "./Offers";
import { RevisionsDialog } from "./RevisionsDialog";
import { RuleList } from "./RuleList";
import { SaveDialog } from "./SaveDialog";
import { TextPane } from "./TextPane";
import { TrialPane } from "./TrialPane";
import { newRule, type Rule } from "./tree";
import { useDraft } from "./useDraft";

/** The filing rules of an area: as sentences, as text, and what they would do. */
export default function RulesPage(): ReactNode {
  const area = Number(useParams().area);
  const navigate = useNavigate();
  const areas = useQuery({ queryKey: keys.areas, queryFn: () => data(client.GET("/api/plans")) });
  const kept = useQuery({
    queryKey: keys.rulebook(area),
    queryFn: () => data(client.GET("/api/rulebooks/{folder}", { params: { path: { folder: area } } })),
  });
  if (kept.isError && !kept.data)
    return (
      <main className="main">
        <Failed what="The rules" error={kept.error} onAgain={kept.refetch} />
      </main>
    );
  return (
    <main className="rules-page">
      <header className="rules-top">
        <h1>Rules</h1>
        <Choice
          label="Area"
          of={(areas.data?.areas ?? []).map((one) => [one.id, one.name] as const)}
          value={area}
          onChange={(id) => void navigate(`/plan/${id}/rules`)}
        />
        <PlanNav area={area} />
        <span className="spring" />
        <span id="rules-acts" />
      </header>
      {kept.data ? <Rulebook key={area} kept={kept.data} /> : <Loading />}
    </main>
  );
}

function Rulebook(props: { kept: Schemas["RulebookOut"] }): ReactNode {
  const { kept } = props;
  const navigate = useNavigate();
  const draft = useDraft(kept);
  const [chosen, setChosen] = useState<number | null>(null);
  const [saving, setSaving] = useState(false);
  const [revisions, setRevisions] = useState(false);
  const known = useQuery({
    queryKey: keys.ruleWords,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => data(client.GET("/api/rulebooks/words")),
  });
  const figures = useQuery({
    queryKey: keys.ruleFigures(kept.area),
    queryFn: () => data(client.GET("/api/rulebooks/{folder}/figures", { params: { path: { folder: kept.area } } })),
  });
  const { rules, checked } = draft;
  const wrong = draft.edited !== null || draft.settled !== draft.text || !checked || checked.rules === null;
  const can = kept.keeps && draft.changed && !wrong;
  const keysHere = useMemo<Key[]>(
    () => [
      {
        keys: "Ctrl+Enter",
        what: "Run the draft",
        anywhere: true,
        match: (e) => e.key === "Enter" && (e.ctrlKey || e.metaKey),
        run: () => can && setSaving(true),
      },
      {
        keys: "F6",
        what: "To the next column: sentences, text, trial",
        anywhere: true,
        match: (e) => e.key === "F6" && !e.shiftKey,
        run: nextColumn,
      },
    ],
    [can],
  );
  useKeys(keysHere);
  const before = useMemo(
    () => new Map((kept.checked.rules ?? []).map((rule) => [rule.name, said(rule)])),
    [kept.checked.rules],
  );
  const numbers = useMemo(() => new Map(rules.map((rule, index) => [rule.name, index + 1])), [rules]);
  const differing = rules.filter((rule) => before.get(rule.name) !== said(rule)).length;
  const rule = chosen === null ? undefined : rules[chosen];
  const change = (next: Rule[], at: number) => {
    draft.edit(next);
    setChosen(at);
  };
  const add = (more: Rule[]) => change([...rules, ...more], rules.length);
  const me = useContext(SessionContext)?.me.name ?? "";
  const beginnings = useNewRules(me);
  const askRules = useAskRules();
  return (
    <>
      <div className="rules-state">
        <span className={styles.quiet}>
          {kept.revision ? `Revision ${kept.revision} is running: ` : "No rules are running. "}
          {kept.revision > 0 && (kept.by_itself ? "it files by itself when sure." : "it proposes.")}
          {draft.changed && ` Your draft differs${differing ? ` in ${several(differing, "rule")}` : ""}.`}
        </span>
        <span className="spring" />
        {kept.revision > 0 && <LinkButton onClick={() => setRevisions(true)}>Revisions ({kept.revision})</LinkButton>}
        <LinkButton
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(draft.text)}`}
          download={`rules of ${kept.name}.txt`}
        >
          Save as a file
        </LinkButton>
        {draft.changed && <Button onClick={draft.drop}>Drop the draft</Button>}
        {kept.keeps && kept.revision > 0 && !draft.changed && (
          <Button onClick={() => setSaving(true)}>{kept.by_itself ? "Only propose…" : "File by itself…"}</Button>
        )}
        {kept.keeps && draft.changed && (
          <Button type="primary" disabled={!can} onClick={() => setSaving(true)}>
            Run as revision {kept.revision + 1} <kbd>Ctrl+Enter</kbd>
          </Button>
        )}
      </div>
      <Sides
        name="rules"
        start={{
          width: [440, 380],
          content: (
            <section className="rules-sentences" aria-label="The rules as sentences">
              <div className="rules-head">
                <h2>As sentences</h2>
                <span className={styles.quiet}>asked from the top</span>
              </div>
              <div className="rules-scroll">
                {rules.length === 0 && (
                  <Nothing title="No rule yet">
                    {kept.keeps ? "Begin with one of these, and change it." : `Keepers of ${kept.name} make them.`}
                  </Nothing>
                )}
                {rules.length === 0 && kept.keeps && (
                  <ul className="beginnings">
                    {beginnings.map((one) => (
                      <li key={one.name}>
                        <Button onClick={() => add([one])}>{one.name}</Button>{" "}
                        <span className={styles.quiet}>{one.purpose}</span>
                      </li>
                    ))}
                  </ul>
                )}
                <RuleList
                  rules={rules}
                  wrong={draft.edited?.wrong ?? []}
                  words={known.data}
                  keeps={kept.keeps}
                  chosen={chosen}
                  figures={figures.data?.rules ?? []}
                  changed={(one) => before.get(one.name) !== said(one)}
                  onChoose={setChosen}
                  onChange={change}
                  onRuns={(name) => void navigate(`/plan/${kept.area}/runs?rule=${encodeURIComponent(name)}`)}
                />
                <Offers kept={kept} rules={rules} onTake={(one) => add([one])} />
                <Lets kept={kept} />
              </div>
              <footer>
                {kept.keeps && (
                  <Button
                    onClick={() =>
                      add([
                        newRule(
                          rules.map((one) => one.name),
                          me,
                        ),
                      ])
                    }
                  >
                    New rule
                  </Button>
                )}
              </footer>
            </section>
          ),
        }}
        end={{
          width: [430, 360],
          content: (
            <TrialPane
              area={kept.area}
              draft={draft}
              revision={kept.revision}
              rule={rule?.name ?? null}
              numbers={numbers}
              onManifest={kept.keeps && !wrong ? () => askRules({ folder: kept.area }, draft.text) : null}
            />
          ),
        }}
      >
        <TextPane
          draft={draft}
          keeps={kept.keeps}
          chosen={rule && !draft.edited ? linesOf(rules, chosen ?? 0, draft.text) : null}
          onLine={(line) => {
            const at = rules.findLastIndex((one) => one.line <= line);
            if (at >= 0 && !draft.edited) setChosen(at);
          }}
        />
      </Sides>
      {saving && (
        <SaveDialog
          kept={kept}
          text={draft.text}
          rules={rules}
          onKept={draft.keptAs}
          onClose={() => setSaving(false)}
        />
      )}
      {revisions && <RevisionsDialog kept={kept} onKept={draft.keptAs} onClose={() => setRevisions(false)} />}
    </>
  );
}

/** Puts the focus into the column after the one that has it. */
function nextColumn(): void {
  const columns = [
    ".rules-sentences [data-rule], .rules-sentences button",
    ".rules-text textarea",
    ".rules-trial button, .rules-trial input",
  ];
  const here = columns.findIndex((_, at) => document.activeElement?.closest(PANES[at] ?? ""));
  const next = (here + 1) % columns.length;
  document.querySelector<HTMLElement>(columns[next] ?? "")?.focus();
}
const PANES = [".rules-sentences", ".rules-text", ".rules-trial"];

/** What a rule says, wherever it stands. */
function said(rule: Rule): string {
  return JSON.stringify({ ...rule, line: 0 });
}

/** The first and last line of a rule in the text, the comments before it among them. */
function linesOf(rules: Rule[], index: number, text: string): [number, number] {
  const lines = text.split("\n");
  const rule = rules[index];
  const next = rules[index + 1];
  let last = next ? next.line - next.before.length - 1 : lines.length;
  while (last > 0 && !lines[last - 1]?.trim()) last--;
  return [rule ? rule.line - rule.before.length : 0, last];
}
