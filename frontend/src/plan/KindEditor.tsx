import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useEffect, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { keys } from "../api/keys";
import { useVocabulary } from "../api/queries";
import { PatternField, strokesOf } from "../parts/names/PatternField";
import { same, useTyped } from "../parts/typing/typed";
import { count } from "../ui/format";
import { PickOne } from "../ui/PickOne";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { kindPlace, useKeeping } from "./keeping";

const TYPING_MS = 150;

/** One kind's patterns: typed, with what they make of the area's own documents at once; kept as a revision. */
export function KindEditor(props: { plan: Schemas["PlanOut"]; kind: Schemas["KindPlanOut"] }): ReactNode {
  const { plan, kind } = props;
  const { busy, keep } = useKeeping(plan);
  const facts = (useVocabulary().data?.fields ?? []).filter((one) => !one.built_in && one.editor !== "kind");
  const typedAt = plan.keeps ? kindPlace(plan.area, kind.kind) : undefined;
  const [name, setName, nameKept] = useTyped(kind.name, typedAt && `${typedAt}/name`);
  const [place, setPlace, placeKept] = useTyped(kind.place, typedAt && `${typedAt}/place`);
  const [expects, setExpects, expectsKept] = useTyped(kind.expects, typedAt && `${typedAt}/expects`);
  const [settled, setSettled] = useState({ name, place });
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled({ name, place }), TYPING_MS);
    return () => window.clearTimeout(timer);
  }, [name, place]);
  const changed = name !== kind.name || place !== kind.place || !same(expects, kind.expects);
  const tried = useQuery({
    queryKey: keys.tryPlan(plan.area, plan.revision, kind.kind, settled.name, settled.place),
    enabled: settled.name !== "" && settled.place !== "",
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      data(
        client.POST("/api/plans/{folder}/try", {
          params: { path: { folder: plan.area } },
          body: { kind: kind.kind, ...settled },
        }),
      ),
  });
  const wrong = tried.error instanceof Trouble ? tried.error : null;
  const problem = (field: string) => (wrong && wrong.field === field ? { text: wrong.message, at: wrong.at } : null);
  const strokes = strokesOf(name, place);
  const complete = (name === "") === (place === "");
  const adopt = (kept: Schemas["KindPlanOut"]) => {
    nameKept(kept.name);
    placeKept(kept.place);
    expectsKept(kept.expects);
  };
  const save = () =>
    keep({
      change: { kinds: { [kind.kind]: { name, place, expects } } },
      text: `Saved as revision ${plan.revision + 1} of the plan of ${plan.name}.`,
      after: (kept) => adopt(kept.kinds.find((one) => one.kind === kind.kind) ?? kind),
    });
  const examples = name && place ? (tried.data?.examples ?? []) : [];
  const fit = tried.data && name && place ? tried.data : null;
  return (
    <form
      className="kind-editor"
      onSubmit={(event) => {
        event.preventDefault();
        if (changed && complete && !wrong && !busy) save();
      }}
    >
      <h2>{kind.label}</h2>
      <PatternField
        id="plan-name"
        label="Name"
        value={name}
        strokes={strokes}
        problem={problem("name")}
        readOnly={!plan.keeps}
        placeholder="<issued yyyy-MM-dd>_<party short>_<ref>"
        onChange={setName}
      />
      <PatternField
        id="plan-place"
        label={`Place in ${plan.name}`}
        value={place}
        strokes={strokes}
        problem={problem("place")}
        readOnly={!plan.keeps}
        placeholder="Invoices/<issued yyyy>"
        onChange={setPlace}
      />
      <Expected expects={expects} facts={facts} readOnly={!plan.keeps || !name} onChange={setExpects} />
      {wrong && wrong.code !== "pattern" && <Problem small>{wrong.message}</Problem>}
      {tried.data?.warnings.map((warning) => (
        <p key={warning} className={`signal ${styles.small}`}>
          {warning}
        </p>
      ))}
      {fit?.of === 0 && <p className={styles.quiet}>No document of this kind is filed in {plan.name} yet.</p>}
      {fit && fit.of > 0 && (
        <p>
          <span className={fit.fit === fit.of ? "ok" : "signal"}>
            <b>{count(fit.fit)}</b> of {count(fit.of)} names fit
          </span>
          {!changed && fit.fit < fit.of && (
            <>
              {" "}
              · <Link to={`/manifests/new?folder=${plan.area}&below=true&do=plan`}>name the others by the plan</Link>
            </>
          )}
        </p>
      )}
      {examples.length > 0 && (
        <div className="examples">
          <h3 className="label">Its own documents would be</h3>
          <ul>
            {examples.map((one) => (
              <li key={one.document}>
                <span className={`${styles.quiet} mono`}>{one.now}</span>
                {one.why ? (
                  <span className={`signal ${styles.small}`}>{one.why}</span>
                ) : (
                  <span className="mono">
                    {one.place}/<b>{one.name}</b>
                  </span>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      {plan.keeps ? (
        <div className="line-actions">
          <Button
            htmlType="submit"
            type="primary"
            disabled={
              !changed || !complete || wrong !== null || busy || settled.name !== name || settled.place !== place
            }
          >
            Save as revision {plan.revision + 1}
          </Button>
          <Button disabled={!changed || busy} onClick={() => adopt(kind)}>
            {SAY.reset}
          </Button>
        </div>
      ) : (
        <p className={`${styles.small} ${styles.quiet}`}>Keepers of {plan.name} change its plan.</p>
      )}
      {!complete && <p className={`${styles.small} signal`}>A kind needs both patterns, or none.</p>}
    </form>
  );
}

/** The facts that a slip of the kind asks for, in its order: one put in or taken out. */
function Expected(props: {
  expects: string[];
  facts: Schemas["FieldOut"][];
  readOnly: boolean;
  onChange: (expects: string[]) => void;
}): ReactNode {
  const { expects, facts } = props;
  const others = facts.filter((one) => !expects.includes(one.field));
  const label = (field: string) => facts.find((one) => one.field === field)?.label ?? field;
  return (
    <fieldset className="expected">
      <legend className="label">Facts that its slip asks for</legend>
      {expects.map((field) => (
        <span key={field} className="chip">
          {label(field)}
          {!props.readOnly && (
            <Button
              type="text"
              size="small"
              aria-label={`Do not ask for ${label(field)}`}
              onClick={() => props.onChange(expects.filter((one) => one !== field))}
            >
              ×
            </Button>
          )}
        </span>
      ))}
      {!props.readOnly && (
        <PickOne
          size="small"
          className="chip-add"
          aria-label="Ask for another fact"
          placeholder="+ fact"
          of={others.map((one) => [one.field, one.label] as const)}
          value={null}
          onChange={(field) => props.onChange([...expects, field])}
        />
      )}
    </fieldset>
  );
}
