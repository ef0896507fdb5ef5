import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { client, data, Trouble } from "../api/client";
import { keys } from "../api/keys";
import { PatternField, strokesOf } from "../parts/names/PatternField";
import styles from "../ui/text.module.css";
import type { Kind } from "./areaDrafts";

const TYPING_MS = 150;

/** A kind's patterns in an outline, with what they make of a made-up paper. */
export function OutlineKind(props: { area: string; kind: Kind; onChange: (part: Partial<Kind>) => void }): ReactNode {
  const { kind, onChange } = props;
  const [settled, setSettled] = useState(kind);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(kind), TYPING_MS);
    return () => window.clearTimeout(timer);
  }, [kind]);
  const tried = useQuery({
    queryKey: keys.outlineTried(settled.kind, settled.name, settled.place),
    enabled: settled.name !== "" && settled.place !== "",
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      data(
        client.POST("/api/outlines/try", {
          body: { kind: settled.kind, name: settled.name, place: settled.place },
        }),
      ),
  });
  const wrong = tried.error instanceof Trouble ? tried.error : null;
  const problem = (field: string) => (wrong?.field === field ? { text: wrong.message, at: wrong.at } : null);
  const strokes = strokesOf(kind.name, kind.place);
  return (
    <fieldset className="outline-kind">
      <legend>{kind.label}</legend>
      <PatternField
        id={`outline-${kind.kind}-name`}
        label="Name"
        value={kind.name}
        strokes={strokes}
        problem={problem("name")}
        onChange={(name) => onChange({ name })}
      />
      <PatternField
        id={`outline-${kind.kind}-place`}
        label="Place"
        value={kind.place}
        strokes={strokes}
        problem={problem("place")}
        onChange={(place) => onChange({ place })}
      />
      {tried.data && !wrong && kind.name && kind.place && (
        <p className="outline-example">
          <span className={styles.quiet}>For example </span>
          <span className="mono">
            {props.area}/{tried.data.place}/<b>{tried.data.name}</b>
          </span>
        </p>
      )}
    </fieldset>
  );
}
