import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import type { ReactNode } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { day, count as figure, several } from "../ui/format";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { asked, count, type Wishes } from "./wishes";

/** The changes that are gathered, each of which can be dropped, and what they would do; then they are done as one. */
export function Pending(props: {
  told: Schemas["ReadersOut"];
  wishes: Wishes;
  busy: boolean;
  problem: string | null;
  onDrop: (principal: number) => void;
  onOpen: () => void;
  onDo: () => void;
  onLeave: () => void;
}): ReactNode {
  const { told, wishes } = props;
  const wanted = asked(wishes, { folder: told.folder, document: told.document });
  const effects = useQuery({
    queryKey: keys.effects(wanted),
    enabled: wanted.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => data(client.POST("/api/access/effects", { body: { wishes: wanted } })),
  });
  const number = count(wishes);
  if (!number)
    return (
      <div className="pending">
        <h2>Nothing to be changed</h2>
        <p className={styles.quiet}>
          Give access above, or change what was given here. Nothing is done before you say so: it gathers at this place,
          with who gains and who loses sight.
        </p>
      </div>
    );
  return (
    <div className="pending">
      <h2>Not done yet: {several(number, "change")}</h2>
      <ol>
        {wishes.restricted !== null && (
          <li>
            <span>{wishes.restricted ? `Restrict ${told.name}` : `Lift the restriction of ${told.name}`}</span>
            <Button size="small" onClick={props.onOpen}>
              Drop
            </Button>
          </li>
        )}
        {wishes.given.map((one) => (
          <li key={one.principal}>
            <span>
              {one.to ? (
                <>
                  Let <b>{one.name}</b> {one.to.level}
                  {one.to.until ? ` until ${day(one.to.until)}` : ", for always"}
                </>
              ) : (
                <>
                  Take {one.had?.level} away from <b>{one.name}</b>
                </>
              )}
              {one.word && <span className={styles.quiet}>: “{one.word}”</span>}
            </span>
            <Button size="small" onClick={() => props.onDrop(one.principal)}>
              Drop<span className={styles.hidden}> the change for {one.name}</span>
            </Button>
          </li>
        ))}
      </ol>
      {effects.isError && <Problem>{words(effects.error)}</Problem>}
      {effects.data && !effects.isError && <Told effects={effects.data} restricting={wishes.restricted === true} />}
      <div className="pending-foot">
        {props.problem && <Problem>{props.problem}</Problem>}
        <p className={`${styles.quiet} ${styles.small}`}>Done as one manifest, undone by Ctrl+Z.</p>
        <div className="acts">
          <Button type="primary" loading={props.busy} disabled={effects.isError} onClick={props.onDo}>
            {number === 1 ? "Do this change" : `Do these ${number} changes`} <kbd>Ctrl+Enter</kbd>
          </Button>
          <Button onClick={props.onLeave}>Leave it</Button>
        </div>
      </div>
    </div>
  );
}

const SHOWN = 8;

function Told(props: { effects: Schemas["EffectsOut"]; restricting: boolean }): ReactNode {
  const { gains, losses, changes, documents, own } = props.effects;
  const many = (what: Schemas["SightChange"][]) => `${figure(what.length)} ${what.length === 1 ? "person" : "people"}`;
  const people = (what: Schemas["SightChange"][], say: (one: Schemas["SightChange"]) => ReactNode) => (
    <ul>
      {what.slice(0, SHOWN).map((one) => (
        <li key={one.person.id}>
          <span>{one.person.name}</span> <span className="number">{say(one)}</span>
        </li>
      ))}
      {what.length > SHOWN && <li className={styles.quiet}>and {figure(what.length - SHOWN)} more</li>}
    </ul>
  );
  return (
    <div className="sight">
      {own && <p className="signal">You would not keep it any more, so you could not undo this.</p>}
      {gains.length > 0 && (
        <>
          <h3 className="ok">
            {many(gains)} {gains.length === 1 ? "gains" : "gain"} sight
          </h3>
          {people(gains, (one) => several(one.documents, "document"))}
        </>
      )}
      {losses.length > 0 && (
        <>
          <h3 className="bad">
            {many(losses)} {losses.length === 1 ? "loses" : "lose"} sight
          </h3>
          {people(losses, (one) => `${figure(one.documents)} of ${several(documents, "document")}`)}
        </>
      )}
      {changes.length > 0 && (
        <>
          <h3>{many(changes)} may do other things</h3>
          {people(changes, (one) => (
            <>
              {one.was} → <b>{one.now}</b>
            </>
          ))}
        </>
      )}
      {!gains.length && !losses.length && !changes.length && (
        <p className={styles.quiet}>
          {documents ? `Nobody reads more or less: ${several(documents, "document")}.` : "No documents lie there yet."}
        </p>
      )}
    </div>
  );
}
