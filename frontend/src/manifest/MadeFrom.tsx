import { Radio } from "antd";
import { type ReactNode, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { strokesOf } from "../parts/names/PatternField";
import { PatternText } from "../parts/names/SlotText";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";
import { type Chosen, planningLike, type Way } from "./chosen";

type Manifest = Schemas["ManifestOut"];

/** What a manifest was made from: where, and by which patterns. */
export function Made(props: { manifest: Manifest }): ReactNode {
  const { way, where, chosen } = props.manifest;
  if (!way) return null;
  const strokes = strokesOf(way.reads ?? "", way.prints ?? "");
  return (
    <section className="made">
      {where && (
        <p className={styles.small}>
          <span className={styles.quiet}>in </span>
          {where}
          {chosen?.below ? <span className={styles.quiet}> with all below</span> : null}
        </p>
      )}
      {way.do === "rewrite" ? (
        <>
          <h2 className="label">From</h2>
          <div className="drawn box">
            <PatternText pattern={way.reads ?? ""} strokes={strokes} />
          </div>
          <h2 className="label">To</h2>
          <div className="drawn box">
            <PatternText pattern={way.prints ?? ""} strokes={strokes} />
          </div>
        </>
      ) : (
        <p className={styles.small}>
          {way.do === "plan"
            ? `Named by the filing plan${way.placing ? ", and moved to its places" : ""}${way.borrow ? ", with another area’s patterns where its own has none" : ""}.`
            : way.do === "rules"
              ? way.rules
                ? "Named, placed and tagged by a text of filing rules, as it was then."
                : "Named, placed and tagged by the running filing rules that are asked by hand."
              : "Placed by "}
          {way.do === "place" &&
            (way.prints ? <PatternText pattern={way.prints} strokes={strokes} /> : "the filing plan")}
        </p>
      )}
      {chosen && <LikeIt chosen={chosen} way={way} />}
    </section>
  );
}

/** Begins a new plan from this one: with a pattern that is mended, or for what came since. */
function LikeIt(props: { chosen: Chosen; way: Way }): ReactNode {
  const navigate = useNavigate();
  const begin = () => {
    const address = planningLike(props.chosen, props.way);
    if (address) void navigate(address);
  };
  if (props.chosen.search?.below || props.way.do === "merge" || props.way.do === "rules") return null;
  return <LinkButton onClick={begin}>Begin a new plan from this</LinkButton>;
}

type Taken = "stop" | "both" | "version" | "skip";

/** What a plan does with names that are taken, and with lines that fail. */
export function Choices(props: {
  manifest: Manifest;
  partial: boolean;
  onPartial: (partial: boolean) => void;
  onTaken: (taken: Taken) => Promise<void>;
}): ReactNode {
  const { manifest, onTaken } = props;
  // what one chooses is shown at once, and done when what one chose before it is done
  const [wished, setWished] = useState<Taken | null>(null);
  const latest = useRef<Taken | null>(null);
  const choose = async (value: Taken) => {
    const planning = latest.current !== null;
    latest.current = value;
    setWished(value);
    if (planning) return;
    let did: Taken | null = null;
    while (latest.current && latest.current !== did) {
      did = latest.current;
      await onTaken(did);
    }
    latest.current = null;
    setWished(null);
  };
  return (
    <>
      <fieldset className="choice" disabled={manifest.tried}>
        <legend className="label">When a name is taken</legend>
        {(
          [
            ["stop", "show the line as blocked"],
            ["both", "keep both, with a mark ~2"],
            ["version", "make it a new version of the one there"],
            ["skip", "leave that line out"],
          ] as const
        ).map(([value, label]) => (
          <Radio
            key={value}
            name="taken"
            checked={(wished ?? manifest.taken) === value}
            onChange={() => void choose(value)}
          >
            {label}
          </Radio>
        ))}
        <span className={`${styles.small} ${styles.quiet}`} role="status">
          {wished !== null && "The lines are planned anew…"}
        </span>
      </fieldset>
      <fieldset className="choice">
        <legend className="label">If a line fails while it runs</legend>
        {(
          [
            [false, "nothing happens at all"],
            [true, "do the others, list the rest"],
          ] as const
        ).map(([value, label]) => (
          <Radio
            key={String(value)}
            name="partial"
            checked={props.partial === value}
            onChange={() => props.onPartial(value)}
          >
            {label}
          </Radio>
        ))}
      </fieldset>
    </>
  );
}
