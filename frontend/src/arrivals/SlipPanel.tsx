import { useQueryClient } from "@tanstack/react-query";
import { Button, Select } from "antd";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, data, type Schemas, Trouble } from "../api/client";
import { keys } from "../api/keys";
import { useField } from "../api/queries";
import { FactLine, goToFact } from "../parts/facts/FactLine";
import { Loupe } from "../parts/page/PageView";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { AlsoPlaces } from "./AlsoPlaces";
import { afterEdits, type Edit } from "./edits";
import { NameLine, PlaceLine } from "./NameAndPlace";
import { NewParty } from "./NewParty";
import { LikePlaces, Offers } from "./Offers";
import { SlipRules } from "./SlipRules";

type Slip = Schemas["SlipOut"];
type Props = {
  slip: Slip;
  focus: string | null;
  focused: Schemas["FactOut"] | undefined;
  onFocus: (field: string | null) => void;
  busy: boolean;
  onFile: () => void;
  onVersion: (document: number) => void;
  onPlaceOf: (document: number) => void;
  onPark: () => void;
  onArrange: () => void;
  onPutAway: () => void;
  onTakeOver: () => void;
};

export function SlipPanel(props: Props): ReactNode {
  const { slip } = props;
  const queries = useQueryClient();
  const [problem, setProblem] = useState<{ field: string | null; text: string } | null>(null);
  const held = slip.claimed_by !== null && !slip.claimed_by_me;

  // edits go one after another, each on the slip as the one before left it
  const edit: Edit = (form) =>
    afterEdits(async () => {
      const revision = queries.getQueryData<Slip>(keys.slip(slip.id))?.revision ?? slip.revision;
      try {
        const next = await data(
          client.PATCH("/api/arrivals/{arrival}", {
            params: { path: { arrival: slip.id } },
            body: {
              facts: {},
              drop: [],
              name: null,
              place: null,
              area: null,
              tags: null,
              whole: null,
              also: null,
              revision,
              ...form,
            },
          }),
        );
        setProblem(null);
        queries.setQueryData(keys.slip(slip.id), next);
        void queries.invalidateQueries({ queryKey: keys.waiting });
        return true;
      } catch (error) {
        const field = (error instanceof Trouble ? error.field : null) ?? Object.keys(form.facts ?? {})[0] ?? null;
        setProblem({ field, text: words(error) });
        if (error instanceof Trouble && error.code === "stale")
          void queries.invalidateQueries({ queryKey: keys.slip(slip.id) });
        return false;
      }
    });

  const box = props.focused && !props.focused.given ? props.focused.source.box : null;
  return (
    <div className="slip">
      <div className="slip-body">
        {props.focused && slip.pages.length > 0 && (
          <>
            <div className="label">On the page, enlarged</div>
            <Loupe
              document={slip.id}
              box={box}
              size={box ? slip.pages[box.page - 1] : undefined}
              none={props.focused.given ? `${props.focused.label} was written by hand.` : undefined}
              label={props.focused.label.toLowerCase()}
            />
          </>
        )}
        {held && (
          <div className="ask">
            <b>{slip.claimed_by} has it in hand.</b> <LinkButton onClick={props.onTakeOver}>Take it over</LinkButton>
          </div>
        )}
        {slip.problem && <div className="ask">{slip.problem}</div>}
        {slip.rules && <SlipRules rules={slip.rules} />}
        {slip.mismatch && <div className="ask">Look at its type: {slip.mismatch}.</div>}
        {slip.same.map((same) => (
          <div className="ask" key={same.document}>
            The same file is filed already as <Link to={`/documents/${same.document}`}>{same.name}</Link> in {same.path}
            .{" "}
            <LinkButton disabled={held || props.busy} onClick={() => props.onPlaceOf(same.document)}>
              File that here too
            </LinkButton>{" "}
            <LinkButton disabled={held} onClick={props.onPutAway}>
              {SAY.notARecord}
            </LinkButton>
          </div>
        ))}
        <Offers
          slip={slip}
          held={held || props.busy}
          onEdit={edit}
          onVersion={props.onVersion}
          onArrange={props.onArrange}
        />
        <h2 className="label">Filing slip</h2>
        <div className="facts">
          {slip.facts.map((fact) => (
            <FactLine
              key={fact.field}
              fact={fact}
              strokes={slip.strokes}
              focused={props.focus === fact.field}
              problem={problem?.field === fact.field ? problem.text : null}
              help={fact.editor === "party" && fact.value === null && <NewParty slip={slip} onEdit={edit} />}
              drops
              onFocus={props.onFocus}
              onEdit={edit}
            />
          ))}
          <div className="slip-tags">
            <span className={styles.quiet}>Tags</span>
            <Select
              mode="tags"
              open={false}
              variant="borderless"
              suffixIcon={null}
              aria-label="Tags"
              placeholder="none"
              tokenSeparators={[","]}
              value={slip.tags}
              onChange={(tags: string[]) => void edit({ tags })}
            />
          </div>
        </div>
      </div>
      <div className="slip-foot">
        <NameLine slip={slip} onEdit={edit} problem={problem?.field === "name" ? problem.text : null} />
        <PlaceLine
          slip={slip}
          onEdit={edit}
          problem={problem?.field === "place" || problem?.field === "area" ? problem.text : null}
        />
        <LikePlaces slip={slip} onEdit={edit} />
        <AlsoPlaces slip={slip} onEdit={edit} />
        {problem && !["name", "place", "area", ...slip.facts.map((f) => f.field)].includes(problem.field ?? "") && (
          <Problem>{problem.text}</Problem>
        )}
        <div className="slip-buttons">
          <FileIt slip={slip} disabled={props.busy || held || slip.state === "reading"} onFile={props.onFile} />
          <Button onClick={() => document.getElementById("slip-name")?.click()}>
            Edit name <kbd>F2</kbd>
          </Button>
          <Button onClick={props.onPark} disabled={held}>
            {slip.parked ? "Take up" : "Put off…"} <kbd>F8</kbd>
          </Button>
          <Button onClick={props.onPutAway} disabled={held}>
            {SAY.notARecord}
          </Button>
        </div>
      </div>
    </div>
  );
}

/** The button that files; it looks ready only where the slip is. Else it says what is still needed, and leads there. */
function FileIt(props: { slip: Slip; disabled: boolean; onFile: () => void }): ReactNode {
  const { slip, disabled, onFile } = props;
  const known = useField();
  const first = slip.facts.find((fact) => fact.question !== null)?.field ?? slip.composed.missing[0];
  const needed = slip.composed.missing.map((field) => known(field).label.toLowerCase());
  return (
    <>
      {!slip.ready && first && (
        <p className={`signal ${styles.small} needed`}>
          {needed.length
            ? `Still needed: ${needed.join(", ")}.`
            : `To be looked at: ${known(first).label.toLowerCase()}.`}{" "}
          <LinkButton onClick={() => goToFact(first)}>Go there</LinkButton>
        </p>
      )}
      <Button id="file-it" type={slip.ready ? "primary" : "default"} disabled={disabled} onClick={onFile}>
        File it <kbd>Ctrl+Enter</kbd>
      </Button>
    </>
  );
}
