import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas, type Trouble } from "../api/client";
import { keys } from "../api/keys";
import { useFolders } from "../api/queries";
import { PatternField, strokesOf } from "../parts/names/PatternField";
import { Choice } from "../ui/Choice";
import { count } from "../ui/format";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";

type Way = Schemas["WayForm"];
type Props = {
  way: Way;
  chosen: Schemas["ChosenForm"];
  wrong: Trouble | null;
  onChange: (way: Way) => void;
  onOrder: (order: "name" | "issued" | "filed") => void;
  /** What is told of what comes of it: beside the patterns, so that it is seen while one types. */
  told: ReactNode;
};

const SORTS = [
  { key: "rewrite", label: "From → to" },
  { key: "plan", label: "By the plan" },
  { key: "place", label: "Place by facts" },
] as const;

const ORDERS = [
  ["name", "name"],
  ["issued", "date issued"],
  ["filed", "when they were filed"],
] as const;

/** How new names and places come about: two patterns, the plan, or facts; quick edits write the patterns. */
export function WayPanel(props: Props): ReactNode {
  const { way, onChange } = props;
  const strokes = strokesOf(way.reads ?? "", way.prints ?? "");
  const problem = (field: string) =>
    props.wrong && props.wrong.code === "pattern" && props.wrong.field === field
      ? { text: props.wrong.message, at: props.wrong.at }
      : null;
  return (
    <>
      <Choice
        label="Way"
        of={SORTS.map((sort) => [sort.key, sort.label] as const)}
        value={way.do}
        onChange={(key) =>
          onChange({
            ...way,
            do: key,
            prints: key === "place" ? "<issued yyyy>/<issued MM>" : key === "rewrite" ? "<name>" : "",
            reads: key === "rewrite" ? "<name>" : "",
          })
        }
      />
      {way.do === "rewrite" && (
        <>
          <PatternField
            id="from"
            label="From: how the names read now"
            value={way.reads ?? ""}
            strokes={strokes}
            problem={problem("reads")}
            onChange={(reads) => onChange({ ...way, reads })}
          />
          <PatternField
            id="to"
            label="To: how they shall read"
            value={way.prints ?? ""}
            strokes={strokes}
            problem={problem("prints")}
            onChange={(prints) => onChange({ ...way, prints })}
          />
          <p className={`${styles.small} ${styles.quiet}`}>
            A slot such as <span className="mono">&lt;n digits&gt;</span> or{" "}
            <span className="mono">&lt;issued dd-MM-yyyy&gt;</span> takes what stands there; “/” is a folder, in the one
            where the document lies. What does not fit is left alone.
          </p>
          {way.prints?.includes("<count") && (
            <span className="order">
              <span className="label">Number them by</span>
              <PickOne
                size="small"
                aria-label="Number them by"
                of={ORDERS}
                value={props.chosen.order ?? "name"}
                onChange={props.onOrder}
              />
            </span>
          )}
          {props.told}
          <Replace onChange={(reads, prints) => onChange({ ...way, reads, prints })} />
          <Quick {...props} />
        </>
      )}
      {way.do === "plan" && (
        <>
          <p className={styles.small}>
            Each document gets the name that the area’s filing plan has for its kind, made from its facts. What lacks a
            fact is listed.
          </p>
          <Checkbox
            checked={way.placing ?? false}
            onChange={(event) => onChange({ ...way, placing: event.target.checked })}
          >
            Move it to the plan’s place too
          </Checkbox>
        </>
      )}
      {way.do === "place" && (
        <>
          <PatternField
            id="place"
            label="Place below the area (empty: the plan’s)"
            value={way.prints ?? ""}
            strokes={strokesOf(way.prints ?? "")}
            problem={problem("prints")}
            placeholder="the plan’s place for each kind"
            onChange={(prints) => onChange({ ...way, prints })}
          />
          <Choice
            label="Below what"
            of={[
              [false, "below the area"],
              [true, "below this folder"],
            ]}
            value={way.base != null}
            onChange={(here) => onChange({ ...way, base: here ? (props.chosen.folder ?? null) : null })}
          />
          <p className={`${styles.small} ${styles.quiet}`}>
            Names stay. <span className="mono">&lt;issued yyyy&gt;/&lt;issued MM&gt;/&lt;issued dd&gt;</span> makes a
            folder for each year, month and day.
          </p>
        </>
      )}
      {(way.do === "plan" || (way.do === "place" && !way.prints)) && <Borrow way={way} onChange={onChange} />}
      {(way.do !== "plan" || way.placing) && (
        <Checkbox
          checked={way.remove_emptied ?? false}
          onChange={(event) => onChange({ ...way, remove_emptied: event.target.checked })}
        >
          Remove folders that it empties
        </Checkbox>
      )}
      {way.do !== "rewrite" && props.told}
    </>
  );
}

/** Where an area's plan has no pattern for a kind, that of another can stand in. */
function Borrow(props: { way: Way; onChange: (way: Way) => void }): ReactNode {
  const { way, onChange } = props;
  const areas = useFolders(null).data ?? [];
  if (areas.length < 2) return null;
  return (
    <div className="order">
      <span className="label">Where a plan has no pattern</span>
      <PickOne
        size="small"
        aria-label="Where a plan has no pattern"
        none="leave the line blocked"
        of={areas.map((area) => [area.id, `use that of ${area.name}`] as const)}
        value={way.borrow ?? null}
        onChange={(borrow) => onChange({ ...way, borrow })}
        onNone={() => onChange({ ...way, borrow: null })}
      />
    </div>
  );
}

type Where = "inside" | "front" | "end";
const WHERE: [Where, string][] = [
  ["inside", "inside, or at the end"],
  ["front", "in front"],
  ["end", "at the end only"],
];

/** Replacing a text is two patterns as well. */
function Replace(props: { onChange: (reads: string, prints: string) => void }): ReactNode {
  const [old, setOld] = useState("");
  const [other, setOther] = useState("");
  const [where, setWhere] = useState<Where>("inside");
  const set = (a: string, b: string, at: Where) => {
    setOld(a);
    setOther(b);
    setWhere(at);
    const safe = (text: string) => text.replace(/[<>|?"*:\\/]/g, "");
    const before = at === "front" ? "" : "<before>";
    const after = { inside: "<after>?", front: "<after>", end: "" }[at];
    const written = (text: string) => `${before}${safe(text)}${after}`;
    if (safe(a)) props.onChange(written(a), written(b));
  };
  return (
    <div className="replace">
      <span className="label">Replace a text</span>
      <Input
        aria-label="Text to replace"
        placeholder="this"
        value={old}
        maxLength={60}
        onChange={(event) => set(event.target.value, other, where)}
      />
      <span className={styles.quiet}>→</span>
      <Input
        aria-label="Text instead"
        placeholder="that"
        value={other}
        maxLength={60}
        onChange={(event) => set(old, event.target.value, where)}
      />
      <PickOne
        aria-label="Where it stands in the name"
        of={WHERE}
        value={where}
        onChange={(next) => set(old, other, next)}
      />
    </div>
  );
}

function Quick(props: Props): ReactNode {
  const offers = useQuery({
    queryKey: keys.quick(props.chosen),
    queryFn: () => data(client.POST("/api/manifests/quick", { body: props.chosen })),
  });
  const list = offers.data?.offers ?? [];
  if (!list.length) return null;
  return (
    <div className="quick">
      <h2 className="label">
        {offers.data?.tried
          ? `Quick edits, tried on the first ${count(offers.data.tried)}`
          : "Quick edits for these names"}
      </h2>
      <ul>
        {list.map((offer) => (
          <li key={`${offer.reads} ${offer.prints}`}>
            <Button
              type="text"
              className="offer"
              aria-pressed={props.way.reads === offer.reads && props.way.prints === offer.prints}
              onClick={() => props.onChange({ ...props.way, reads: offer.reads, prints: offer.prints })}
            >
              {offer.title} <span className={styles.quiet}>{count(offer.changes)}</span>
              <span className="mono example" title={`${offer.before} → ${offer.after}`}>
                → {offer.after}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
