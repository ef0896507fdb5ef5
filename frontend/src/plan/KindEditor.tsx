import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { useVocabulary } from "../api/queries";
import { useNotices, words } from "../app/notices";
import { count } from "../parts/format";
import { PatternField, strokesOf } from "../parts/PatternField";
import { AS_IT_IS } from "./change";

const TYPING_MS = 150;

/** One kind's patterns: typed, with what they make of the area's own documents at once; kept as a revision. */
export function KindEditor(props: { plan: Schemas["PlanOut"]; kind: Schemas["KindPlanOut"] }): ReactNode {
  const { plan, kind } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const labels = useVocabulary().data?.labels ?? {};
  const [name, setName] = useState(kind.name);
  const [place, setPlace] = useState(kind.place);
  const [expects, setExpects] = useState(kind.expects);
  const [settled, setSettled] = useState({ name, place });
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled({ name, place }), TYPING_MS);
    return () => window.clearTimeout(timer);
  }, [name, place]);
  const changed = name !== kind.name || place !== kind.place || expects.join() !== kind.expects.join();
  const tried = useQuery({
    queryKey: ["plan-try", plan.area, plan.revision, kind.kind, settled.name, settled.place],
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
  const save = async () => {
    setBusy(true);
    try {
      const body = { ...AS_IT_IS, revision: plan.revision, kinds: { [kind.kind]: { name, place, expects } } };
      await data(client.PUT("/api/plans/{folder}", { params: { path: { folder: plan.area } }, body }));
      tell({ text: `Kept as revision ${plan.revision + 1} of the plan of ${plan.name}.` });
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    setBusy(false);
    await queries.invalidateQueries();
  };
  const examples = name && place ? (tried.data?.examples ?? []) : [];
  const fit = tried.data && name && place ? tried.data : null;
  return (
    <form
      className="kind-editor"
      onSubmit={(event) => {
        event.preventDefault();
        if (changed && complete && !wrong && !busy) void save();
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
      <Expected expects={expects} labels={labels} readOnly={!plan.keeps || !name} onChange={setExpects} />
      {wrong && wrong.code !== "pattern" && <p className="problem small">{wrong.message}</p>}
      {tried.data?.warnings.map((warning) => (
        <p key={warning} className="signal small">
          {warning}
        </p>
      ))}
      {fit && (
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
                <span className="quiet mono">{one.now}</span>
                {one.why ? (
                  <span className="signal small">{one.why}</span>
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
          <button
            type="submit"
            className="button primary"
            disabled={
              !changed || !complete || wrong !== null || busy || settled.name !== name || settled.place !== place
            }
          >
            Keep as revision {plan.revision + 1}
          </button>
          <button
            type="button"
            className="button"
            disabled={!changed || busy}
            onClick={() => {
              setName(kind.name);
              setPlace(kind.place);
              setExpects(kind.expects);
            }}
          >
            As it was
          </button>
        </div>
      ) : (
        <p className="small quiet">Keepers of {plan.name} change its plan.</p>
      )}
      {!complete && <p className="small signal">A kind needs both patterns, or none.</p>}
    </form>
  );
}

/** The facts that a slip of the kind asks for, in its order: one put in or taken out. */
function Expected(props: {
  expects: string[];
  labels: Record<string, string>;
  readOnly: boolean;
  onChange: (expects: string[]) => void;
}): ReactNode {
  const { expects, labels } = props;
  const others = Object.keys(labels).filter((field) => field !== "kind" && !expects.includes(field));
  return (
    <fieldset className="expected">
      <legend className="label">Facts that its slip asks for</legend>
      {expects.map((field) => (
        <span key={field} className="chip">
          {labels[field] ?? field}
          {!props.readOnly && (
            <button
              type="button"
              className="plain"
              aria-label={`Do not ask for ${labels[field] ?? field}`}
              onClick={() => props.onChange(expects.filter((one) => one !== field))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {!props.readOnly && (
        <select
          className="chip-add"
          aria-label="Ask for another fact"
          value=""
          onChange={(event) => props.onChange([...expects, event.target.value])}
        >
          <option value="">+ fact</option>
          {others.map((field) => (
            <option key={field} value={field}>
              {labels[field]}
            </option>
          ))}
        </select>
      )}
    </fieldset>
  );
}
